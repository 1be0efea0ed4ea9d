import type { Json, JsonObject } from '../../submission';
import { readsAsTime } from '../names';

/** Sorts of values as bits: those a place of a shape may hold are kept in one number. */
export const sorts = {
  blank: 1,
  boolean: 2,
  number: 4,
  /** One word, as identifiers of options are. */
  token: 8,
  text: 16,
  /** A list of scalars. */
  list: 32,
  /** Objects, and lists of anything but scalars. */
  structured: 64,
  /** Text that may hold a document of its own: what is in it is never known before it was looked at. */
  opening: 128,
  /** What tells a time: which of several is the submission's depends on it. */
  time: 256,
} as const;

const token = /^[a-z\d_.:-]{1,40}$/;

/** Levels of a structured value that are looked at. */
const DEEPEST = 20;

/** The sort that a value is of, one of `sorts`. */
export function sortOf(value: Json, depth = DEEPEST): number {
  switch (typeof value) {
    case 'string':
      return sortOfText(value);
    case 'number':
      return sorts.number;
    case 'boolean':
      return sorts.boolean;
    default:
      return value === null ? sorts.blank : sortOfInner(value, depth);
  }
}

/** The same for what stands beside the answers: times count as times. */
export const sortOfMeta = (value: Json): number => (readsAsTime(value) ? sorts.time : sortOf(value));

/** What holds a text that may open, or is deeper than it is looked at, is as open itself. */
function sortOfInner(value: Json[] | JsonObject, depth: number): number {
  let all = 0;
  const inner = Array.isArray(value) ? value : Object.values(value);
  if (inner.length > 0 && depth === 0) return sorts.opening;
  for (const each of inner) all |= sortOf(each, depth - 1);
  if ((all & sorts.opening) !== 0) return sorts.opening;
  if (!Array.isArray(value) || (all & (sorts.structured | sorts.list)) !== 0) return sorts.structured;
  return (all & ~sorts.blank) === 0 ? sorts.blank : sorts.list;
}

/** The names of properties at any depth of a value. */
export function namesIn(value: Json, found: Set<string> = new Set()): Set<string> {
  if (typeof value !== 'object' || value === null) return found;
  if (!Array.isArray(value)) for (const name in value) found.add(name);
  for (const each of Array.isArray(value) ? value : Object.values(value)) namesIn(each, found);
  return found;
}

function sortOfText(text: string): number {
  const first = text.charCodeAt(0);
  // A blank (of any script), a quote or a bracket in front: it may be blank altogether, or hold JSON.
  if (!(first > 0x20 && first < 0x80) || first === 0x22 || first === 0x5b || first === 0x7b) {
    const inner = text.trim();
    if (inner === '') return sorts.blank;
    if (/^["[{]/.test(inner)) return sorts.opening;
  }
  return token.test(text) ? sorts.token : sorts.text;
}
