import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { causesOf } from './causes';

const touch = (routeId: string, does: ChangeTouch['touch'], deliveries: string[] = [], failed: string[] = []) =>
  ({ routeId, touch: does, deliveries, failed }) as unknown as ChangeTouch;
const change = (id: string, more: Partial<ChangeView> = {}) =>
  ({
    id,
    cause: 'one',
    change: 'field-renamed',
    operation: `POST /${id}`,
    field: '/site',
    was: null,
    now: '/place',
    touch: 'harmless',
    touches: [],
    ...more,
  }) as unknown as ChangeView;

test('changes that are one cause are one entry with all that they touch', () => {
  const [one, ...others] = causesOf([
    change('a', { touches: [touch('r', 'harmless', ['d1'], ['f1'])] }),
    change('b', { touch: 'breaks', touches: [touch('r', 'breaks', ['d1', 'd2']), touch('s', 'risks')] }),
    change('c', { cause: 'another' }),
  ]);
  expect(others.map(each => each.ids)).toEqual([['c']]);
  expect(one).toMatchObject({
    id: 'b',
    ids: ['a', 'b'],
    operation: 'POST /a, POST /b',
    touch: 'breaks',
    field: '/site',
  });
  expect(one!.touches.map(each => [each.routeId, each.touch, each.deliveries, each.failed])).toEqual([
    ['r', 'breaks', ['d1', 'd2'], ['f1']],
    ['s', 'risks', [], []],
  ]);
});

const moved = (id: string, was: string, now: string) =>
  change(id, { change: 'operation-moved', operation: was, field: null, was, now });
test.each<[string, ChangeView[], Partial<ChangeView>]>([
  [
    'operations that moved, by the path that they have in common',
    [moved('a', 'GET /contacts', 'GET /people'), moved('b', 'PATCH /contacts/{id}', 'PATCH /people/{id}')],
    { operation: 'GET /contacts, PATCH /contacts/{id}', was: '/contacts', now: '/people' },
  ],
  ['a single one, with its method', [moved('a', 'GET /a', 'GET /x')], { was: 'GET /a', now: 'GET /x' }],
  [
    'fields, by the one that they stand in',
    [
      change('a', { field: '/postal/town', now: '/address/town' }),
      change('b', { field: '/postal/street', now: '/address/street' }),
    ],
    { field: '/postal', now: '/address' },
  ],
  [
    'a single field inside another, as it is',
    [
      change('a', { field: '/postal/town', now: '/address/town' }),
      change('b', { field: '/postal/town', now: '/address/town' }),
    ],
    { field: '/postal/town', now: '/address/town' },
  ],
])('what was renamed is told as %s', (_, changes, words) =>
  expect(causesOf(changes)).toEqual([expect.objectContaining(words)]),
);
