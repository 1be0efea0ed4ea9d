import { escapeToken, isJsonObject, type Json, type JsonObject } from '../../submission';
import { speaksOf, speaksOnlyOf } from '../names';
import { DEEPEST, most } from '../notes';
import { isWithin } from './around';
import { collectionsIn, shapeOf } from './collections';
import { isStructural, wordingWorth } from '../evidence';
import { optionsOf } from './options';
import type { OptionLabels, RawAnswer } from './reader';

/** What a payload says of a question apart from its answer. */
export interface Definition {
  label: string | null;
  stated: string | null;
  options: OptionLabels | null;
  /** Where it stands. */
  pointer: string;
  /** The names of the members of what it was read from. */
  shape: string;
}

/** Definitions by the identifiers of one column, gathered over all that has it. */
export interface Defined {
  column: string;
  /** What is said of each, at the places where it is. */
  definitions: Map<string, Definition[]>;
  /** The collections they come from. */
  pointers: string[];
}

const MOST_COLLECTIONS = 200;
const MOST_DEFINITIONS = 5000;
const MOST_ALIKE = 8;

/** The plain members of an object, those of the objects in it too, by the last of their names. */
function membersOf(object: JsonObject): [name: string, value: string | number][] {
  const plain: [string, string | number][] = [];
  for (const [name, value] of Object.entries(object)) {
    if (typeof value === 'string' || typeof value === 'number') plain.push([name, value]);
    else if (isJsonObject(value))
      for (const [inner, each] of Object.entries(value))
        if (typeof each === 'string' || typeof each === 'number') plain.push([`${name}.${inner}`, each]);
  }
  return plain.slice(0, 60);
}

const lastName = (name: string) => name.split('.').at(-1)!;

function definitionOf(
  members: [string, string | number][],
  object: JsonObject,
  idName: string | null,
  pointer: string,
): Definition {
  const others = members.filter(([name]) => name !== idName);
  const texts = others.filter((each): each is [string, string] => typeof each[1] === 'string' && each[1].trim() !== '');
  const worth = ([name, text]: [string, string]) =>
    (speaksOf(lastName(name), 'wording') ? 1 : 0) +
    wordingWorth(text) -
    (speaksOnlyOf(lastName(name), 'kind', 'id') ? 1 : 0) -
    (/help|hint|desc|placeholder|note/i.test(name) ? 0.8 : 0);
  const wording = texts.reduce<[string, string] | null>(
    (best, each) => (worth(each) > (best ? worth(best) : 0.85) ? each : best),
    null,
  );
  const kind = others.find(([name]) => name !== wording?.[0] && speaksOf(lastName(name), 'kind'));
  return {
    label: wording?.[1].trim() ?? null,
    stated: kind ? String(kind[1]) : null,
    options: innerOptions(object),
    pointer,
    shape: shapeOf(object),
  };
}

const innerOptions = (object: JsonObject): OptionLabels | null =>
  optionsOf(object) ??
  Object.values(object)
    .filter(isJsonObject)
    .map(each => optionsOf(each))
    .find(each => each !== null) ??
  null;

/** What a document may say of its questions, found by their keys. */
export class Definitions {
  readonly #byKey = new Map<string, Defined[]>();
  /** Maps of texts, by the last of their names, and those that are alike side by side. */
  readonly #maps = new Map<string, Defined[]>();
  readonly #alike = new Map<string, string[]>();

  constructor(all: Defined[]) {
    const put = <T>(map: Map<string, T[]>, key: string, value: T) => {
      const held = map.get(key);
      if (!held) map.set(key, [value]);
      else if (held.length < MOST_COLLECTIONS) held.push(value);
    };
    for (const each of all) {
      for (const key of each.definitions.keys()) put(this.#byKey, key, each);
      if (each.column !== '/map') continue;
      put(this.#maps, nameOf(each.pointers[0]!), each);
      put(this.#alike, groupOf(each), each.pointers[0]!);
    }
  }

  /** Those that know at least half of some keys. */
  knowing(keys: readonly string[]): Defined[] {
    const counts = new Map<Defined, number>();
    for (const key of keys)
      for (const each of this.#byKey.get(key) ?? []) counts.set(each, (counts.get(each) ?? 0) + 1);
    return [...counts].filter(([, count]) => count >= keys.length / 2).map(([each]) => each);
  }

  /** Maps of texts that are called so. */
  mapsCalled(name: string): Defined[] {
    return this.#maps.get(name) ?? [];
  }

  /** True for a map beside another that has the same names: parts of answers, and no wordings. */
  isOneOfMany(map: Defined, covers: readonly string[]): boolean {
    return (this.#alike.get(groupOf(map)) ?? []).some(each => each !== map.pointers[0] && !covers.includes(each));
  }
}

const nameOf = (pointer: string): string => pointer.split('/').at(-1)!.replaceAll('~1', '/').replaceAll('~0', '~');

const groupOf = ({ pointers: [pointer = ''], definitions }: Defined): string =>
  [holder(pointer), ...definitions.keys()].join('\n');

/** Every way in which a document may define questions: by each column of its lists and dictionaries, and by maps of texts. */
export function definitionsIn(document: Json): Definitions {
  const byColumn = new Map<string, Defined>();
  let count = 0;
  const put = (column: string, key: string, definition: Definition, pointer: string) => {
    if (count++ > MOST_DEFINITIONS) return;
    let defined = byColumn.get(column);
    if (!defined) byColumn.set(column, (defined = { column, definitions: new Map(), pointers: [] }));
    const known = defined.definitions.get(key);
    if (!known) defined.definitions.set(key, [definition]);
    else if (known.length < MOST_ALIKE) known.push(definition);
    if (defined.pointers.at(-1) !== pointer) defined.pointers.push(pointer);
  };
  for (const { items, pointer, isDictionary } of collectionsIn(document, '', DEEPEST).slice(0, MOST_COLLECTIONS))
    for (const item of items.slice(0, most.around)) {
      const members = membersOf(item.object);
      if (isDictionary && item.key !== null)
        put('/key', item.key, definitionOf(members, item.object, null, item.pointer), pointer);
      for (const [name, value] of members)
        if (isToken(value)) put(name, String(value), definitionOf(members, item.object, name, item.pointer), pointer);
    }
  for (const { pointer, map } of textMapsIn(document))
    byColumn.set(`/map ${pointer}`, {
      column: '/map',
      pointers: [pointer],
      definitions: new Map(
        [...map].map(([key, label]) => [
          key,
          [{ label, stated: null, options: null, pointer: `${pointer}/${escapeToken(key)}`, shape: '' }],
        ]),
      ),
    });
  return new Definitions([...byColumn.values()]);
}

const isToken = (value: string | number) => typeof value === 'number' || /^[^\s]{1,80}$/.test(value);

/** Objects whose every value is a text that words a question. */
function textMapsIn(value: Json, at = '', depth = 12, found: { pointer: string; map: Map<string, string> }[] = []) {
  if (!isJsonObject(value) || depth === 0 || found.length > 40) return found;
  const entries = Object.entries(value);
  const texts = entries.filter(
    (entry): entry is [string, string] =>
      typeof entry[1] === 'string' && entry[1] !== entry[0] && entry[1].trim() !== '',
  );
  if (texts.length >= 1 && texts.length === entries.length)
    found.push({ pointer: at, map: new Map(texts.map(([key, text]) => [key, text.trim()])) });
  for (const [key, each] of entries) textMapsIn(each, `${at}/${escapeToken(key)}`, depth - 1, found);
  return found;
}

/** A place without its numbers and identifiers: the same for what stands alike in each item of a list or map. */
const patternOf = (pointer: string): string => pointer.replace(/\/[^/]*\d[^/]*/g, '/*');

/** Where what holds a place stands. */
export const holder = (pointer: string): string => pointer.slice(0, Math.max(0, pointer.lastIndexOf('/')));

const bare = (key: string) => key.replace(/\[\]$/, '');

/** What was defined apart of some answers: the answers with it, and where it stands. */
export interface Joined {
  answers: RawAnswer[];
  /** The collections that define, by pointer; empty where nothing does. */
  usedAt: string[];
  /** Share of the answers whose wording was found. */
  share: number;
  /** The keys whose wording was found. */
  keys: ReadonlySet<string>;
}

/**
 * Joins answers with what the document says of their questions elsewhere: whose identifiers are the keys of the answers, those
 * are their definitions, whatever it is called.
 * @param covers where the answers stand
 * @param isWorded true where the answers word their questions themselves
 */
export function joined(
  answers: RawAnswer[],
  all: Definitions,
  covers: string[],
  isWorded = false,
  shape?: string,
): Joined {
  // What words its questions itself may still be told their options apart.
  const keys = [...new Set(answers.filter(each => !isWorded || each.key !== each.label).map(each => bare(each.key)))];
  if (keys.length === 0) return { answers, usedAt: [], share: 0, keys: none };
  const own = patternOf(covers[0] ?? '');
  const structural = answers.filter(each => isStructural(each.key)).length > answers.length / 2;
  const outside = (pointer: string) =>
    (shape !== undefined || (patternOf(pointer) !== own && patternOf(holder(pointer)) !== own)) &&
    !covers.some(cover => isWithin(pointer, cover) || (cover !== '' && isWithin(cover, pointer)));
  const fitting = all
    .knowing(keys)
    .filter(defined => defined.column !== '/map' || (!structural && !all.isOneOfMany(defined, covers)))
    .map(defined => {
      const here = new Map<string, Definition>();
      for (const key of keys) {
        const all = defined.definitions.get(key)?.filter(each => each.shape !== shape && outside(each.pointer)) ?? [];
        const told = isWorded
          ? all.find(each => each.options !== null)
          : (all.find(each => each.label !== null) ?? all[0]);
        if (told) here.set(key, told);
      }
      const worth = [...here.values()].reduce(
        (sum, each) => sum + (each.label === null ? 0 : wordingWorth(each.label)),
        0,
      );
      return { defined, here, share: here.size / keys.length, worth: here.size === 0 ? 0 : worth / here.size };
    })
    .filter(
      ({ share, here, defined }) =>
        share >= 0.5 && (here.size > 1 || keys.length === 1) && defined.definitions.size >= here.size,
    );
  const wording = fitting.filter(each => each.worth > 0.55).sort((a, b) => b.share - a.share || b.worth - a.worth)[0];
  const options = optionMaps(all, keys, outside);
  if (!wording && options.size === 0) return { answers, usedAt: [], share: 0, keys: none };
  const usedAt = new Set<string>();
  for (const { pointer } of wording?.here.values() ?? []) usedAt.add(pointer);
  for (const { pointer } of options.values()) usedAt.add(pointer);
  const told = answers.map((answer): RawAnswer => {
    const definition = wording?.here.get(bare(answer.key));
    const own = options.get(bare(answer.key));
    if (!definition && !own) return answer;
    return {
      ...answer,
      label: (isWorded ? null : definition?.label) ?? answer.label,
      stated: definition?.stated ?? answer.stated,
      options: definition?.options ?? own?.options ?? answer.options,
    };
  });
  return {
    answers: told,
    usedAt: gathered([...usedAt], covers),
    share: isWorded ? 0 : (wording?.share ?? 0),
    keys: new Set(wording?.here.keys() ?? []),
  };
}

/** Places by what holds several of them, as long as that does not hold the answers too. */
function gathered(pointers: string[], covers: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const each of pointers) counts.set(holder(each), (counts.get(holder(each)) ?? 0) + 1);
  const isWhole = (place: string) =>
    counts.get(place)! > 1 && place !== '' && !covers.some(cover => isWithin(cover, place));
  return [...new Set(pointers.map(each => (isWhole(holder(each)) ? holder(each) : each)))];
}

const none: ReadonlySet<string> = new Set();

/** Options that stand by themselves, by the identifier of their question: `{ room: { r1: 'Single' } }`. */
function optionMaps(all: Definitions, keys: readonly string[], outside: (pointer: string) => boolean) {
  const found = new Map<string, { options: OptionLabels; pointer: string }>();
  for (const key of keys)
    for (const { pointers, definitions } of all.mapsCalled(key)) {
      const pointer = pointers[0]!;
      const isOfParts = [...definitions.keys()].every(isStructural);
      if (!outside(pointer) || definitions.size < 2 || isOfParts || found.has(key)) continue;
      found.set(key, { pointer, options: new Map([...definitions].map(([id, each]) => [id, each[0]!.label!])) });
    }
  return found;
}
