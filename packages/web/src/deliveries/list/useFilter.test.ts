import { asked, filterIn } from './useFilter';

const read = (address: string) => filterIn(new URLSearchParams(address));

test('an address says what is looked at, and what it can’t mean is left out', () => {
  expect(read('state=dead&route=r1&target=t1&from=2026-11-04&to=2026-11-05&arrival=a1&search=Wen Li')).toEqual({
    state: 'dead',
    route: 'r1',
    target: 't1',
    from: '2026-11-04',
    to: '2026-11-05',
    arrival: 'a1',
    search: 'Wen Li',
  });
  expect(read('state=lost&from=yesterday&to=2026-13-45')).toEqual(read(''));
});
test('only what is given is asked for', () => {
  expect(asked(read(''))).toEqual({});
  expect(asked(read('state=held&search=  '))).toEqual({ state: 'held' });
});
test.each([
  ['a day', '2026-11-04', '2026-11-04', 24],
  ['two days', '2026-11-04', '2026-11-05', 48],
  ['over the end of a month', '2026-11-30', '2026-12-01', 48],
])('%s lasts from its beginning to its end', (_, from, to, hours) => {
  const { since, until } = asked(read(`from=${from}&to=${to}`));
  expect((Date.parse(until!) - Date.parse(since!)) / 3_600_000).toBe(hours);
  expect(new Date(since!).getHours()).toBe(0);
});
