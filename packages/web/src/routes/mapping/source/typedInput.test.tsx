/** @jest-environment ./scripts/jestBrowser.mjs */
import { targetField } from '@grammata/core/testing';
import type { Json } from '@grammata/core/submission';
import type { TargetField } from '@grammata/core/target';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { picked, TypedInput } from './TypedInput';

const changed = jest.fn();
function Held({ field, first }: { field: TargetField; first: Json }) {
  const [value, setValue] = useState(first);
  const change = (next: Json) => (changed(next), setValue(next));
  return <TypedInput label="Value" field={field} value={value} onChange={change} />;
}
const held = (field: TargetField, first: Json = '') => {
  changed.mockClear();
  render(<Held field={field} first={first} />);
  return userEvent.setup();
};
const last = (): unknown => changed.mock.lastCall![0];

/** What a control says below it. */
const saidOf = (box: HTMLElement): string =>
  document.getElementById(box.getAttribute('aria-describedby') ?? '')?.textContent ?? '';

const tags = targetField('tags', { type: 'choices', items: 'integer' });

test('a list of whole numbers is one of numbers; what is none is told beside it', async () => {
  const user = held(tags);
  await user.type(screen.getByLabelText('Value'), '301, 302');
  expect(last()).toEqual([301, 302]);
  await user.type(screen.getByLabelText('Value'), ', soon');
  expect(last()).toEqual([301, 302, 'soon']);
  expect(saidOf(screen.getByLabelText('Value'))).toContain('“soon” is not a whole number');
});

test('options of a list are ticked, each by its name', async () => {
  const field = targetField('tags', { type: 'choices', items: 'integer', options: ['301', '302'], optionNames: { 301: 'New', 302: 'Old' } }); // prettier-ignore
  const user = held(field, [302, 9]);
  await user.click(screen.getByLabelText('New'));
  expect(last()).toEqual([302, 9, 301]);
  await user.click(screen.getByLabelText('9 (not listed)'));
  expect(last()).toEqual([302, 301]);
});

test('any JSON is taken as JSON, other words as text, and what is broken is told', async () => {
  const user = held(targetField('rows', { type: 'json' }));
  const box = screen.getByLabelText('Value');
  await user.click(box);
  await user.paste('[{"email": "a@example.org"}]');
  expect(last()).toEqual([{ email: 'a@example.org' }]);
  await user.clear(box);
  await user.paste('[{"email": ');
  expect(saidOf(box)).toContain('Not valid JSON');
  await user.clear(box);
  await user.paste('plain words');
  expect([last(), saidOf(box)]).toEqual(['plain words', 'JSON; other words are sent as text.']);
});

test.each<[Partial<TargetField>, Json, string, Json]>([
  [{ type: 'choices', items: 'integer' }, [301], '302', [301, 302]],
  [{ type: 'choices', items: 'integer' }, [301], '301', [301]],
  [{ type: 'choices' }, '', 'Foam', ['Foam']],
  [{ type: 'integer' }, '', '7', 7],
  [{ type: 'text' }, 'old', '7', '7'],
])('what is picked from the target for %j after %j: %s', (more, before, text, value) =>
  expect(picked(targetField('x', more), before, text)).toEqual(value),
);
