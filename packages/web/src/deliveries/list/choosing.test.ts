import { choose, chooseListed, none } from './choosing';

const rows = ['a', 'b', 'c', 'd', 'e'].map(id => ({ id }));
const ids = (chosen: typeof none) => [...chosen.ids].sort().join('');

test('a row is taken in, and out again', () => {
  const one = choose(none, rows, 1, null);
  expect([ids(one), ids(choose(one, rows, 1, null)), ids(choose(one, rows, 3, null))]).toEqual(['b', '', 'bd']);
});
test.each([
  [1, 3, 'bcd'],
  [3, 1, 'bcd'],
  [2, 2, 'c'],
  [0, 4, 'abcde'],
])('from row %d to row %d', (from, to, chosen) => expect(ids(choose(none, rows, to, from))).toBe(chosen));
test('a range adds to what is chosen, and takes nothing out', () => {
  const [first, second] = [choose(none, rows, 4, null), choose(none, rows, 0, null)];
  expect([ids(choose(first, rows, 1, 0)), ids(choose(second, rows, 1, 0))]).toEqual(['abe', 'ab']);
});
test('out of all that match one is taken out: what is listed stays chosen', () => {
  expect(ids(choose({ ids: new Set(), isAll: true }, rows, 2, null))).toBe('abde');
});
test('a row that is not there changes nothing', () => expect(choose(none, rows, 9, null)).toBe(none));
test('all that are listed, and none', () => {
  const all = chooseListed(none, rows);
  expect([ids(all), chooseListed(all, rows), chooseListed({ ids: new Set(), isAll: true }, rows)]).toEqual(['abcde', none, none]); // prettier-ignore
});
