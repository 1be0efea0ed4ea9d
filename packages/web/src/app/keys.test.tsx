/** @jest-environment ./scripts/jestBrowser.mjs */
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Keys, useBoundKeys, useKeys, useLetters, type KeyBinding } from './keys';

const heard: string[] = [];
const binding = (key: string, does: string, more: Partial<KeyBinding> = {}): KeyBinding => ({
  key,
  does,
  run: () => heard.push(does),
  ...more,
});

function Place({ bindings }: { bindings: KeyBinding[] }) {
  useKeys(bindings);
  const letters = useLetters();
  return (
    <>
      <button onClick={() => heard.push('pressed')}>a button</button>
      <a href="#there">a link</a>
      <input aria-label="typed" />
      <input aria-label="ticked" type="checkbox" />
      <textarea aria-label="lines" />
      <button onClick={() => letters.set(!letters.on)}>switch</button>
      <ul>
        {useBoundKeys().map(each => (
          <li key={each.key + each.does}>{each.does}</li>
        ))}
      </ul>
    </>
  );
}

const shown = (...bindings: KeyBinding[]) =>
  render(
    <Keys>
      <Place bindings={bindings} />
    </Keys>,
  );
const user = userEvent.setup();

beforeEach(() => {
  heard.length = 0;
  localStorage.clear();
});
afterEach(cleanup);

test('a key does what the place binds it to, and is listed', async () => {
  shown(binding('j', 'next'), binding('Enter', 'open'));
  await user.keyboard('j{Enter}');
  expect(heard).toEqual(['next', 'open']);
  expect(screen.getAllByRole('listitem').map(each => each.textContent)).toEqual(['next', 'open']);
});
test('Enter on a button or a link is theirs', async () => {
  shown(binding('Enter', 'open'), binding('j', 'next'));
  screen.getByRole('button', { name: 'a button' }).focus();
  await user.keyboard('{Enter}j');
  screen.getByRole('link').focus();
  await user.keyboard('{Enter}j');
  expect(heard).toEqual(['pressed', 'next', 'next']);
});
test('letters that are typed are letters; a checkbox is no typing', async () => {
  shown(binding('j', 'next'));
  await user.type(screen.getByLabelText('typed'), 'j');
  await user.type(screen.getByLabelText('lines'), 'j');
  expect(heard).toEqual([]);
  await user.click(screen.getByLabelText('ticked'));
  await user.keyboard('j');
  expect(heard).toEqual(['next']);
});
test('with Ctrl, Alt or Meta a letter is the browser’s; in a dialog it is the dialog’s', async () => {
  shown(binding('j', 'next'));
  for (const held of ['Control', 'Alt', 'Meta']) await user.keyboard(`{${held}>}j{/${held}}`);
  expect(heard).toEqual([]);
  const dialog = document.body.appendChild(document.createElement('div'));
  dialog.setAttribute('role', 'dialog');
  await user.keyboard('j');
  expect(heard).toEqual([]);
  dialog.remove();
  await user.keyboard('j');
  expect(heard).toEqual(['next']);
});
test('single keys can be switched off, and stay off; longer ones still work', async () => {
  const { unmount } = shown(binding('j', 'next'), binding('Escape', 'close'));
  await user.click(screen.getByRole('button', { name: 'switch' }));
  await user.keyboard('j{Escape}');
  expect(heard).toEqual(['close']);
  unmount();
  shown(binding('j', 'next'));
  await user.keyboard('j');
  expect(heard).toEqual(['close']);
  await user.click(screen.getByRole('button', { name: 'switch' }));
  await user.keyboard('j');
  expect(heard).toEqual(['close', 'next']);
});
test('what is urgent goes before what the place binds; what is not shown any more does nothing', async () => {
  const { rerender } = render(
    <Keys>
      <Place bindings={[binding('d', 'of the place')]} />
      <Urgent />
    </Keys>,
  );
  await user.keyboard('d');
  rerender(
    <Keys>
      <Place bindings={[binding('d', 'of the place')]} />
    </Keys>,
  );
  await user.keyboard('d');
  expect(heard).toEqual(['urgent', 'of the place']);
});

function Urgent() {
  useKeys([binding('d', 'urgent', { urgent: true })]);
  return null;
}
