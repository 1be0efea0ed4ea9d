import { canonical, type Json } from '../submission';
import type { Condition } from '../condition';
import type { Call } from './call';
import type { RouteDefinition, Terms } from './definition';
import type { Line } from './line';

/** One thing in which two definitions of a route differ. What is missing on one side is null there. */
export type Difference =
  | { what: 'name'; before: string; after: string }
  | { what: 'condition'; before: Condition; after: Condition }
  | { what: 'terms'; before: Terms; after: Terms }
  /** The calls are the same, and made in another order; by their identifiers. */
  | { what: 'order'; before: string[]; after: string[] }
  | { what: 'call'; callId: string; before: Call | null; after: Call | null }
  /** How a call is made, but for its lines; `parts` are the names of what differs. */
  | { what: 'settings'; callId: string; before: Call; after: Call; parts: CallPart[] }
  | { what: 'line'; callId: string; lineId: string; before: Line | null; after: Line | null; parts: LinePart[] };

export type CallPart = Exclude<keyof Call, 'id' | 'lines'>;
export type LinePart = Exclude<keyof Line, 'id'>;

/** Parts that are left out when they are as usual: leaving them out and saying so is the same. */
const usual: Partial<Record<CallPart | LinePart, Json>> = {
  name: '',
  condition: null,
  repeat: null,
  whenFailed: 'stop',
  find: null,
  identity: null,
  readBack: null,
  retry: null,
  pages: null,
  success: null,
  writes: 'always',
  copies: false,
  declined: false,
};

const isSame = (a: unknown, b: unknown): boolean => canonical(plain(a)) === canonical(plain(b));
const plain = (value: unknown): Json => (value === undefined ? null : (JSON.parse(JSON.stringify(value)) as Json));

/** The names of the parts in which two things differ. */
function partsOf<T extends object, Part extends string & keyof T>(
  before: T,
  after: T,
  besides: readonly string[],
): Part[] {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(name => !besides.includes(name));
  const valueOf = (of: T, name: string) => of[name as Part] ?? usual[name as CallPart] ?? null;
  return names.filter(name => !isSame(valueOf(before, name), valueOf(after, name))) as Part[];
}

/**
 * In what two definitions of a route differ, in the order of the later one; what is gone stands where it was. Calls and lines are
 * told by their identifiers. Nothing where both do the same.
 */
export function differencesOf(before: RouteDefinition, after: RouteDefinition): Difference[] {
  const found: Difference[] = [];
  if (before.name !== after.name) found.push({ what: 'name', before: before.name, after: after.name });
  if (!isSame(before.condition, after.condition))
    found.push({ what: 'condition', before: before.condition, after: after.condition });
  if (!isSame(before.terms, after.terms)) found.push({ what: 'terms', before: before.terms, after: after.terms });
  const [was, is] = [before.calls, after.calls].map(calls => calls.map(each => each.id)) as [string[], string[]];
  const kept = is.filter(id => was.includes(id));
  if (
    !isSame(
      was.filter(id => kept.includes(id)),
      kept,
    )
  )
    found.push({ what: 'order', before: was, after: is });
  for (const [old, now] of pairs(before.calls, after.calls)) {
    if (!old || !now) found.push({ what: 'call', callId: (old ?? now)!.id, before: old, after: now });
    else found.push(...inCall(old, now));
  }
  return found;
}

function inCall(before: Call, after: Call): Difference[] {
  const callId = after.id;
  const parts = partsOf<Call, CallPart>(before, after, ['id', 'lines']);
  return [
    ...(parts.length > 0 ? [{ what: 'settings' as const, callId, before, after, parts }] : []),
    ...pairs(before.lines, after.lines).flatMap(([old, now]): Difference[] => {
      const lineId = (old ?? now)!.id;
      if (!old || !now) return [{ what: 'line', callId, lineId, before: old, after: now, parts: [] }];
      const changed = partsOf<Line, LinePart>(old, now, ['id']);
      return changed.length > 0 ? [{ what: 'line', callId, lineId, before: old, after: now, parts: changed }] : [];
    }),
  ];
}

/** What has the same identifier on both sides, in the order of the later one; what is gone stands behind what it followed. */
function pairs<T extends { id: string }>(before: readonly T[], after: readonly T[]): [T | null, T | null][] {
  const old = new Map(before.map(each => [each.id, each]));
  const now = new Set(after.map(each => each.id));
  const all = after.map((each): [T | null, T | null] => [old.get(each.id) ?? null, each]);
  before.forEach((each, at) => {
    if (now.has(each.id)) return;
    const follows = before[at - 1]?.id;
    const place = all.findIndex(([was, is]) => (is ?? was)!.id === follows);
    all.splice(place + 1, 0, [each, null]);
  });
  return all;
}
