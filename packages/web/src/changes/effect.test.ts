import { MOST_HELD, type ChangeTouch, type ChangeView } from '@grammata/contract';
import { effectWords, heldCount, usesWords } from './effect';

const touch = (name: string, does: ChangeTouch['touch'], deliveries = 0, held = 0): ChangeTouch => ({
  routeId: name,
  name,
  state: 'live',
  version: 1,
  touch: does,
  uses: [],
  held,
  looked: 9,
  deliveries: Array.from({ length: deliveries }, (_, at) => `${name} ${at}`),
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
  ['nothing held yet', 'open', 'breaks', [touch('A', 'breaks', 0, 4)], 'Breaks A: 4 submissions can’t be sent'],
  ['what may break', 'open', 'risks', [touch('A', 'risks', 0, 4)], 'May break A'],
  ['nothing touched', 'open', 'harmless', [touch('A', 'harmless')], 'Affects no route '],
  ['mended, not sent yet', 'settled', 'harmless', [touch('A', 'harmless', 2)], 'Resolved 2 submissions held'],
  ['done', 'settled', 'harmless', [touch('A', 'harmless')], 'Resolved '],
  ['dismissed', 'declined', 'breaks', [touch('A', 'breaks', 0, 4)], 'Dismissed '],
])('the heading says what a change does: %s', (_, state, does, touches, words) => {
  const { head, rest } = effectWords({ state, touch: does, touches });
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

test('what is counted over routes', () =>
  expect(heldCount({ touches: [touch('A', 'breaks', 2), touch('B', 'risks', 3)] })).toBe('5'));
