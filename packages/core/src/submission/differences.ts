import { canonical, isJsonObject, type Json } from './json';
import { pointerOf } from './pointer';

/** A place at which two JSON values differ; undefined where nothing is. */
export interface ValueChange {
  /** JSON Pointer (RFC 6901). */
  pointer: string;
  before: Json | undefined;
  after: Json | undefined;
}

/** The places at which two JSON values differ: members of objects one by one, lists as a whole where they are of another length. */
export function valueChanges(before: Json | undefined, after: Json | undefined, at: string[] = []): ValueChange[] {
  if (before !== undefined && after !== undefined && canonical(before) === canonical(after)) return [];
  if (isJsonObject(before ?? null) && isJsonObject(after ?? null)) {
    const [was, now] = [before as Record<string, Json>, after as Record<string, Json>];
    return [...new Set([...Object.keys(was), ...Object.keys(now)])].flatMap(key =>
      valueChanges(own(was, key), own(now, key), [...at, key]),
    );
  }
  if (Array.isArray(before) && Array.isArray(after) && before.length === after.length)
    return before.flatMap((each, index) => valueChanges(each, after[index], [...at, String(index)]));
  return [{ pointer: pointerOf(at), before, after }];
}

const own = (object: Record<string, Json>, key: string): Json | undefined =>
  Object.hasOwn(object, key) ? object[key] : undefined;

/** One operation of a JSON Patch (RFC 6902). */
export type PatchStep = { op: 'add' | 'replace'; path: string; value: Json } | { op: 'remove'; path: string };

/** Differences as a JSON Patch (RFC 6902): what it is applied to becomes the value after. */
export const patchOf = (changes: readonly ValueChange[]): PatchStep[] =>
  changes.map(({ pointer: path, before, after }) =>
    after === undefined ? { op: 'remove', path } : { op: before === undefined ? 'add' : 'replace', path, value: after },
  );
