import { testsOf, type Condition } from '../condition';
import { questionKey, referenceOf } from '../scope';
import type { Json } from '../submission';
import type { Call } from './call';
import type { RouteDefinition } from './definition';
import { keysOf } from './faults';

/** Names of members that hold the key of a question: of sources, tests, list entries and calls. */
const members = new Set(['field', 'each', 'repeat', 'question', 'countryFrom']);

/** The same definition with other questions in the place of some, wherever these are referred to; keys as references have them. */
export function rekeyed(definition: RouteDefinition, keys: ReadonlyMap<string, string>): RouteDefinition {
  const keyOf = (key: string) => keys.get(key) ?? key;
  const walk = (value: Json, name = ''): Json => {
    if (typeof value === 'string') return members.has(name) ? keyOf(value) : value;
    if (Array.isArray(value))
      return value.map(each =>
        name === 'fields' && typeof each === 'string' ? keyOf(each) : walk(each, name === 'fields' ? '' : name),
      );
    // What a constant holds is somebody's own, whatever its members are called.
    if (typeof value !== 'object' || value === null || value.from === 'constant') return value;
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, walk(each, key)]));
  };
  return walk(definition as unknown as Json) as unknown as RouteDefinition;
}

type Parts = Pick<RouteDefinition, 'condition' | 'calls'>;

/** The keys of the questions that a definition uses, each once, in the order of its parts. */
export function questionsUsed({ condition, calls }: Parts): string[] {
  const tested = (of: Condition | null | undefined) => (of ? testsOf(of).map(test => test.field) : []);
  const keys = [
    ...tested(condition),
    ...calls.flatMap(call => [
      ...tested(call.condition),
      ...(call.repeat ? [call.repeat] : []),
      ...linesOfFind(call).flatMap(keysOf),
      ...call.lines.flatMap(keysOf),
    ]),
  ];
  return [...new Set(keys)].filter(key => referenceOf(key).to === 'question');
}

const linesOfFind = ({ find }: Call) => (find ? [find.line, ...(find.lines ?? [])] : []);

/** Where a definition uses a question. */
export interface Use {
  /** Null for the route's own condition. */
  callId: string | null;
  /** Null for a condition, and for what a call repeats. */
  lineId: string | null;
  what: 'line' | 'look-up' | 'condition' | 'repeat';
}

/** Every place in which a definition uses a question. */
export function usesOf({ condition, calls }: Parts, question: string): Use[] {
  const key = questionKey(question);
  const tells = (of: Call['condition'] | RouteDefinition['condition']) =>
    of !== null && of !== undefined && testsOf(of).some(test => test.field === key);
  return [
    ...(tells(condition) ? [{ callId: null, lineId: null, what: 'condition' as const }] : []),
    ...calls.flatMap((call): Use[] => [
      ...(tells(call.condition) ? [{ callId: call.id, lineId: null, what: 'condition' as const }] : []),
      ...(call.repeat === key ? [{ callId: call.id, lineId: null, what: 'repeat' as const }] : []),
      ...linesOfFind(call)
        .filter(line => keysOf(line).includes(key))
        .map(line => ({ callId: call.id, lineId: line.id, what: 'look-up' as const })),
      ...call.lines
        .filter(line => keysOf(line).includes(key))
        .map(line => ({ callId: call.id, lineId: line.id, what: 'line' as const })),
    ]),
  ];
}
