import { isJsonObject, setOwn, type Json, type JsonObject } from '../../submission';
import { most, tooMany } from '../notes';
import { textIn } from './parts';
import type { MediaReader } from './reader';

/** application/x-www-form-urlencoded (WHATWG URL Standard §5), keys with brackets read as nesting (common practice, no source). */
export const urlencoded: MediaReader = {
  id: 'urlencoded',
  label: 'urlencoded form',
  isStated: type => type === 'application/x-www-form-urlencoded',
  looksLike: ({ text }) => /^[^\s=&{}<>]+=[^\s]*(&|$)/.test(text) && !/[\n\r]/.test(text.trim()),
  read({ text, parameters }) {
    const stated = /(?:^|&)_charset_=([\w-]+)/.exec(text)?.[1] ?? parameters.charset ?? 'utf-8';
    const { head, isCut } = firstPairs(text);
    const pairs = /^utf-?8$/i.test(stated) ? pairsOf(head) : pairsIn(head, stated);
    return {
      document: nestedFromPairs(pairs.filter(([name]) => name !== '_charset_')),
      notes: isCut ? [tooMany('media.pairs', `more than ${most.pairs} names`)] : [],
    };
  },
};

/**
 * Name-value pairs of a urlencoded text (URL Standard §5.1). Node's own parser takes raw letters for bytes where a percent sign
 * that escapes nothing stands beside them: such letters are escaped first.
 */
export function pairsOf(text: string): [string, string][] {
  const isPlain = !text.includes('%') || !/[^\u0000-\u007f]/.test(text); // eslint-disable-line no-control-regex
  const escaped = isPlain
    ? text
    : text.replace(/[^\u0000-\u007f]+/g, letters => encodeURIComponent(letters.replace(/\p{Cs}/gu, '\ufffd'))); // eslint-disable-line no-control-regex
  return [...new URLSearchParams(escaped)];
}

/** The text up to as many pairs as are read. */
export function firstPairs(text: string): { head: string; isCut: boolean } {
  let at = -1;
  for (let count = 0; count < most.pairs; count++) {
    at = text.indexOf('&', at + 1);
    if (at < 0) return { head: text, isCut: false };
  }
  return { head: text.slice(0, at), isCut: true };
}

/** The pairs of a form that was encoded in another charset than UTF-8. */
function pairsIn(text: string, charset: string): [string, string][] {
  const decode = (part: string) => {
    const plain = part
      .replaceAll('+', ' ')
      .replace(/%([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
    const isBytes = [...plain].every(each => each.charCodeAt(0) < 256);
    return isBytes
      ? textIn(
          Uint8Array.from(plain, each => each.charCodeAt(0)),
          charset,
        )
      : plain;
  };
  return text
    .split('&')
    .filter(Boolean)
    .map(pair => {
      const at = pair.indexOf('=');
      return at < 0 ? [decode(pair), ''] : [decode(pair.slice(0, at)), decode(pair.slice(at + 1))];
    });
}

/** Most levels of brackets that are read as nesting; deeper ones stay part of the key. */
const MOST_LEVELS = 16;

/**
 * Name-value pairs as a document. `a[b][c]` nests, `a[]` and repeated names make lists.
 * @example nestedFromPairs([['kit[0][n]', '2']]) gives { kit: [{ n: '2' }] }
 */
export const nestedFromPairs = (pairs: Iterable<[string, string]>): JsonObject => nestedFromValues(pairs);

/** The same for values of any kind. Takes time by the number of pairs alone. */
export function nestedFromValues(pairs: Iterable<[string, Json]>): JsonObject {
  const nesting = new Nesting();
  const all = [...pairs];
  const lists = dottedLists(all.map(([name]) => name));
  for (const [name, value] of all)
    nesting.add(nesting.root, (lists.size > 0 && dottedPath(name, lists)) || pathOf(name), value);
  return nesting.document();
}

/** What is a list by dots: `days.0` with `days.1`, or several names of `guests.0`. */
function dottedLists(names: string[]): Set<string> {
  const first = new Map<string, number>();
  const known = new Set<string>();
  for (const name of names)
    for (const { index, 0: mark } of name.matchAll(/\.[01](?=\.|$)/g)) {
      const list = name.slice(0, index);
      if (mark === '.1') known.add(list);
      else first.set(list, (first.get(list) ?? 0) + 1);
    }
  return new Set([...first].filter(([list, count]) => known.has(list) || count > 1).map(([list]) => list));
}

/** The way that a name with dots tells, where one of its parts counts the items of a list; null for any other. */
function dottedPath(name: string, lists: Set<string>): string[] | null {
  const parts = name.split('.');
  if (parts.length > MOST_LEVELS || parts.some(part => part === '') || /[[\]\s]/.test(name)) return null;
  const counts = parts.findIndex(
    (part, index) => index > 0 && /^\d{1,4}$/.test(part) && lists.has(parts.slice(0, index).join('.')),
  );
  return counts < 0 ? null : [parts.slice(0, counts).join('.'), ...parts.slice(counts)];
}

function pathOf(name: string): string[] {
  const open = name.endsWith(']') ? name.indexOf('[') : -1;
  if (open < 1 || name.lastIndexOf(']', open) >= 0) return [name];
  const inner = name.slice(open + 1, -1).split('][', MOST_LEVELS + 1);
  if (inner.length > MOST_LEVELS || inner.some(token => /[[\]]/.test(token))) return [name];
  return [name.slice(0, open), ...inner];
}

/** The objects and lists that brackets and repeated names make; what came as a value is left as it is. */
class Nesting {
  readonly root: JsonObject = {};
  /** Lists and objects that were made here, the latter with the number of their members. */
  readonly #lists = new Set<Json[]>();
  readonly #sizes = new Map<JsonObject, number>([[this.root, 0]]);

  add(place: JsonObject, path: string[], value: Json): void {
    const [head = '', ...rest] = path;
    const token = head === '' && place !== this.root ? String(this.#sizes.get(place) ?? 0) : head;
    const held = Object.hasOwn(place, token) ? place[token]! : undefined;
    if (rest.length === 0) {
      if (held === undefined) this.#put(place, token, value);
      else this.#append(place, token, held, value);
    } else if (rest.length === 1 && rest[0] === '') {
      this.#append(place, token, held, value);
    } else {
      const isOwn = isJsonObject(held) && this.#sizes.has(held);
      const inner: JsonObject = isOwn ? held : isJsonObject(held) ? { ...held } : {};
      if (!isOwn) {
        this.#sizes.set(inner, Object.keys(inner).length);
        this.#put(place, token, inner);
      }
      this.add(inner, rest, value);
    }
  }

  #put(place: JsonObject, token: string, value: Json): void {
    if (!Object.hasOwn(place, token)) this.#sizes.set(place, (this.#sizes.get(place) ?? 0) + 1);
    setOwn(place, token, value);
  }

  /** Puts a value behind what is there under a name. */
  #append(place: JsonObject, token: string, held: Json | undefined, value: Json): void {
    if (Array.isArray(held) && this.#lists.has(held)) return void held.push(value);
    const list = [...(Array.isArray(held) ? held : held === undefined ? [] : [held]), value];
    this.#lists.add(list);
    this.#put(place, token, list);
  }

  /** All of it; objects whose keys are 0…n-1 as lists. */
  document(): JsonObject {
    for (const key of Object.keys(this.root)) setOwn(this.root, key, this.#numbered(this.root[key]!));
    return this.root;
  }

  #numbered(value: Json): Json {
    if (Array.isArray(value)) return this.#lists.has(value) ? value.map(each => this.#numbered(each)) : value;
    if (!isJsonObject(value) || !this.#sizes.has(value)) return value;
    const keys = Object.keys(value);
    for (const key of keys) setOwn(value, key, this.#numbered(value[key]!));
    return keys.length > 0 && keys.every((key, index) => key === String(index)) ? keys.map(key => value[key]!) : value;
  }
}
