import { choose, chooseListed, chooseRange, none, type Chosen, type Row } from './choosing';

const rows = ['a', 'b', 'c', 'd', 'e'].map((id): Row => ({ id, state: 'dead' }));
const ids = (chosen: Chosen) => [...chosen.rows.keys()].sort().join('');
const all: Chosen = { rows: new Map(), isAll: true };

test('a row is taken in, and out again', () => {
  const one = choose(none, rows, rows[1]!);
  expect([ids(one), ids(choose(one, rows, rows[1]!)), ids(choose(one, rows, rows[3]!))]).toEqual(['b', '', 'bd']);
});
test('a range adds to what is chosen, and takes nothing out', () => {
  const first = choose(none, rows, rows[4]!);
  expect([ids(chooseRange(first, rows.slice(0, 2))), ids(chooseRange(first, rows.slice(3)))]).toEqual(['abe', 'de']);
});
test('out of all that match one is taken out: what is listed stays chosen', () => {
  expect([ids(choose(all, rows, rows[2]!)), choose(all, rows, rows[2]!).isAll]).toEqual(['abde', false]);
});
test('what is chosen is as it was listed then, whatever becomes of it', () => {
  const chosen = choose(none, rows, rows[0]!);
  const later = chooseRange(chosen, [{ id: 'b', state: 'held' }]);
  expect([...later.rows.values()]).toEqual([rows[0], { id: 'b', state: 'held' }]);
});
test('all that are listed, and none', () => {
  const listed = chooseListed(none, rows);
  expect([ids(listed), chooseListed(listed, rows), chooseListed(all, rows)]).toEqual(['abcde', none, none]);
});
