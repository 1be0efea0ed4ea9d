import fc from 'fast-check';
import { routes } from '../testing';
import { differencesOf, newLine, ROUTE_FORMAT, sameDefinition, usualTerms, type Call, type RouteDefinition } from '.';

const call = (id: string, lines = ['site', 'note'], more: Partial<Call> = {}): Call => ({
  id,
  targetId: 't',
  operationId: 'o',
  lines: lines.map(each => newLine(each, each)),
  ...more,
});
const route = (more: Partial<RouteDefinition> = {}): RouteDefinition => ({
  format: ROUTE_FORMAT,
  name: 'R',
  condition: { all: [] },
  calls: [call('a'), call('b')],
  terms: usualTerms,
  ...more,
});
/** In short: what differs, where, and which parts. */
const inShort = (before: RouteDefinition, after: RouteDefinition) =>
  differencesOf(before, after).map(each =>
    [
      each.what,
      ...('callId' in each ? [each.callId] : []),
      ...('lineId' in each ? [each.lineId] : []),
      ...('parts' in each ? each.parts : []),
      ...(each.before === null ? ['new'] : each.after === null ? ['gone'] : []),
    ].join(' '),
  );
const withLine = (change: object) => {
  const [first, ...others] = call('a').lines;
  return route({ calls: [{ ...call('a'), lines: [{ ...first!, ...change }, ...others] }, call('b')] });
};

test.each<[string, RouteDefinition, string[]]>([
  ['nothing', route(), []],
  ['its name', route({ name: 'S' }), ['name']],
  ['who goes', route({ condition: { any: [] } }), ['condition']],
  ['for how long it is tried', route({ terms: { ...usualTerms, hours: 3 } }), ['terms']],
  ['the order of its calls', route({ calls: [call('b'), call('a')] }), ['order']],
  ['a call more', route({ calls: [call('a'), call('n'), call('b')] }), ['call n new']],
  ['a call fewer', route({ calls: [call('b')] }), ['call a gone']],
  ['a line more', route({ calls: [call('a', ['site', 'ph', 'note']), call('b')] }), ['line a ph new']],
  ['a line fewer', route({ calls: [call('a', ['site']), call('b')] }), ['line a note gone']],
  ['where a line comes from', withLine({ source: { from: 'field', field: 'q' } }), ['line a site source']],
  ['several parts of one', withLine({ whenBlank: 'stop', fallback: 'x' }), ['line a site whenBlank fallback']],
  [
    'how a call is made',
    route({ calls: [call('a', undefined, { repeat: 'photos', whenFailed: 'passOver' }), call('b')] }),
    ['settings a repeat whenFailed'],
  ],
  [
    'what is said though it is as usual',
    route({ calls: [call('a', undefined, { repeat: null, whenFailed: 'stop' }), call('b')] }),
    [],
  ],
])('%s', (_, after, told) => expect(inShort(route(), after)).toEqual(told));

test('what is gone stands behind what it followed', () => {
  const before = route({ calls: [call('a', ['one', 'two', 'three', 'four'])] });
  const after = route({ calls: [call('a', ['new', 'one', 'four'])] });
  expect(inShort(before, after)).toEqual(['line a new new', 'line a two gone', 'line a three gone']);
});

test('there is no difference if and only if both do the same; and both ways round as many are told', () => {
  const definitions = routes.map(calls => route({ calls }));
  fc.assert(
    fc.property(definitions, definitions, (a, b) => {
      expect(differencesOf(a, a)).toEqual([]);
      if (sameDefinition(a, b)) expect(differencesOf(a, b)).toEqual([]);
      else expect(differencesOf(a, b).length).toBeGreaterThan(0);
      expect(differencesOf(a, b)).toHaveLength(differencesOf(b, a).length);
    }),
  );
});
