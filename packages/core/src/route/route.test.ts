import fc from 'fast-check';
import {
  callName,
  identityFaults,
  newLine,
  referenceFaults,
  ROUTE_FORMAT,
  sameDefinition,
  targetsOf,
  usualTerms,
  withFields,
} from '.';
import type { Call, RouteDefinition, Segment } from '.';

const call = (id: string, more: Partial<Call> = {}): Call => ({
  id,
  targetId: 't',
  operationId: 'create',
  lines: [],
  ...more,
});
const lineFrom = (field: string, id = field) => ({ ...newLine(id, id), source: { from: 'field' as const, field } });
const route = (calls: Call[], more: Partial<RouteDefinition> = {}): RouteDefinition => ({
  format: ROUTE_FORMAT,
  name: 'R',
  condition: { all: [] },
  calls,
  terms: usualTerms,
  ...more,
});

describe('what keeps a definition from being stored', () => {
  test.each<[string, RouteDefinition, string[]]>([
    ['nothing', route([call('a'), call('b')]), []],
    ['two calls of one name', route([call('a'), call('b'), call('a')]), ['/calls/2/id']],
    [
      'two lines of one name in a call',
      route([call('a', { lines: [newLine('l', 'x'), newLine('l', 'y')] }), call('b', { lines: [newLine('l', 'x')] })]),
      ['/calls/0/lines/1/id'],
    ],
    ['another format', { ...route([call('a')]), format: 2 as never }, ['/format']],
  ])('%s', (_, definition, pointers) => {
    expect(identityFaults(definition).map(each => each.pointer)).toEqual(pointers);
  });
});

describe('what a definition refers to is there', () => {
  const asks = (params: object) => ({
    ...newLine('l', 'x'),
    source: { from: 'field' as const, field: 'phone' },
    cleaning: [{ id: 'phone.format', params: params as Record<string, unknown> }],
  });
  test.each<[string, RouteDefinition, string[]]>([
    ['answers of the form', route([call('a', { lines: [lineFrom('site'), lineFrom('@id')] })]), []],
    ['an answer of a call before', route([call('a'), call('b', { lines: [lineFrom('@answer/a/id')] })]), []],
    ['an answer of the same call', route([call('a', { lines: [lineFrom('@answer/a/id')] })]), ['/calls/0/lines/0']],
    [
      'an answer of a later call',
      route([call('b', { lines: [lineFrom('@answer/a')] }), call('a')]),
      ['/calls/0/lines/0'],
    ],
    ['an answer of a call that is gone', route([call('a', { repeat: '@answer/gone/list' })]), ['/calls/0/repeat']],
    ['an item of one that repeats', route([call('a', { repeat: 'photos', lines: [lineFrom('@item/name')] })]), []],
    ['an item of one that does not', route([call('a', { lines: [lineFrom('@itemNumber')] })]), ['/calls/0/lines/0']],
    [
      'an item in a condition',
      route([call('a', { condition: { any: [{ field: '@item', is: 'blank', values: [], not: true }] } })]),
      ['/calls/0/condition'],
    ],
    [
      'an answer in the route’s own condition',
      route([call('a')], { condition: { all: [{ field: '@answer/a/id', is: 'blank', values: [], not: true }] } }),
      ['/condition'],
    ],
    [
      'a record that is not looked for by a line',
      route([call('a', { lines: [lineFrom('@found/id')] })]),
      ['/calls/0/lines/0'],
    ],
    [
      'an answer that a cleaning step asks for',
      route([call('a', { lines: [asks({ countryFrom: '@answer/z/country' })] })]),
      ['/calls/0/lines/0'],
    ],
    [
      'an answer that a step inside a step asks for',
      route([
        call('a', {
          lines: [
            {
              ...newLine('l', 'x'),
              source: { from: 'field', field: 'phones' },
              cleaning: [
                {
                  id: 'list.each',
                  params: { steps: [{ id: 'phone.format', params: { countryFrom: '@answer/z/c' } }] },
                },
              ],
            },
          ],
        }),
      ]),
      ['/calls/0/lines/0'],
    ],
    ['a question that a cleaning step asks for', route([call('a', { lines: [asks({ countryFrom: 'country' })] })]), []],
    [
      'a text with an answer in it',
      route([
        call('a', {
          lines: [
            { ...newLine('l', 'x'), source: { from: 'text', segments: [{ text: 'No. ' }, { field: '@answer/z' }] } },
          ],
        }),
      ]),
      ['/calls/0/lines/0'],
    ],
  ])('%s', (_, definition, pointers) => {
    expect(referenceFaults(definition).map(each => each.pointer)).toEqual(pointers);
  });
});

test('the same definition is the same in whatever order its properties stand, and through JSON', () => {
  const backwards = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(backwards)
      : typeof value === 'object' && value !== null
        ? Object.fromEntries(
            Object.entries(value)
              .reverse()
              .map(([name, each]) => [name, backwards(each)]),
          )
        : value;
  fc.assert(
    fc.property(fc.array(fc.string(), { maxLength: 4 }), fc.string(), (ids, name) => {
      const one = route(
        ids.map(id => call(id, { lines: [lineFrom(name)] })),
        { name },
      );
      expect(sameDefinition(one, backwards(JSON.parse(JSON.stringify(one))) as RouteDefinition)).toBe(true);
      expect(sameDefinition(one, { ...one, name: `${name}!` })).toBe(false);
    }),
  );
});

test('targets are told once, in the order of the calls', () => {
  expect(
    targetsOf(route([call('a', { targetId: 'x' }), call('b', { targetId: 'y' }), call('c', { targetId: 'x' })])),
  ).toEqual(['x', 'y']);
});

test('fields are renamed in parts of a text too', () => {
  const of = (name: string, other: string): Segment[] => [
    { field: name },
    { part: [{ text: ' of ' }, { field: other }] },
  ];
  expect(withFields(of('a', 'b'), field => field.toUpperCase())).toEqual(of('A', 'B'));
});

test.each<[string, Partial<Call>, { label: string } | null, string]>([
  ['by people', { name: ' Tell the desk ' }, { label: 'Open a ticket' }, 'Tell the desk'],
  ['by its operation', { name: ' ' }, { label: 'Open a ticket' }, 'Open a ticket'],
  ['by what is left where that is gone', {}, null, 'create'],
])('a call is called %s', (_, more, operation, name) => expect(callName(call('a', more), operation)).toBe(name));
