/** @jest-environment ./scripts/jestBrowser.mjs */
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { OneStop } from './OneStop';

afterEach(cleanup);
const names = ['a', 'b', 'c', 'd'];
const List = ({ shown, of = names }: { shown?: string; of?: string[] }) => (
  <>
    <button>before</button>
    <OneStop>
      {of.map(each => (
        <li key={each}>
          <button aria-current={each === shown || undefined}>{each}</button>
        </li>
      ))}
    </OneStop>
    <button>after</button>
  </>
);
const focused = () => document.activeElement?.textContent;
const keys = async (...all: string[]) => {
  for (const each of all) await userEvent.keyboard(`{${each}}`);
  return focused();
};

test('is one stop, from which arrows lead on, and to which one comes back', async () => {
  render(<List />);
  await userEvent.tab();
  expect(await keys('Tab')).toBe('a');
  expect(await keys('ArrowDown', 'ArrowRight')).toBe('c');
  expect(await keys('Tab')).toBe('after');
  await userEvent.tab({ shift: true });
  expect(focused()).toBe('c');
  expect([await keys('End'), await keys('ArrowDown'), await keys('Home'), await keys('ArrowUp')]).toEqual([
    'd',
    'd',
    'a',
    'a',
  ]);
});

test('the stop is at the one that is shown, and follows it while one is elsewhere', async () => {
  const { rerender } = render(<List shown="b" />);
  screen.getByText('before').focus();
  expect(await keys('Tab')).toBe('b');
  screen.getByText('before').focus();
  rerender(<List shown="d" />);
  expect(await keys('Tab')).toBe('d');
  // While one is in it, it stays where one is.
  await keys('ArrowUp');
  rerender(<List shown="a" />);
  expect([focused(), await keys('ArrowUp')]).toEqual(['c', 'b']);
});

test('where the stop goes, another takes its place', async () => {
  const { rerender } = render(<List />);
  rerender(<List of={['x', 'y']} />);
  screen.getByText('before').focus();
  expect(await keys('Tab')).toBe('x');
});
