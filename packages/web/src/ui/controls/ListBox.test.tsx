/** @jest-environment ./scripts/jestBrowser.mjs */
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { itemsOf, ListBox } from './ListBox';

afterEach(cleanup);

function Panel({ first, told }: { first: string[]; told: (items: string[]) => void }) {
  const [items, setItems] = useState(first);
  return (
    <>
      <ListBox
        label="Values"
        items={items}
        onChange={next => {
          setItems(next);
          told(next);
        }}
      />
      <button onClick={() => setItems(['else'])}>If blank or invalid</button>
    </>
  );
}
const box = () => screen.getByRole('textbox', { name: 'Values' });

test('an item that holds a comma stays one item, whatever is typed behind it', async () => {
  const told = jest.fn();
  render(<Panel first={['Bern, Wabern', 'Thun']} told={told} />);
  expect([(box() as HTMLInputElement).value, told.mock.calls]).toEqual(['"Bern, Wabern", Thun', []]);
  await userEvent.type(box(), 'o');
  expect(told).toHaveBeenLastCalledWith(['Bern, Wabern', 'Thuno']);
});

test.each([
  ['a, b', ['a', 'b']],
  ['a,,b,', ['a', 'b']],
  ['"a, b", c', ['a, b', 'c']],
  ['say "a"', ['say "a"']],
  ['"say ""a"", b"', ['say "a", b']],
  ['"not closed, b', ['not closed, b']],
  ['', []],
])('%s is written for %j', (text, items) => expect(itemsOf(text)).toEqual(items));

test('a comma at the end stays as it is written', async () => {
  const told = jest.fn();
  render(<Panel first={['a']} told={told} />);
  await userEvent.type(box(), ', ');
  expect([(box() as HTMLInputElement).value, told.mock.lastCall]).toEqual(['a, ', [['a']]]);
});

test('items that come from elsewhere are shown', async () => {
  render(<Panel first={['a', 'b']} told={() => undefined} />);
  await userEvent.click(screen.getByRole('button', { name: 'If blank or invalid' }));
  expect((box() as HTMLInputElement).value).toBe('else');
});
