import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { causesOf } from './causes';

const touch = (routeId: string, does: ChangeTouch['touch'], deliveries: string[] = []) =>
  ({ routeId, touch: does, deliveries, failed: [] }) as unknown as ChangeTouch;
const change = (id: string, more: Partial<ChangeView> = {}) =>
  ({
    id,
    subject: 'target',
    subjectId: 't',
    change: 'field-renamed',
    operation: `POST /${id}`,
    field: '/site',
    was: '/site',
    now: '/place',
    state: 'open',
    firstAt: '2026-11-04T08:00:00.000Z',
    touch: 'harmless',
    touches: [],
    ...more,
  }) as ChangeView;

test('one edit of a field in several operations is one entry with all that it touches', () => {
  const [one, ...others] = causesOf([
    change('a', { touches: [touch('r', 'harmless', ['d1'])] }),
    change('b', { touch: 'breaks', touches: [touch('r', 'breaks', ['d1', 'd2']), touch('s', 'risks')] }),
  ]);
  expect(others).toEqual([]);
  expect(one).toMatchObject({ id: 'b', ids: ['a', 'b'], operation: 'POST /a, POST /b', touch: 'breaks' });
  expect(one!.touches.map(each => [each.routeId, each.touch, each.deliveries])).toEqual([
    ['r', 'breaks', ['d1', 'd2']],
    ['s', 'risks', []],
  ]);
});

test.each<[string, Partial<ChangeView>]>([
  ['another target', { subjectId: 'u' }],
  ['another field', { field: '/ph' }],
  ['another name', { now: '/spot' }],
  ['another day', { firstAt: '2026-11-05T08:00:00.000Z' }],
  ['one that is settled', { state: 'settled' }],
  ['a form', { subject: 'form' }],
  ['what is about no field', { field: null }],
])('%s is an entry of its own', (_, more) =>
  expect(causesOf([change('a'), change('b', more)]).map(each => each.ids)).toEqual([['a'], ['b']]),
);

test('two without a field are two', () =>
  expect(causesOf([change('a', { field: null }), change('b', { field: null })])).toHaveLength(2));

const moved = (id: string, was: string, now: string) =>
  change(id, { change: 'operation-moved', field: null, was, now });
test.each<[string, [string, string][], [string, string]]>([
  [
    'a collection',
    [
      ['GET /contacts', 'GET /people'],
      ['PATCH /contacts/{id}', 'PATCH /people/{id}'],
    ],
    ['/contacts', '/people'],
  ],
  [
    'a new base path',
    [
      ['GET /a', 'GET /v2/a'],
      ['POST /b/c', 'POST /v2/b/c'],
    ],
    ['/', '/v2'],
  ],
])('operations that moved with one path are one entry: %s', (_, moves, [was, now]) => {
  const [one, ...others] = causesOf(moves.map(([before, after], at) => moved(`m${at}`, before, after)));
  expect(others).toEqual([]);
  expect(one).toMatchObject({ ids: moves.map((_move, at) => `m${at}`), was, now });
});
test.each<[string, [string, string][]]>([
  [
    'to different paths',
    [
      ['GET /a', 'GET /x'],
      ['GET /b', 'GET /y'],
    ],
  ],
  [
    'one of them by another method',
    [
      ['GET /a', 'GET /x'],
      ['PUT /a', 'PATCH /x'],
    ],
  ],
])('what moved %s is an entry each', (_, moves) =>
  expect(causesOf(moves.map(([before, after], at) => moved(`m${at}`, before, after)))).toHaveLength(2),
);
test('a single operation that moved is told with its method', () =>
  expect(causesOf([moved('m', 'GET /a', 'GET /x')])[0]).toMatchObject({ was: 'GET /a', now: 'GET /x' }));
