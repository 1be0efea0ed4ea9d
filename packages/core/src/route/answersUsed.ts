import { referenceOf } from '../scope';
import type { Call } from './call';
import type { RouteDefinition } from './definition';
import { keysOf, referencesIn } from './faults';

/**
 * What a route counts on in the answers of a target, by the identifiers of its operations: JSON Pointers (RFC 6901). What is picked out of
 * lists counts up to the list.
 */
export function answersUsed({ calls }: Pick<RouteDefinition, 'calls'>, targetId: string): Map<string, string[]> {
  const used = new Map<string, Set<string>>();
  const add = (operationId: string, pointer: string | undefined) => {
    const place = (pointer ?? '').replace(/\/@.*$/s, '');
    if (place !== '') used.set(operationId, (used.get(operationId) ?? new Set()).add(place));
  };
  const references = calls.flatMap(call => referencesIn(call).map(each => referenceOf(each.key)));
  for (const { id, targetId: to, operationId, identity, readBack, find } of calls) {
    if (to !== targetId) continue;
    add(operationId, identity?.made);
    add(operationId, readBack?.from);
    if (find) add(find.operationId, find.list);
    for (const each of references) if (each.to === 'answer' && each.callId === id) add(operationId, each.pointer);
  }
  return new Map([...used].map(([operationId, places]) => [operationId, [...places]]));
}

/** The calls whose response, or record, a call's requests are made with; of its look-up alone where that is asked for. */
export function callsAsked(call: Call, isLookUp: boolean): { callId: string; isRecord: boolean }[] {
  const { find } = call;
  const lines = isLookUp && find ? [find.line, ...(find.lines ?? [])] : call.lines;
  return [...lines.flatMap(keysOf), ...(call.repeat ? [call.repeat] : [])].flatMap(key => {
    const reference = referenceOf(key);
    return reference.to === 'answer' || reference.to === 'identity'
      ? [{ callId: reference.callId, isRecord: reference.to === 'identity' }]
      : [];
  });
}
