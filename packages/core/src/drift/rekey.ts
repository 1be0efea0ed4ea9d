import { testsOf } from '../condition';
import { keysOf, type Call, type RouteDefinition } from '../route';
import { questionKey } from '../scope';
import type { Json } from '../submission';

/** Names of members that hold the key of a question: of sources, tests, list entries and calls. */
const members = new Set(['field', 'each', 'repeat', 'question', 'countryFrom']);

/** The same definition with one question in the place of another, wherever it is referred to. */
export function rekeyed(definition: RouteDefinition, was: string, now: string): RouteDefinition {
  const [from, to] = [questionKey(was), questionKey(now)];
  const walk = (value: Json, name = ''): Json => {
    if (typeof value === 'string') return value === from && members.has(name) ? to : value;
    if (Array.isArray(value))
      return value.map(each => (name === 'fields' && each === from ? to : walk(each, name === 'fields' ? '' : name)));
    // What a constant holds is somebody's own, whatever its members are called.
    if (typeof value !== 'object' || value === null || value.from === 'constant') return value;
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, walk(each, key)]));
  };
  return walk(definition as unknown as Json) as unknown as RouteDefinition;
}

/** Where a definition uses a question. */
export interface Use {
  /** Null for the route's own condition. */
  callId: string | null;
  /** Null for a condition, and for what a call repeats. */
  lineId: string | null;
  what: 'line' | 'look-up' | 'condition' | 'repeat';
}

/** Every place in which a definition uses a question. */
export function usesOf({ condition, calls }: Pick<RouteDefinition, 'condition' | 'calls'>, question: string): Use[] {
  const key = questionKey(question);
  const tells = (of: Call['condition'] | RouteDefinition['condition']) =>
    of !== null && of !== undefined && testsOf(of).some(test => test.field === key);
  return [
    ...(tells(condition) ? [{ callId: null, lineId: null, what: 'condition' as const }] : []),
    ...calls.flatMap((call): Use[] => [
      ...(tells(call.condition) ? [{ callId: call.id, lineId: null, what: 'condition' as const }] : []),
      ...(call.repeat === key ? [{ callId: call.id, lineId: null, what: 'repeat' as const }] : []),
      ...(call.find ? [call.find.line, ...(call.find.lines ?? [])] : [])
        .filter(line => keysOf(line).includes(key))
        .map(line => ({ callId: call.id, lineId: line.id, what: 'look-up' as const })),
      ...call.lines
        .filter(line => keysOf(line).includes(key))
        .map(line => ({ callId: call.id, lineId: line.id, what: 'line' as const })),
    ]),
  ];
}
