import { stored } from '../testing/stored';
import { trafficChange } from './traffic';

const now = Date.parse('2026-11-04T12:00:00Z');
const DAY = 86_400_000;
/** So many a day, for so many days before one. */
const daily = (count: number, days: number, until: number) =>
  Array.from({ length: count * days }, (_, at) => until - 1000 - (at * DAY) / count);

test.each<[string, number[], object | null]>([
  ['as usual', daily(3, 30, now), null],
  ['a weekend without any', daily(3, 30, now - 1.5 * DAY), null],
  ['silent for longer than ever', daily(3, 30, now - 4 * DAY), { change: 'silent', question: null, was: '2026-10-31' }],
  [
    'one that comes once a fortnight is not silent after a week',
    Array.from({ length: 24 }, (_, at) => now - 7 * DAY - at * 14 * DAY),
    null,
  ],
  [
    'far more than ever in a day',
    [...daily(90, 1, now), ...daily(3, 30, now - DAY)],
    { change: 'flood', question: null, was: 3, now: 90 },
  ],
  ['more, but not that many', [...daily(12, 1, now), ...daily(3, 30, now - DAY)], null],
  ['too few to say what is usual', daily(1, 12, now - 40 * DAY), null],
  ['too new to say', daily(20, 3, now - 5 * DAY), null],
  ['nothing', [], null],
])('%s', (_, times, expected) => expect(trafficChange(times, now)).toEqual(expected));

test('each silence is told once, and the next one again', () => {
  const { store, close } = stored();
  const seen = (was: string, at: number) => ({
    subject: 'form' as const,
    subjectId: 'f',
    what: { change: 'silent' as const, question: null, was },
    before: null,
    after: null,
    at,
  });
  const flood = (was: number, is: number) => ({
    ...seen('', 1),
    what: { change: 'flood' as const, question: null, was, now: is },
  });
  expect(store.changes.keep([seen('2026-10-31', 1)])).toHaveLength(1);
  expect(store.changes.keep([seen('2026-10-31', 2)])).toHaveLength(0);
  expect(store.changes.keep([seen('2026-11-20', 3)])).toHaveLength(1);
  expect([store.changes.keep([flood(3, 90)]).length, store.changes.keep([flood(3, 120)]).length]).toEqual([1, 0]);
  expect(store.changes.openCount()).toBe(3);
  close();
});
