import { isJsonObject, pointerOf, tokensOf, valueAt, type Json } from '../../submission';
import type { Landmark } from './landmarks';

/**
 * Where a person pointed to overrule the reading of an intake's messages. Plain data: kept on the intake, and applied
 * to every message, those already recorded too. All places are JSON Pointers (RFC 6901).
 */
export interface Pins extends PinSet {
  /** Pins for messages of other generations: a message is read by the first set that is found in it. */
  others?: PinSet[];
}

/** What was pointed at in messages that are built alike. */
export interface PinSet {
  /** How bodies that state a media type are read: by which reader. `stated` is null for those that state none. */
  media?: { stated: string | null; as: string };
  /** Keys of questions that ask for files. */
  files?: string[];
  /** In the document: the list, or the object by identifiers, whose every item is a submission. */
  split?: string;
  /** In one submission: what holds the answers. */
  answers?: string;
  /** In one answer: what words the question. */
  label?: string;
  /** In one answer: what was answered. */
  value?: string;
  /** In one answer: what identifies the question. */
  key?: string;
  /** In one submission, or else in the document: what tells the form. */
  form?: string;
  /** In one submission: what identifies it. */
  id?: string;
  /** In one submission, or else in the document: when it was sent. */
  time?: string;
  /** The values of a running text, by the words around them. */
  text?: { at: string; landmarks: Landmark[] };
}

/** What can be pinned by pointing at a place of the document. */
export const pinRoles = ['answers', 'label', 'value', 'key', 'files', 'form', 'id', 'time', 'split'] as const;
export type PinRole = (typeof pinRoles)[number];

/** The readers of bodies that a person may choose from, with what people call them. */
export const bodyReaders: Readonly<Record<string, string>> = {
  json: 'JSON',
  'json-lines': 'JSON, one document a line',
  separated: 'separated values',
  spreadsheet: 'spreadsheet (XLSX)',
  urlencoded: 'urlencoded form',
  multipart: 'multipart form',
  xml: 'XML',
  mail: 'mail',
  plain: 'plain text',
  har: 'HTTP archive',
};

/** Generations of a payload that may be pinned at one address. */
export const MOST_GENERATIONS = 8;

const isEmpty = (set: PinSet): boolean => Object.keys(set).length === 0;

/** The pins of each generation, in the order they are looked for. */
export const generationsOf = ({ others = [], ...first }: Pins): PinSet[] =>
  [first, ...others].filter(each => !isEmpty(each));

/** True when nothing is pinned. */
export const isUnpinned = (pins: Pins | null | undefined): boolean => !pins || generationsOf(pins).length === 0;

/** The pins with those of one generation set anew; they go where the set is empty, and are another one's where there are fewer. */
export function withGeneration(pins: Pins, generation: number, set: PinSet): Pins {
  const all = generationsOf(pins);
  all[Math.min(generation, all.length)] = set;
  const [first = {}, ...others] = all.filter(each => !isEmpty(each));
  return others.length > 0 ? { ...first, others } : first;
}

/** Why a place can't play a role, for people. */
export interface PinRefusal {
  refusal: string;
}

const isListOfObjects = (value: Json | undefined) =>
  Array.isArray(value) && value.length > 0 && value.every(isJsonObject);
const isMapOfObjects = (value: Json | undefined) =>
  isJsonObject(value) && Object.keys(value).length > 0 && Object.values(value).every(isJsonObject);
const isScalar = (value: Json | undefined) => value === null || (value !== undefined && typeof value !== 'object');

/** The pointers of all places that hold a place, innermost first, without the place itself. */
function holdersOf(pointer: string): string[] {
  const tokens = tokensOf(pointer);
  return tokens.map((_, index) => pointerOf(tokens.slice(0, tokens.length - 1 - index)));
}

/**
 * The pins with one more, set by pointing at a place of a document.
 * @param splitAt where the document was found to fall into submissions, or null
 * @param asked the questions that were found, by where their answers stand
 * @example pinAt({ d: [{ q: 'Site?', a: 'Ford' }] }, {}, 'label', '/d/0/q', null) // { label: '/q' }
 */
export function pinAt(
  document: Json,
  pins: PinSet,
  role: PinRole,
  pointer: string,
  splitAt: string | null,
  asked: readonly { key: string; pointer: string }[] = [],
): PinSet | PinRefusal {
  const value = valueAt(document, pointer);
  if (value === undefined) return { refusal: 'There is nothing at this place.' };
  if (role === 'split') {
    const around = [pointer, ...holdersOf(pointer)];
    const list =
      around.find(place => isListOfObjects(valueAt(document, place))) ??
      around.find(place => isMapOfObjects(valueAt(document, place)));
    if (list === undefined) return { refusal: 'Point at a list, or at something in one: each item is a submission.' };
    return { ...pins, split: list };
  }
  if (role === 'files') {
    const isAround = (one: string, other: string) => one === other || other.startsWith(`${one}/`);
    const question = asked.find(each => isAround(each.pointer, pointer) || isAround(pointer, each.pointer));
    if (!question) return { refusal: 'Point at the answer to a question.' };
    return { ...pins, files: [...new Set([...(pins.files ?? []), question.key])] };
  }
  if (role === 'label' || role === 'value' || role === 'key') {
    if (role !== 'value' && !isScalar(value)) return { refusal: 'Point at a text: this place holds others.' };
    const item = answerAround(document, pointer);
    if (item === null) return { refusal: 'Point at something inside one answer of a list or dictionary of answers.' };
    return { ...pins, [role]: pointer.slice(item.length) };
  }
  const split = pins.split ?? splitAt;
  const within = split !== null && pointer.startsWith(`${split}/`) ? pointer.slice(split.length + 1) : null;
  const relative = within === null ? pointer : within.includes('/') ? within.slice(within.indexOf('/')) : '';
  if (role === 'answers') {
    if (isScalar(value) && !(typeof value === 'string' && value.includes('\n')))
      return { refusal: 'Point at what holds the answers: an object, a list, or a text of several lines.' };
  } else if (!isScalar(value) || value === null) return { refusal: 'Point at a text or number.' };
  return { ...pins, ...(within !== null && split !== null ? { split } : {}), [role]: relative };
}

/** The answer that a place belongs to: an item of the innermost list of objects, else an entry of a dictionary of like objects. */
function answerAround(document: Json, pointer: string): string | null {
  const holders = holdersOf(pointer);
  const inList = holders.find((_, index) => isListOfObjects(valueAt(document, holders[index + 1] ?? '/-')));
  if (inList !== undefined) return inList;
  const inDictionary = holders.find((holder, index) => {
    const outer = index + 1 < holders.length ? valueAt(document, holders[index + 1]!) : undefined;
    if (!isJsonObject(outer)) return false;
    const entries = Object.values(outer);
    const alike = entries.filter(
      each => isJsonObject(each) && valueAt(each, pointer.slice(holder.length)) !== undefined,
    );
    return alike.length > 1 && alike.length / entries.length > 0.5;
  });
  return inDictionary ?? null;
}
