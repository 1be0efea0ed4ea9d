import type { Operation } from '../operation';

/** An operation as people set it, in place of what the source says or beside it. It stays when the source is read again. */
export interface OwnOperation {
  id: string;
  /** Null where people took it away. */
  operation: Operation | null;
  /** What the source says of it; null where it says nothing. */
  was: Operation | null;
}

/** What a target offers: what was read of it, as far as people did not set it otherwise, and what they added. */
export function offered(read: readonly Operation[], own: readonly OwnOperation[]): Operation[] {
  const set = new Map(own.map(each => [each.id, each]));
  const ids = new Set(read.map(each => each.id));
  return [
    ...read.flatMap(each => {
      const of = set.get(each.id);
      return of ? (of.operation ?? []) : each;
    }),
    ...own.flatMap(each => (ids.has(each.id) ? [] : (each.operation ?? []))),
  ];
}

/** What people set, with what the source says now. */
export const withSource = (own: readonly OwnOperation[], read: readonly Operation[]): OwnOperation[] => {
  const byId = new Map(read.map(each => [each.id, each]));
  return own
    .map(each => ({ ...each, was: byId.get(each.id) ?? null }))
    .filter(each => each.operation !== null || each.was !== null);
};

/** What the source says, out of what is offered and what people set. */
export const sourceOf = (operations: readonly Operation[], own: readonly OwnOperation[]): Operation[] => {
  const set = new Map(own.map(each => [each.id, each]));
  const kept = operations.flatMap(each => {
    const of = set.get(each.id);
    return of ? (of.was ?? []) : each;
  });
  return [...kept, ...own.flatMap(each => (each.operation === null && each.was ? each.was : []))];
};

/** How alike two operations have to be for one to be the other in another place. */
const ALIKE = 0.7;

/**
 * What was read, with the identifiers that calls know: where an operation is gone and one that is like it stands in another
 * place, it moved, and keeps the identifier that it had. Where two could be meant, none is.
 */
export function withEarlierIds(before: readonly Operation[], read: readonly Operation[]): Operation[] {
  const now = new Set(read.map(each => each.id));
  const then = new Set(before.map(each => each.id));
  const gone = before.filter(each => !now.has(each.id));
  const fresh = read.filter(each => !then.has(each.id));
  if (gone.length === 0 || fresh.length === 0) return [...read];
  const ids = new Map<string, string>();
  for (const each of fresh) {
    const from = gone.filter(other => isMoved(other, each));
    const [only] = from;
    if (from.length === 1 && fresh.filter(other => isMoved(only!, other)).length === 1) ids.set(each.id, only!.id);
  }
  return read.map(each => ({ ...each, id: ids.get(each.id) ?? each.id }));
}

/** True for the same thing to do at another place: the same method, nearly the same fields, and words of the path in common. */
function isMoved(from: Operation, to: Operation): boolean {
  if (from.method !== to.method) return false;
  const fields = alike(
    from.fields.map(each => `${each.in ?? 'body'} ${each.pointer}`),
    to.fields.map(each => `${each.in ?? 'body'} ${each.pointer}`),
  );
  return fields >= ALIKE && (from.label === to.label || alike(wordsOf(from.path), wordsOf(to.path)) >= 0.5);
}

/** The words of a path that are no version and no place for a value. */
const wordsOf = (path: string): string[] =>
  path.split('/').filter(part => part !== '' && !/^(v\d+(\.\d+)*|api|\{.*\})$/i.test(part));

/** Share of what both have among what either has; 1 for two that have nothing. */
function alike(a: readonly string[], b: readonly string[]): number {
  const [one, other] = [new Set(a), new Set(b)];
  const all = new Set([...one, ...other]).size;
  return all === 0 ? 1 : [...one].filter(each => other.has(each)).length / all;
}
