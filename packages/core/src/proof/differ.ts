import { canonical, valueAt, valueChanges, type Json } from '../submission';
import type { Enacted, ProofRequest } from './enact';

/** How a value that is not held to the letter is held against: any such value will do. */
export const patterns = ['time', 'date', 'uuid', 'number', 'text'] as const;
export type Pattern = (typeof patterns)[number];

/** A place whose value is not held to the letter. */
export interface Loose {
  callId: string;
  /** A JSON Pointer into the body. */
  pointer: string;
  pattern: Pattern;
}

/** One way in which a submission fares otherwise than was approved. */
export interface Difference {
  kind: 'goes' | 'held' | 'request-gone' | 'request-new' | 'address' | 'header' | 'gone' | 'new' | 'value' | 'files';
  /** Null for what is about the submission as a whole. */
  callId: string | null;
  item: string;
  /** Where in the body, as a JSON Pointer; the name of a header; empty for the rest. */
  place: string;
  was: Json;
  now: Json;
  /** The line that the value comes from; null where none does. */
  lineId: string | null;
}

const shapes: Record<Pattern, (value: Json) => boolean> = {
  time: value => typeof value === 'string' && /^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(value),
  date: value => typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value),
  uuid: value => typeof value === 'string' && /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(value),
  number: value => typeof value === 'number' || (typeof value === 'string' && /^-?\d+(\.\d+)?$/.test(value)),
  text: value => typeof value === 'string' && value.trim() !== '',
};

/** The narrowest pattern that a value has; null for one that is no text and no number. */
export const patternOf = (value: Json): Pattern | null => patterns.find(each => shapes[each](value)) ?? null;

/** What is otherwise than approved, in the order of the requests. Nothing, where all is the same. */
export function differences(approved: Enacted, now: Enacted, loose: readonly Loose[] = []): Difference[] {
  const whole = { callId: null, item: '', place: '', lineId: null };
  if (approved.goes !== now.goes) return [{ ...whole, kind: 'goes', was: approved.goes, now: now.goes }];
  const found: Difference[] = [];
  const [wasHeld, isHeld] = [approved, now].map(each => each.held.map(({ message }) => message).join(' '));
  if (wasHeld !== isHeld) found.push({ ...whole, kind: 'held', was: wasHeld!, now: isHeld! });
  const before = numbered(approved.requests);
  const after = numbered(now.requests);
  for (const [key, request] of before) {
    const other = after.get(key);
    if (other) found.push(...ofRequest(request, other, loose));
    else found.push({ ...about(request), kind: 'request-gone', was: line(request), now: null });
  }
  for (const [key, request] of after)
    if (!before.has(key)) found.push({ ...about(request), kind: 'request-new', was: null, now: line(request) });
  return found;
}

/** Requests by what they are for: the second of a kind is another one. */
function numbered(requests: readonly ProofRequest[]): Map<string, ProofRequest> {
  const all = new Map<string, ProofRequest>();
  for (const request of requests) {
    const key = `${request.callId} ${request.item} ${request.purpose}`;
    let number = 1;
    while (all.has(`${key} ${number}`)) number += 1;
    all.set(`${key} ${number}`, request);
  }
  return all;
}

const about = ({ callId, item }: ProofRequest) => ({ callId, item, place: '', lineId: null });
const line = ({ method, url }: ProofRequest) => `${method} ${url}`;

function ofRequest(was: ProofRequest, now: ProofRequest, loose: readonly Loose[]): Difference[] {
  const found: Difference[] = [];
  const add = (kind: Difference['kind'], place: string, before: Json, after: Json, lineId: string | null = null) =>
    void found.push({ ...about(was), kind, place, was: before, now: after, lineId });
  if (line(was) !== line(now)) add('address', '', line(was), line(now));
  const names = new Set([...was.headers, ...now.headers].map(([name]) => name));
  for (const name of names) {
    const [before, after] = [was, now].map(each =>
      each.headers
        .filter(([other]) => other === name)
        .map(([, value]) => value)
        .join(', '),
    );
    if (before !== after) add('header', name, before!, after!);
  }
  const own = loose.filter(each => each.callId === was.callId);
  for (const { pointer, before, after } of valueChanges(was.body, now.body)) {
    const any = own.find(each => each.pointer === pointer);
    if (any && after !== undefined && shapes[any.pattern](after)) continue;
    const kind = before === undefined ? 'new' : after === undefined ? 'gone' : 'value';
    add(kind, pointer, before ?? null, after ?? null, originOf(now, pointer) ?? originOf(was, pointer));
  }
  const files = (of: ProofRequest) => of.files.map(({ pointer, name }) => `${pointer} ${name}`).sort();
  if (canonical(files(was)) !== canonical(files(now))) add('files', '', files(was), files(now));
  return found;
}

/** The line that a place of a body comes from: that of the place, or of what it stands in. */
function originOf({ origins, body }: ProofRequest, pointer: string): string | null {
  for (let at = pointer; at !== ''; at = at.slice(0, at.lastIndexOf('/'))) {
    if (Object.hasOwn(origins, at)) return origins[at]!;
  }
  // A line that writes a whole object is told by what stands in it.
  const inside = Object.keys(origins).filter(each => each.startsWith(`${pointer}/`));
  return inside.length === 1 && valueAt(body, pointer) === undefined ? origins[inside[0]!]! : (origins[''] ?? null);
}
