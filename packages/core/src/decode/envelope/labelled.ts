import {
  asText,
  escapeToken,
  isJsonObject,
  labelFromKey,
  setOwn,
  valueAt,
  type Json,
  type JsonObject,
} from '../../submission';
import { DEEPEST, most } from '../notes';
import { filesOf } from '../files';
import { optionLabels } from './options';
import { isObjectList, partsOf, type Parts } from './properties';
import type { EnvelopeReader, EnvelopeReading, RawAnswer } from './reader';
import { speaksOf, surroundings } from '../names';

/** An item of a list or dictionary of answers, where it stands, and its key in a dictionary. */
export interface Item {
  object: JsonObject;
  pointer: string;
  key: string | null;
}

export interface Collection {
  items: Item[];
  pointer: string;
  isDictionary: boolean;
}

/** Collections that are tried as the answers, the largest: each is held against all others. */
const MOST_STARTS = 30;

const reader = (id: string, label: string, isDictionary: boolean): EnvelopeReader => ({
  id,
  label,
  read(document, at) {
    const all = allCollections(document, at).filter(each => each.isDictionary === isDictionary);
    const largest = all.length > MOST_STARTS ? [...all].sort((a, b) => b.items.length - a.items.length) : all;
    const covered = new Set<Collection>();
    const readings = largest
      .slice(0, MOST_STARTS)
      .flatMap(each =>
        covered.has(each) ? [] : (readCollection(document, at, each, all, covered, { id, label }) ?? []),
      );
    return readings.sort((a, b) => b.score - a.score)[0] ?? null;
  },
});

/** A list of answers that each say their question: `[{ id, label, type, answer }]`, in any naming, in pages and groups too. */
export const labelledList = reader('labelled-list', 'list of labelled answers', false);
/** The same with the identifiers as keys: `{ q1: { label, answer } }`. */
export const labelledDictionary = reader('labelled-dictionary', 'dictionary of labelled answers', true);

/** Items that keep their question in an object of its own, `{ field: { id, label }, value }`, with its members beside the answer. */
function withQuestionsLaidOpen(items: JsonObject[]): JsonObject[] {
  const first = items[0]!;
  const holder = Object.keys(first).find(name => {
    const inner = first[name];
    if (
      !isJsonObject(inner) ||
      !Object.keys(inner).some(each => speaksOf(each, 'wording') && typeof inner[each] === 'string')
    )
      return false;
    return !speaksOf(name, 'answer') && items.every(item => isJsonObject(item[name]));
  });
  if (holder === undefined) return items;
  return items.map(({ [holder]: question, ...rest }) => ({ ...(question as JsonObject), ...rest }));
}

/** What was found last: lists and dictionaries are both looked for in the same document. */
const found = new WeakMap<JsonObject, { at: string; collections: Collection[] }>();

function allCollections(document: JsonObject, at: string): Collection[] {
  const before = found.get(document);
  if (before?.at === at) return before.collections;
  const collections = collectionsIn(document, at, DEEPEST);
  found.set(document, { at, collections });
  return collections;
}

/** Every list and dictionary of objects below a value, outermost first. */
export function collectionsIn(value: Json, at: string, depth: number, found: Collection[] = []): Collection[] {
  if (depth === 0 || at.length > most.pointer || typeof value !== 'object' || value === null) return found;
  if (isObjectList(value)) {
    const objects = withQuestionsLaidOpen(value);
    found.push({
      pointer: at,
      isDictionary: false,
      items: objects.map((object, index) => ({ object, pointer: `${at}/${index}`, key: null })),
    });
  } else if (isJsonObject(value)) {
    const entries = Object.entries(value).filter((entry): entry is [string, JsonObject] => isJsonObject(entry[1]));
    if (entries.length > 1 && entries.length / Object.keys(value).length > 0.6) {
      const objects = withQuestionsLaidOpen(entries.map(([, object]) => object));
      found.push({
        pointer: at,
        isDictionary: true,
        items: entries.map(([key], index) => ({ object: objects[index]!, pointer: `${at}/${escapeToken(key)}`, key })),
      });
    }
  }
  // Pointers are made only for what can hold a collection: most values are texts.
  for (const key of Object.keys(value)) {
    const each = (value as JsonObject)[key]!;
    if (typeof each !== 'object' || each === null) continue;
    collectionsIn(each, `${at}/${escapeToken(key)}`, depth - 1, found);
  }
  return found;
}

function readCollection(
  document: Json,
  at: string,
  start: Collection,
  all: Collection[],
  covered: Set<Collection>,
  { id, label }: { id: string; label: string },
): EnvelopeReading | null {
  const own = partsOf(
    start.items.map(item => item.object),
    start.isDictionary,
  );
  if (!own || isFiles(start.items)) return null;
  const alike = siblingsOf(start, all, own);
  // What is read together here would be read so again from each of them.
  for (const each of alike) covered.add(each);
  const items = alike.length === 1 ? start.items : together(alike);
  const parts =
    items.length === start.items.length
      ? own
      : (partsOf(
          items.map(item => item.object),
          start.isDictionary,
        ) ?? own);
  if (parts.wording === null && start.isDictionary && !parts.isSure) return null;
  // Items of one collection do not hold one another.
  const containers = items === start.items ? null : containersAmong(items);
  const answers = items.filter(item => !containers?.has(item)).map(item => rawAnswer(item, parts));
  // The same question twice: these are several submissions, not the pages of one.
  const repeats = items.length > start.items.length && new Set(answers.map(answer => answer.key)).size < answers.length;
  const score =
    0.5 +
    (parts.wording ? 0.2 : 0) +
    (parts.key || start.isDictionary ? 0.08 : 0) +
    (parts.kind ? 0.07 : 0) +
    (parts.isSure ? 0.1 : -0.12) +
    (answers.length > 2 ? 0.02 : -0.03) -
    (repeats ? 0.4 : 0);
  const says = [
    parts.wording && `“${parts.wording}” words the question`,
    parts.key ? `“${parts.key}” identifies it` : start.isDictionary && 'its key identifies it',
    parts.kind && `“${parts.kind}” tells its kind`,
  ];
  return {
    reader: id,
    label,
    score: Math.min(0.97, score),
    why: `${answers.length} items at ${start.pointer || 'the top'} each hold an answer; ${says.filter(Boolean).join(', ')}.`,
    answersAt: start.pointer,
    submissions: [{ ...surroundings(around(document, at, start.pointer)), answers }],
  };
}

/** A list of files is one answer, not a list of answers. */
const isFiles = (items: Item[]): boolean =>
  filesOf(
    '',
    items.map(item => item.object),
    false,
  ) !== null;

/** Items that hold other items: the groups and sections. */
export function containersAmong(items: Item[]): Set<Item> {
  const byPointer = new Map(items.map(item => [item.pointer, item]));
  const containers = new Set<Item>();
  for (const { pointer } of items) {
    for (let slash = pointer.lastIndexOf('/'); slash > 0; slash = pointer.lastIndexOf('/', slash - 1)) {
      const holder = byPointer.get(pointer.slice(0, slash));
      if (holder) containers.add(holder);
    }
  }
  return containers;
}

/** A collection with those that are like it elsewhere: the pages, sections and groups of one form. */
function siblingsOf(start: Collection, all: Collection[], parts: Parts): Collection[] {
  const needed = [parts.wording, parts.key].filter(name => name !== null);
  const isAlike = ({ object }: Item) => needed.every(name => Object.hasOwn(object, name));
  const answered = ({ object }: Item) => parts.answer(object) !== null;
  return all.filter(other => other === start || (other.items.every(isAlike) && other.items.some(answered)));
}

/** The items of several collections in the order of the document. */
const together = (collections: Collection[]): Item[] =>
  collections.flatMap(each => each.items).sort((a, b) => documentOrder(a.pointer, b.pointer));

/** Compares pointers by document order: numbers as numbers, otherwise as they were found. */
export function documentOrder(a: string, b: string): number {
  const left = a.split('/');
  const right = b.split('/');
  for (let index = 0; index < Math.min(left.length, right.length); index++) {
    if (left[index] === right[index]) continue;
    const [x, y] = [Number(left[index]), Number(right[index])];
    return Number.isInteger(x) && Number.isInteger(y) ? x - y : 0;
  }
  return left.length - right.length;
}

export function rawAnswer({ object, pointer, key: outerKey }: Item, parts: Parts): RawAnswer {
  const property = parts.answer(object);
  const statedKey = outerKey ?? (parts.key === null ? null : String(object[parts.key]));
  const wording = parts.wording === null ? '' : String(object[parts.wording] ?? '').trim();
  const label = wording || labelFromKey(statedKey ?? '');
  const other = parts.other === null ? '' : asText(object[parts.other]).trim();
  return {
    key: (statedKey ?? label).replace(/\[\]$/, ''),
    label,
    stated: parts.kind === null ? null : String(object[parts.kind] ?? ''),
    value: property === null ? null : object[property]!,
    pointer: property === null ? pointer : `${pointer}/${escapeToken(property)}`,
    options: parts.options === null ? null : optionLabels(object[parts.options]),
    other: other || null,
  };
}

/** The objects on the way down to the answers, laid over one another, without the branch that leads to them. */
export function around(document: Json, at: string, pointer: string): JsonObject {
  const steps = pointer.slice(at.length).split('/').slice(1);
  const laid: JsonObject = {};
  let place: Json | undefined = document;
  for (const step of steps) {
    if (isJsonObject(place))
      for (const [name, value] of Object.entries(place).slice(0, most.around))
        if (escapeToken(name) !== step && !Object.hasOwn(laid, name)) setOwn(laid, name, value);
    place = place === undefined ? undefined : valueAt(place, `/${step}`);
  }
  return laid;
}
