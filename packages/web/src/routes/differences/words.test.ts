import {
  differencesOf,
  newLine,
  ROUTE_FORMAT,
  usualTerms,
  type Call,
  type RouteDefinition,
} from '@grammata/core/route';
import { differenceWords } from './words';

const line = { ...newLine('l', 'site'), source: { from: 'field' as const, field: 'q1' } };
const call: Call = { id: 'c', targetId: 't', operationId: 'add', lines: [line] };
const route = (more: Partial<RouteDefinition> = {}): RouteDefinition => ({
  format: ROUTE_FORMAT,
  name: 'Reports',
  condition: { all: [] },
  terms: usualTerms,
  calls: [call],
  ...more,
});
const withLine = (more: object) => route({ calls: [{ ...call, lines: [{ ...line, ...more }] }] });
const names = { labelOf: (key: string) => ({ q1: 'Which site?' })[key] ?? key, callOf: () => 'Add a record' };
const told = (after: RouteDefinition) => differencesOf(route(), after).map(each => differenceWords(each, names));

test.each<[string, RouteDefinition, [where: string, before: string | null, after: string | null]]>([
  ['its name', route({ name: 'Visits' }), ['Name', 'Reports', 'Visits']],
  [
    'who goes',
    route({ condition: { all: [{ field: 'q1', is: 'equals', values: ['AB-07'], not: false }] } }),
    ['Filter', 'always', 'Which site? is AB-07'],
  ],
  [
    'for how long it is tried',
    route({ terms: { ...usualTerms, hours: 0 } }),
    ['Delivery', 'retries for 24 hours · Europe/London', 'no retries · Europe/London'],
  ],
  ['where a line comes from', withLine({ source: null }), ['site', 'Which site?', 'no source']],
  ['what becomes of blanks', withLine({ whenBlank: 'stop' }), ['site', 'Which site?', 'Which site?, held if blank']],
  [
    'how it is cleaned',
    withLine({ cleaning: [{ id: 'text.case', params: { to: 'upper' } }] }),
    ['site', 'Which site?', expect.stringMatching(/^Which site\?, ./) as unknown as string],
  ],
  ['a line that is gone', route({ calls: [{ ...call, lines: [] }] }), ['site', 'Which site?', null]],
])('%s', (_, after, [where, before, then]) =>
  expect(told(after)).toEqual([{ key: expect.any(String), where, before, after: then }]),
);

test('what is the same is not told', () => expect(told(route())).toEqual([]));
