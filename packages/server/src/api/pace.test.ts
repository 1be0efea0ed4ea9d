import type { Services } from '../services';
import { paceView, spreadOf } from './pace';

const DAY = 86_400_000;
const MONDAY = Date.parse('2026-11-30T00:00:00Z');
const at = MONDAY + 10 * 3_600_000;

afterEach(() => void jest.restoreAllMocks());

test.each<[number[], ReturnType<typeof spreadOf>]>([
  [[], null],
  [[40], { count: 1, median: 40, p95: 40 }],
  // Nearest rank: the smallest that at least so many do not exceed.
  [[15, 20, 35, 40, 50], { count: 5, median: 35, p95: 50 }],
  [Array.from({ length: 100 }, (_, each) => 100 - each), { count: 100, median: 50, p95: 95 }],
  // A clock that was set back while it was sent.
  [[-3000, 10], { count: 2, median: 0, p95: 10 }],
])('median and 95th percentile of %j', (durations, spread) => expect(spreadOf(durations)).toEqual(spread));

/** Intakes with so many messages a day at noon and at eight, and routes with how long theirs took. */
function storeOf({ since, silent }: { since: number; silent: boolean }) {
  const asked: [number, number][] = [];
  const store = {
    routes: {
      all: () => [
        { id: 'r', state: 'live', draft: { name: 'Sampling report to Register' } },
        { id: 'd', state: 'draft', draft: { name: 'Worrying signs' } },
      ],
    },
    deliveries: { durations: (_: string, from: number) => (from === MONDAY ? [900] : from === 0 ? [20, 40] : null) },
    intakes: {
      all: () => [
        { id: 'i', state: 'open', name: 'Field team forms' },
        { id: 'c', state: 'closed', name: 'Old forms' },
      ],
    },
    arrivals: {
      firstAt: () => since,
      countBetween: (_: string, from: number, before: number) => {
        asked.push([from, before]);
        // One at eight, one at noon; none on the Monday two weeks before.
        return from === MONDAY - 14 * DAY ? 0 : [8, 12].filter(hour => from + hour * 3_600_000 < before).length;
      },
    },
    forms: { heads: () => [{ form: { id: 'f', intakeId: 'i' } }] },
    changes: { openOf: () => (silent ? [{ what: { change: 'silent', was: '2026-11-21' }, firstAt: at }] : []) },
  };
  return { asked, services: { store } as unknown as Services };
}

test('today is held against the same weekday up to the same time; what listens or is live is told, nothing else', () => {
  jest.spyOn(Date, 'now').mockReturnValue(at);
  const { asked, services } = storeOf({ since: MONDAY - 40 * DAY, silent: true });
  expect(paceView(services)).toEqual({
    routes: [
      {
        routeId: 'r',
        name: 'Sampling report to Register',
        today: { count: 1, median: 900, p95: 900 },
        usual: { count: 2, median: 20, p95: 40 },
      },
    ],
    intakes: [
      { intakeId: 'i', name: 'Field team forms', today: 2, usual: { least: 0, most: 1 }, silentSince: '2026-11-21' },
    ],
  });
  expect(asked.filter(([from]) => from !== MONDAY).map(([from, before]) => [from % (7 * DAY), before - from])).toEqual(
    Array.from({ length: 4 }, () => [MONDAY % (7 * DAY), at - MONDAY]),
  );
});

test.each([
  ['of two weeks says nothing of what is usual', MONDAY - 15 * DAY, null],
  ['of three weeks does', MONDAY - 22 * DAY, { least: 0, most: 1 }],
])('an intake %s', (_, since, usual) => {
  jest.spyOn(Date, 'now').mockReturnValue(at);
  const { services } = storeOf({ since, silent: false });
  expect(paceView(services).intakes[0]).toMatchObject({ usual, silentSince: null });
});
