import type { DeskView } from '@grammata/contract';
import { attentionOf, headingOf } from './attention';
import { isNew, isPassed, reachOf, stepAt, steps, type Progress } from './guide/steps';
import { flaggedFirst, intakeFlag, latencyFlag, latencyTicks, took } from './flags';
import { topOf } from './scale';

const route = (state: 'draft' | 'live' | 'paused', id = state) =>
  ({ id, name: `Route ${id}`, state }) as DeskView['routes'][number];
const calm: DeskView = {
  parked: [],
  arrivalsToday: 0,
  counts: { waiting: 0, sending: 0, delivered: 9, held: 0, dead: 0 },
  troubles: [],
  days: [],
  routes: [route('live')],
  strays: 0,
  changes: 0,
  unread: 0,
  lastUnread: null,
  storage: null,
};
const trouble = (state: 'held' | 'dead', count: number) => ({
  routeId: 'r1',
  routeName: 'Sampling report to Register',
  state,
  reason: 'site does not list “Reed Corner (AB-21)”.',
  count,
  changeId: null,
});

test('nothing needs attention where nothing is stopped, open or unfinished', () => {
  expect(attentionOf(calm)).toEqual([]);
  expect(headingOf([])).toBe('Nothing needs attention');
});

test('what stops comes first, what is unfinished last, each with the action that leads on', () => {
  const things = attentionOf({
    ...calm,
    storage: { since: '2026-11-04T08:00:00Z', message: 'The disk of the data folder is full.' },
    troubles: [trouble('held', 3), trouble('dead', 1)],
    counts: { ...calm.counts, held: 3, dead: 4 },
    parked: [{ targetId: 't1', name: 'Lab desk', until: '2026-11-04T08:00:00Z', reason: 'Status 503.' }],
    changes: 2,
    strays: 1,
    routes: [route('live'), route('draft')],
  });
  expect(things.map(each => [each.group, each.state, each.action?.words ?? null])).toEqual([
    ['Server', 'stopped', null],
    ['Deliveries', '3 held', 'Fix mapping'],
    ['Deliveries', '1 failed', 'Open delivery'],
    ['Deliveries', '3 more', 'Open deliveries'],
    ['Targets', 'paused', 'Open target'],
    ['Changes', '2 open', 'Review changes'],
    ['Intakes', '1 unknown', 'Open intakes'],
    ['Unfinished', 'draft', 'Continue'],
  ]);
  expect(headingOf(things)).toBe('8 things need attention');
  expect(headingOf(things.slice(0, 1))).toBe('1 thing needs attention');
  expect(new Set(things.map(each => each.key)).size).toBe(things.length);
});

test('what seems to come of a change leads to its repair', () => {
  const [first] = attentionOf({
    ...calm,
    troubles: [{ ...trouble('held', 3), changeId: 'c1' }],
    counts: { ...calm.counts, held: 3 },
  });
  expect(first!.action).toEqual({ words: 'Review repair', to: '/changes?change=c1' });
});

test.each<[string, number[], number]>([
  ['days that are alike', [5, 9, 12, 7], 12],
  ['one day far above the others is cut open', [5, 9, 412, 12], 12 * 1.15],
  ['two such days set the scale', [5, 400, 412, 12], 412],
  ['nothing yet', [], 4],
  ['a single day', [0, 0, 58], 58],
])('the scale of days: %s', (_, totals, top) => expect(topOf(totals)).toBeCloseTo(top));

const start: Progress = { messages: 0, hasForm: false, hasRoute: false, isLive: false };
test.each<[string, string | null, Progress, string]>([
  ['an empty installation', null, start, 'receive'],
  ['nothing is passed by that is not there yet', 'live', start, 'receive'],
  ['a message that is not read', null, { ...start, messages: 1 }, 'read'],
  ['what was read is looked at first', null, { ...start, messages: 1, hasForm: true }, 'read'],
  ['and then goes on', 'map', { ...start, messages: 1, hasForm: true }, 'map'],
  ['what is done can be opened again', 'receive', { ...start, messages: 1, hasForm: true }, 'receive'],
  ['a draft opens at its mapping', null, { ...start, messages: 1, hasForm: true, hasRoute: true }, 'map'],
  ['and goes on when asked', 'check', { ...start, messages: 1, hasForm: true, hasRoute: true }, 'check'],
  ['live', null, { messages: 3, hasForm: true, hasRoute: true, isLive: true }, 'live'],
  ['no such step', 'toString', start, 'receive'],
])('the guide: %s', (_, asked, progress, step) => {
  expect(stepAt(asked, progress)).toBe(step);
  expect(reachOf(progress)).not.toBe('toString');
});

test.each<[string, Progress, string[]]>([
  ['receive', start, []],
  ['receive', { ...start, messages: 1, hasForm: true, hasRoute: true }, ['read']],
  ['map', { ...start, messages: 1, hasForm: true, hasRoute: true }, ['receive', 'read']],
  ['live', { ...start, messages: 1, hasForm: true, hasRoute: true }, ['receive', 'read', 'map', 'check']],
  ['map', { messages: 1, hasForm: true, hasRoute: true, isLive: true }, ['receive', 'read', 'check', 'live']],
])('while %s is open, what is done is ticked and nothing else: %j', (open, progress, ticked) =>
  expect(steps.filter(each => isPassed(each, open as 'map', progress))).toEqual(ticked),
);

test('the guide opens by itself until something was live', () => {
  expect(isNew({ routes: [] })).toBe(true);
  expect(isNew({ routes: [route('draft')] })).toBe(true);
  expect(isNew({ routes: [route('draft'), route('draft', 'paused')] })).toBe(false);
  expect(isNew({ routes: [route('paused')] })).toBe(false);
});

test.each<[string, number, number, number, string | null]>([
  ['twice as long and more', 5, 14_000, 3000, '95 % in 14 s; usually 3.0 s'],
  ['as usual', 5, 3100, 3000, null],
  ['too few to say', 4, 14_000, 3000, null],
  ['so short that nobody waits', 50, 900, 20, null],
])('a route that is slow today is told: %s', (_, count, p95, usual, words) => {
  const spread = (of: number) => ({ count, median: of / 2, p95: of });
  expect(latencyFlag({ today: spread(p95), usual: spread(usual) })).toBe(words);
  expect(latencyFlag({ today: spread(p95), usual: null })).toBeNull();
});

test.each<[string, number, { least: number; most: number } | null, string | null, string | null]>([
  ['silent', 0, { least: 2, most: 3 }, '2026-11-21', 'none since 21 Nov'],
  ['heard of again', 1, { least: 2, most: 3 }, '2026-11-21', null],
  ['far more', 10, { least: 0, most: 2 }, null, '10; usually up to 2'],
  ['some more', 7, { least: 0, most: 2 }, null, null],
  ['nothing is known', 90, null, null, null],
])('an intake that is unusual is told: %s', (_, today, usual, silentSince, words) =>
  expect(intakeFlag({ today, usual, silentSince })).toBe(words),
);

test('what is told stands first, a few rows in all', () => {
  const all = Array.from({ length: 11 }, (_, at) => at);
  expect(flaggedFirst(all, at => (at === 7 ? 'slow' : null))).toEqual({ rows: [7, 0, 1, 2, 3, 4, 5, 6], more: 3 });
});

test.each([
  [[], '1 s|10 s'],
  [[4, 300], '1 ms|10 ms|0.1 s|1 s'],
  [[20, 14_000], '10 ms|0.1 s|1 s|10 s|1 min'],
  [[0, 900_000_000], '1 ms|10 ms|0.1 s|1 s|10 s|1 min|10 min|1 h|10 h|1 day|10 days'],
])('a scale of durations holds all of %j', (durations, words) =>
  expect(
    latencyTicks(durations)
      .map(each => each.words)
      .join('|'),
  ).toBe(words),
);

test.each([
  [8, '8 ms'],
  [420, '0.4 s'],
  [9949, '9.9 s'],
  [9950, '10 s'],
  [200_000, '3 min'],
])('%d ms are %s', (ms, words) => expect(took(ms)).toBe(words));
