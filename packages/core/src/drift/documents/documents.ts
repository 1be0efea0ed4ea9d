import { assigned } from '../../match';
import type { Json } from '../../submission';
import { alike, bare } from '../alike';
import { pairedOptions } from '../pairedOptions';
import type { Operation } from '../../target';
import { apiOperation, apiOperations, type ApiOperation, type LimitName, type Limits, type Part } from './schemas';

export const documentChangeKinds = [
  'operation-added',
  'operation-gone',
  'operation-moved',
  'field-added',
  'field-gone',
  'field-renamed',
  'required',
  'optional',
  'option-added',
  'option-gone',
  'option-renamed',
  'type',
  'format',
  'narrowed',
  'widened',
] as const;
export type DocumentChangeKind = (typeof documentChangeKinds)[number];

/** One thing that a document says otherwise of what is sent. */
export interface DocumentChange {
  change: DocumentChangeKind;
  /** `METHOD /path`, as before; as after for one that is new. */
  operation: string;
  /** A JSON Pointer of property names into the body, or `?name`. */
  field?: string;
  was?: Json;
  now?: Json;
}

/** How alike operations and fields must be to be one under another name. */
const SAME_OPERATION = 0.6;
const SAME_FIELD = 0.6;

/** What a later document says otherwise of what is sent; null where one of them is no OpenAPI document. */
export function documentChanges(before: Json, after: Json): DocumentChange[] | null {
  const [was, now] = [apiOperations(before), apiOperations(after)];
  return was && now ? apiChanges(was, now) : null;
}

/** What operations of a target do otherwise than before, however they were read. */
export const operationChanges = (before: readonly Operation[], after: readonly Operation[]): DocumentChange[] =>
  apiChanges(before.map(apiOperation), after.map(apiOperation));

function apiChanges(was: readonly ApiOperation[], now: readonly ApiOperation[]): DocumentChange[] {
  const { kept, gone, added } = pairedOperations(was, now);
  return [
    ...kept.flatMap(([one, other]) => ofOperation(one, other)),
    ...gone.map(({ name }): DocumentChange => ({ change: 'operation-gone', operation: name })),
    ...added.map(({ name }): DocumentChange => ({ change: 'operation-added', operation: name })),
  ];
}

/** A path whatever its parameters are called. */
const plainPath = (path: string): string => path.replace(/\{[^{}]*\}/g, '{}').replace(/(.)\/$/, '$1');

function pairedOperations(was: readonly ApiOperation[], now: readonly ApiOperation[]) {
  const kept: [ApiOperation, ApiOperation][] = [];
  const left = new Set(now);
  const take = (same: (one: ApiOperation, other: ApiOperation) => boolean, all: readonly ApiOperation[]) =>
    all.filter(one => {
      const other = [...left].find(each => same(one, each));
      if (!other) return true;
      left.delete(other);
      kept.push([one, other]);
      return false;
    });
  const isAt = (of: (each: ApiOperation) => string) => (one: ApiOperation, other: ApiOperation) =>
    one.method === other.method && plainPath(of(one)) === plainPath(of(other));
  // Where a part of the path moves between the server's address and the paths, nothing moves.
  const open = take(
    isAt(each => each.whole),
    take(
      isAt(each => each.path),
      was,
    ),
  );
  const fresh = [...left];
  const scores = open.map(one => fresh.map(other => ({ score: operationLikeness(one, other) })));
  const moved = assigned(scores, SAME_OPERATION);
  moved.forEach((column, row) => column >= 0 && kept.push([open[row]!, fresh[column]!]));
  const places = new Map(was.map((each, at) => [each, at]));
  return {
    kept: kept.sort((a, b) => places.get(a[0])! - places.get(b[0])!),
    gone: open.filter((_, row) => moved[row]! < 0),
    added: fresh.filter((_, column) => !moved.includes(column)),
  };
}

/** How likely one operation is the other at another place. */
function operationLikeness(one: ApiOperation, other: ApiOperation): number {
  if (one.id !== null && one.id === other.id) return 1;
  if (
    one.method !== other.method &&
    !['PUT PATCH', 'PATCH PUT', 'PUT POST', 'POST PUT'].includes(`${one.method} ${other.method}`)
  )
    return 0;
  const [these, those] = [one.path, other.path].map(path =>
    plainPath(path)
      .split('/')
      .filter(each => each && each !== '{}'),
  );
  const last = alike(these!.at(-1) ?? '', those!.at(-1) ?? '');
  const path = Math.max(alike(one.path, other.path), last * 0.9);
  const [a, b] = [fieldSet(one), fieldSet(other)];
  const both = [...a].filter(each => b.has(each)).length;
  const fields = a.size + b.size === 0 ? null : (2 * both) / (a.size + b.size);
  const method = one.method === other.method ? 1 : 0.9;
  return method * (fields === null ? path * 0.85 : 0.5 * path + 0.5 * fields);
}

const fieldSet = ({ parts }: ApiOperation): Set<string> =>
  new Set([...parts.values()].map(({ field, type }) => `${field} ${type}`));

function ofOperation(one: ApiOperation, other: ApiOperation): DocumentChange[] {
  const operation = one.name;
  const isMoved = one.method !== other.method || plainPath(one.whole) !== plainPath(other.whole);
  const isSamePlace = one.method === other.method && plainPath(one.path) === plainPath(other.path);
  const changes: DocumentChange[] =
    isMoved && !isSamePlace ? [{ change: 'operation-moved', operation, was: one.name, now: other.name }] : [];
  const renamed = renamedFields(one, other);
  const followers = new Set(renamed.values());
  const under = (parts: ReadonlyMap<string, Part>, field: string) =>
    [...parts.keys()].some(each => each.startsWith(`${field}/`));
  for (const [field, part] of one.parts) {
    const successor = renamed.get(field);
    if (successor !== undefined)
      changes.push({ change: 'field-renamed', operation, field, was: field, now: successor });
    const same = other.parts.get(successor ?? renamedAbove(field, renamed) ?? field);
    if (same) changes.push(...ofPart(operation, field, part, same));
    // Of a group that is gone its parts are told, unless something else stands in its place.
    else if (!under(one.parts, field) && !isInside(field, one, other))
      changes.push({ change: 'field-gone', operation, field });
  }
  for (const [field, part] of other.parts) {
    const isKnown =
      one.parts.has(field) ||
      followers.has(field) ||
      [...one.parts.keys()].some(each => renamedAbove(each, renamed) === field);
    if (!isKnown && !under(other.parts, field) && !isInside(field, other, one))
      changes.push({ change: 'field-added', operation, field, now: { required: part.required } });
  }
  return changes;
}

/** True for a part of a group in whose place the other operation has something that is none. */
const isInside = (field: string, { parts }: ApiOperation, other: ApiOperation): boolean =>
  [...parts.values()].some(
    each =>
      each.isGroup &&
      field.startsWith(`${each.field}/`) &&
      other.parts.has(each.field) &&
      !other.parts.get(each.field)!.isGroup,
  );

/** Where a field is now that stands in a group that was renamed. */
function renamedAbove(field: string, renamed: ReadonlyMap<string, string>): string | undefined {
  for (const [from, to] of renamed) if (field.startsWith(`${from}/`)) return `${to}${field.slice(from.length)}`;
  return undefined;
}

/** Fields that are there under another name, by the name before. */
function renamedFields(one: ApiOperation, other: ApiOperation): Map<string, string> {
  const found = new Map<string, string>();
  const isOpen = (field: string, renamed: ReadonlyMap<string, string>) =>
    ![...renamed.keys()].some(each => field.startsWith(`${each}/`));
  // Groups first: what stands in one that was renamed goes with it.
  for (const isGroup of [true, false]) {
    const lost = [...one.parts.values()].filter(
      each => each.isGroup === isGroup && !other.parts.has(each.field) && isOpen(each.field, found),
    );
    const taken = [...found.values()];
    const fresh = [...other.parts.values()].filter(
      each =>
        each.isGroup === isGroup &&
        !one.parts.has(each.field) &&
        !taken.some(group => each.field.startsWith(`${group}/`)),
    );
    const isOnlyPair = lost.length === 1 && fresh.length === 1;
    const scores = lost.map(a => fresh.map(b => ({ score: fieldLikeness(a, b, isOnlyPair, one, other) })));
    assigned(scores, SAME_FIELD).forEach((column, row) => {
      if (column >= 0) found.set(lost[row]!.field, fresh[column]!.field);
    });
  }
  return found;
}

const nameOf = (field: string): string => field.slice(Math.max(field.lastIndexOf('/'), field.indexOf('?')) + 1);
const parentOf = (field: string): string => (field.startsWith('?') ? '?' : field.slice(0, field.lastIndexOf('/')));

function fieldLikeness(a: Part, b: Part, isOnlyPair: boolean, one: ApiOperation, other: ApiOperation): number {
  if (a.field.startsWith('?') !== b.field.startsWith('?')) return 0;
  const names = alike(nameOf(a.field), nameOf(b.field));
  if (a.isGroup) {
    const inside = (of: ApiOperation, field: string) =>
      new Set([...of.parts.keys()].filter(each => each.startsWith(`${field}/`)).map(each => each.slice(field.length)));
    const [these, those] = [inside(one, a.field), inside(other, b.field)];
    const both = [...these].filter(each => those.has(each)).length;
    return 0.5 * names + (0.5 * 2 * both) / Math.max(1, these.size + those.size) + (isOnlyPair ? 0.1 : 0);
  }
  if (a.type !== b.type && !(names >= 0.9)) return 0;
  const sameType = a.type === b.type ? 1 : 0.5;
  const sameWords = a.words !== '' && bare(a.words) === bare(b.words) ? 1 : 0;
  const options = a.options && b.options ? shareOf(a.options, b.options) : null;
  const details =
    a.format === b.format && JSON.stringify(a.limits) === JSON.stringify(b.limits) && a.required === b.required;
  const telling = a.format !== null || Object.keys(a.limits).length > 0 || a.options !== null;
  const near = parentOf(a.field) === parentOf(b.field) ? 1 : 0.7;
  const evidence = Math.max(
    names,
    sameWords * 0.95,
    options === 1 ? 0.9 : (options ?? 0),
    // One went and one of just the same sort came, at the same place.
    isOnlyPair && details ? (telling ? 0.9 : 0.7) : 0,
  );
  return evidence * sameType * (names >= 0.99 ? 1 : near);
}

const shareOf = (a: readonly string[], b: readonly string[]): number => {
  const both = a.filter(each => b.includes(each)).length;
  return (2 * both) / (a.length + b.length);
};

/** What is said otherwise of one field. */
function ofPart(operation: string, field: string, one: Part, other: Part): DocumentChange[] {
  const changes: DocumentChange[] = [];
  const add = (change: DocumentChangeKind, was?: Json, now?: Json) =>
    void changes.push({
      change,
      operation,
      field,
      ...(was !== undefined && { was }),
      ...(now !== undefined && { now }),
    });
  if (!one.required && other.required) add('required');
  if (one.required && !other.required) add('optional');
  if (one.type !== other.type) add('type', one.type, other.type);
  else if (one.format !== other.format) add('format', one.format, other.format);
  if (one.options && other.options) changes.push(...ofOptions(operation, field, one.options, other.options));
  const { narrowed, widened } = limitChanges(one, other);
  if (one.type === other.type) {
    if (narrowed.length > 0) add('narrowed', shownLimits(one, narrowed), shownLimits(other, narrowed));
    if (widened.length > 0) add('widened', shownLimits(one, widened), shownLimits(other, widened));
  }
  return changes;
}

function ofOptions(operation: string, field: string, was: readonly string[], now: readonly string[]): DocumentChange[] {
  const gone = was.filter(each => !now.includes(each));
  const added = now.filter(each => !was.includes(each));
  const pairs = pairedOptions(gone, added);
  return [
    ...pairs.renamed.map(([one, other]): DocumentChange => {
      return { change: 'option-renamed', operation, field, was: one, now: other };
    }),
    ...pairs.gone.map((option): DocumentChange => ({ change: 'option-gone', operation, field, was: option })),
    ...pairs.added.map((option): DocumentChange => ({ change: 'option-added', operation, field, now: option })),
  ];
}

type Limit = LimitName | 'options' | 'null';

/** Which limits take less than before, and which take more. */
function limitChanges(one: Part, other: Part): { narrowed: Limit[]; widened: Limit[] } {
  const narrowed: Limit[] = [];
  const widened: Limit[] = [];
  for (const name of new Set([...Object.keys(one.limits), ...Object.keys(other.limits)]) as Set<LimitName>) {
    const [was, now] = [one.limits[name], other.limits[name]];
    if (was === now) continue;
    (isNarrower(name, was, now) ? narrowed : widened).push(name);
  }
  if (!one.options && other.options) narrowed.push('options');
  if (one.options && !other.options) widened.push('options');
  if (one.nullable && !other.nullable) narrowed.push('null');
  if (!one.nullable && other.nullable) widened.push('null');
  return { narrowed, widened };
}

function isNarrower(name: LimitName, was: Limits[LimitName], now: Limits[LimitName]): boolean {
  if (was === undefined) return true;
  if (now === undefined) return false;
  if (typeof was !== 'number' || typeof now !== 'number') return true;
  if (name === 'multipleOf') return now % was === 0;
  return /^max|Maximum$/.test(name) ? now < was : now > was;
}

const shownLimits = ({ limits, options, nullable }: Part, names: readonly Limit[]): Json =>
  Object.fromEntries(
    names.flatMap((name): [string, Json][] =>
      name === 'options'
        ? [['enum', options]]
        : name === 'null'
          ? [['nullable', nullable]]
          : limits[name] === undefined
            ? []
            : [[name, limits[name]]],
    ),
  );
