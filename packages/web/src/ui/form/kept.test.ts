import { drawerFor, takenUp } from './kept';

/** A browser's storage, as far as it is used. */
function storage(isFull = false) {
  const items = new Map<string, string>();
  return {
    items,
    getItem: (key: string) => items.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (isFull) throw new Error('full');
      items.set(key, value);
    },
    removeItem: (key: string) => void items.delete(key),
  };
}

test('what was typed is taken up again over what is stored', () => {
  const drawer = drawerFor('intake.1', storage());
  const stored = { name: 'Field team', keepDays: 30, reply: 'ok' };
  expect(takenUp(stored, drawer)).toBeNull();
  drawer.write({ ...stored, name: 'Field teams' });
  expect(takenUp(stored, drawer)).toEqual({ ...stored, name: 'Field teams' });
  drawer.write(null);
  expect(takenUp(stored, drawer)).toBeNull();
});
test('what is stored meanwhile the same way is nothing to take up', () => {
  const drawer = drawerFor('intake.1', storage());
  drawer.write({ name: 'Field teams' });
  expect(takenUp({ name: 'Field teams' }, drawer)).toBeNull();
});
test('no secret lies in the browser, however deep it stands', () => {
  const own = storage();
  drawerFor('target.1', own).write({
    name: 'Register',
    token: 'T0P-SECRET',
    tryToken: 'T0P-SECRET',
    verification: { kind: 'header', secrets: ['T0P-SECRET'], typed: ['T0P-SECRET', ''] },
    fileAccess: { host: 'files.example.org', secret: 'T0P-SECRET' },
    list: [{ password: 'T0P-SECRET' }],
  });
  expect([...own.items.values()].join()).not.toContain('T0P-SECRET');
  expect(drawerFor('target.1', own).read()).toMatchObject({
    name: 'Register',
    verification: { kind: 'header' },
    fileAccess: { host: 'files.example.org' },
  });
});
test('what is no number does not come back as nothing', () => {
  const drawer = drawerFor('intake.1', storage());
  drawer.write({ name: 'Field teams', keepDays: NaN });
  expect(takenUp({ name: 'Field team', keepDays: 30 }, drawer)).toEqual({ name: 'Field teams', keepDays: 30 });
});
test('a browser that is full, or holds nonsense, loses nothing else', () => {
  expect(() => drawerFor('x', storage(true)).write({ name: 'a' })).not.toThrow();
  const own = storage();
  for (const nonsense of ['{', '[1]', '"a"', '3', 'null']) {
    own.items.set('grammata.typed.x', nonsense);
    expect(drawerFor('x', own).read()).toBeNull();
  }
});
test('parts of a part that were left out stay as they are stored', () => {
  const drawer = drawerFor('x', storage());
  drawer.write({ auth: { kind: 'basic', user: 'ann' } });
  expect(takenUp({ auth: { kind: 'basic', user: 'bob', password: undefined, realm: 'r' } }, drawer)).toEqual({
    auth: { kind: 'basic', user: 'ann', password: undefined, realm: 'r' },
  });
});
