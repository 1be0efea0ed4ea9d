/** @jest-environment ./scripts/jestBrowser.mjs */
import 'reflect-metadata';
import { PaceInput } from '@grammata/contract';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { IsString, Length } from 'class-validator';
import { ApiFault } from '../../api';
import { InputForm, NumberField, SecretField, TextField, useInput } from '.';
import { changedIn } from './useInput';

class Example {
  @IsString() @Length(1, 20, { message: 'Give it a name.' }) name: string = '';
  token?: string;
}

const refusal = (...errors: { field: string; message: string }[]) =>
  new ApiFault({ type: 'about:blank', title: 'Not taken.', status: 422, errors });

function Panel({ save, onCancel }: { save: (input: Example) => Promise<unknown>; onCancel?: () => void }) {
  const of = useInput({ input: Example, values: { name: 'Stored' } as Example, save, keptAs: 'example' });
  return (
    <InputForm of={of} label="Example" deed="Save" onCancel={onCancel ?? (() => undefined)}>
      <TextField<Example> name="name" label="Name" />
      <SecretField<Example> name="token" label="Token" isStored={false} />
    </InputForm>
  );
}
test('only what differs is changed: what somebody else did meanwhile stays', () => {
  const before = { name: 'A', auth: { kind: 'basic', user: 'ann' }, list: ['x'], note: 'n', token: undefined };
  expect(changedIn(before, { ...before, list: [...before.list], auth: { ...before.auth } })).toEqual({});
  expect(changedIn(before, { ...before, name: 'B', list: [], token: 's' } as never)).toEqual({
    name: 'B',
    list: [],
    token: 's',
  });
  expect(changedIn(before, { ...before, auth: { kind: 'basic', user: 'bob' } })).toEqual({
    auth: { kind: 'basic', user: 'bob' },
  });
});

function PacePanel({ save }: { save: (input: PaceInput) => Promise<unknown> }) {
  const of = useInput({ input: PaceInput, values: new PaceInput(), save });
  return (
    <InputForm of={of} label="Pace" deed="Save">
      <NumberField<PaceInput> name="concurrency" label="At once" />
      <NumberField<PaceInput> name="perSecond" label="A second" whenEmpty="null" />
    </InputForm>
  );
}

const user = userEvent.setup();
const name = () => screen.getByLabelText<HTMLInputElement>('Name');
const press = (button: string) => user.click(screen.getByRole('button', { name: button }));
const write = async (label: string, text: string) => {
  await user.clear(screen.getByLabelText(label));
  if (text) await user.type(screen.getByLabelText(label), text);
};
const kept = () => localStorage.getItem('grammata.typed.example');

beforeEach(() => localStorage.clear());
afterEach(cleanup);

test('what the class refuses is said beside its field, is not sent, and has the focus', async () => {
  const save = jest.fn().mockResolvedValue(null);
  render(<Panel save={save} />);
  await write('Name', '');
  await press('Save');
  await waitFor(() => expect(name().getAttribute('aria-invalid')).toBe('true'));
  expect(document.activeElement).toBe(name());
  expect(document.getElementById(name().getAttribute('aria-describedby')!)!.textContent).toBe('! Give it a name.');
  expect(save).not.toHaveBeenCalled();
  await write('Name', 'Better');
  await press('Save');
  await waitFor(() =>
    expect(save).toHaveBeenCalledWith(expect.objectContaining({ name: 'Better' }), { name: 'Better' }),
  );
});
test('a number that is none is refused and stays as it was typed; nothing is none only where that is allowed', async () => {
  const save = jest.fn().mockResolvedValue(null);
  render(<PacePanel save={save} />);
  await write('At once', '3o');
  await write('A second', '');
  await press('Save');
  await waitFor(() => expect(screen.getByLabelText('At once').getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByLabelText<HTMLInputElement>('At once').value).toBe('3o');
  expect(save).not.toHaveBeenCalled();
  await write('At once', '8');
  await press('Save');
  await waitFor(() =>
    expect(save).toHaveBeenCalledWith(expect.objectContaining({ concurrency: 8, perSecond: null }), expect.anything()),
  );
});
test('what the server refuses is said beside its field, or above where the form has no such field', async () => {
  const save = jest
    .fn()
    .mockRejectedValueOnce(refusal({ field: 'name', message: 'There is one already.' }))
    .mockRejectedValueOnce(refusal({ field: 'owner', message: 'Nobody owns it.' }));
  render(<Panel save={save} />);
  await press('Save');
  await screen.findByText('! There is one already.');
  expect(document.activeElement).toBe(name());
  await write('Name', 'Another');
  await press('Save');
  expect((await screen.findByRole('alert')).textContent).toContain('owner: Nobody owns it.');
});
test('a form that stays open after it was stored is kept again', async () => {
  const save = jest.fn().mockResolvedValue(null);
  const first = render(<Panel save={save} />);
  await write('Name', 'First');
  await press('Save');
  await waitFor(() => expect(save).toHaveBeenCalledTimes(1));
  await waitFor(() => expect(kept()).toBeNull());
  await write('Name', 'Second');
  first.unmount();
  render(<Panel save={save} />);
  expect(name().value).toBe('Second');
});
test('what was typed and not stored is taken up by the next page, without its secret; what is stored is not', async () => {
  const first = render(<Panel save={() => Promise.resolve()} />);
  await write('Name', 'Typed');
  await write('Token', 'T0P-SECRET');
  first.unmount();
  expect(kept()).toContain('Typed');
  expect(kept()).not.toContain('T0P-SECRET');
  const second = render(<Panel save={() => Promise.resolve()} />);
  expect(name().value).toBe('Typed');
  expect(screen.getByRole('status').textContent).toContain('restored');
  await press('Save');
  await waitFor(() => expect(kept()).toBeNull());
  second.unmount();
  render(<Panel save={() => Promise.resolve()} />);
  expect(name().value).toBe('Stored');
});
test('a save that fails keeps what was typed; cancelling puts it away', async () => {
  const onCancel = jest.fn();
  render(<Panel save={() => Promise.reject(new TypeError('no connection'))} onCancel={onCancel} />);
  await write('Name', 'Typed');
  await press('Save');
  expect((await screen.findByRole('alert')).textContent).toContain('does not answer');
  expect([name().value, kept()]).toEqual(['Typed', expect.stringContaining('Typed')]);
  await press('Cancel');
  expect([onCancel.mock.calls.length, kept()]).toEqual([1, null]);
});
