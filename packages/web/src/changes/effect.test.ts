import { MOST_HELD, type ChangeTouch, type ChangeView } from '@grammata/contract';
import { effectWords, isStillListed, sendWords, stoppedOf, usesWords } from './effect';

const touch = (name: string, does: ChangeTouch['touch'], deliveries = 0, held = 0, failed = 0): ChangeTouch => ({
  routeId: name,
  name,
  state: 'live',
  version: 1,
  touch: does,
  uses: [],
  held,
  looked: 9,
  deliveries: Array.from({ length: deliveries }, (_, at) => `${name} ${at}`),
  failed: Array.from({ length: failed }, (_, at) => `${name} failed ${at}`),
  holds: false,
  holdHours: null,
  lacking: [],
  leftOut: [],
  completes: false,
  proofs: 0,
});

test.each<[string, ChangeView['state'], ChangeView['touch'], ChangeTouch[], string]>([
  ['one route, with what is held', 'open', 'breaks', [touch('A', 'breaks', 14)], 'Breaks A: 14 submissions held'],
  ['a single one', 'open', 'breaks', [touch('A', 'breaks', 1)], 'Breaks A: 1 submission held'],
  [
    'several, of which one is only touched',
    'open',
    'breaks',
    [touch('A', 'breaks', 2), touch('B', 'breaks', 3), touch('C', 'risks')],
    'Breaks 2 routes: 5 submissions held',
  ],
  [
    'more than are counted',
    'open',
    'breaks',
    [touch('A', 'breaks', MOST_HELD)],
    'Breaks A: 100 or more submissions held',
  ],
  ['what a target rejected', 'open', 'breaks', [touch('A', 'breaks', 0, 0, 1)], 'Breaks A: 1 submission failed'],
  ['both', 'open', 'breaks', [touch('A', 'breaks', 2, 0, 3)], 'Breaks A: 2 submissions held, 3 failed'],
  ['nothing held yet', 'open', 'breaks', [touch('A', 'breaks', 0, 4)], 'Breaks A: 4 submissions can’t be sent'],
  ['what may break', 'open', 'risks', [touch('A', 'risks', 0, 4)], 'May break A'],
  ['nothing touched', 'open', 'harmless', [touch('A', 'harmless')], 'Affects no route '],
  ['mended, not sent yet', 'settled', 'harmless', [touch('A', 'harmless', 2)], 'Resolved 2 submissions held'],
  ['done', 'settled', 'harmless', [touch('A', 'harmless')], 'Resolved '],
  ['dismissed', 'declined', 'breaks', [touch('A', 'breaks', 0, 4)], 'Dismissed '],
])('the heading says what a change does: %s', (_, state, does, touches, words) => {
  const { head, rest } = effectWords({ state, by: 'Rowan', subject: 'form', touch: does, touches });
  expect(`${head} ${rest}`).toBe(words);
});

const lacking = (completes: boolean): ChangeTouch => ({
  ...touch('A', 'harmless'),
  lacking: [{ id: 'd', about: 'Mira Teal' }],
  completes,
});
const NOON = Date.parse('2026-11-30T12:00:00Z');

test.each<[string, Partial<ChangeView>, boolean, string]>([
  ['held because of it', { touches: [touch('A', 'harmless', 2)] }, true, 'Resolved 2 submissions held'],
  ['gone without it, to be completed', { touches: [lacking(true)] }, true, 'Resolved 1 submission incomplete'],
  ['gone without it, for people to add', { touches: [lacking(false)] }, false, 'Resolved '],
  [
    'gone without it, and dismissed',
    { state: 'declined', touches: [lacking(true)] },
    false,
    'Dismissed 1 submission incomplete',
  ],
  ['nothing, and withdrawn an hour ago', { by: 'itself', settledAt: '2026-11-30T11:00:00Z' }, true, 'Withdrawn '],
  [
    'gone without what was not there, and withdrawn days ago',
    { by: 'itself', settledAt: '2026-11-20T11:00:00Z', touches: [lacking(true)] },
    false,
    'Withdrawn ',
  ],
  ['nothing, and withdrawn days ago', { by: 'itself', settledAt: '2026-11-20T11:00:00Z' }, false, 'Withdrawn '],
  ['nothing', {}, false, 'Resolved '],
])('what is over stays listed while there is something to do or to hear: %s', (_, more, isListed, words) => {
  const change = {
    state: 'settled',
    by: 'Rowan',
    subject: 'form',
    touch: 'harmless',
    touches: [],
    settledAt: null,
    ...more,
  };
  expect(isStillListed(change as unknown as ChangeView, NOON)).toBe(isListed);
  const { head, rest } = effectWords(change as unknown as ChangeView);
  expect(`${head} ${rest}`).toBe(words);
});

test('where a route uses what changed: fields once each, and what is no line', () =>
  expect(
    usesWords([
      { callId: 'a', lineId: 'l', what: 'line', to: 'site' },
      { callId: 'b', lineId: 'm', what: 'line', to: 'site' },
      { callId: null, lineId: null, what: 'condition', to: null },
      { callId: 'a', lineId: null, what: 'line', to: null },
    ]),
  ).toBe('site, condition, the call'));

test.each<[string, ChangeTouch[], number, string]>([
  ['held', [touch('A', 'breaks', 2), touch('B', 'risks', 3)], 5, 'Send what was held (5)'],
  ['failed', [touch('A', 'breaks', 0, 0, 2)], 2, 'Send what failed (2)'],
  [
    'both, over routes',
    [touch('A', 'breaks', 1), touch('B', 'breaks', 0, 0, 2)],
    3,
    'Send what was held or failed (3)',
  ],
  [
    'one of two changes that are one cause',
    [touch('A', 'breaks', 1), touch('A', 'breaks', 1)],
    1,
    'Send what was held (1)',
  ],
])('what is sent again: %s', (_, touches, many, words) => {
  expect(stoppedOf({ touches })).toHaveLength(many);
  expect(sendWords({ touches })).toBe(words);
});
