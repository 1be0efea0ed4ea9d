import { isJsonObject, setOwn, type Json, type JsonObject } from '../../submission';
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
    const pairs = /^utf-?8$/i.test(stated) ? [...new URLSearchParams(text)] : pairsIn(text, stated);
    return { document: nestedFromPairs(pairs.filter(([name]) => name !== '_charset_')), notes: [] };
  },
};

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

/** The same for values of any kind. */
export function nestedFromValues(pairs: Iterable<[string, Json]>): JsonObject {
  const root: JsonObject = {};
  for (const [name, value] of pairs) {
    const path = pathOf(name);
    add(root, path, value, true);
  }
  for (const key of Object.keys(root)) setOwn(root, key, listsWhereNumbered(root[key]!));
  return root;
}

function pathOf(name: string): string[] {
  const match = /^([^[\]]+)((?:\[[^[\]]*\])+)$/.exec(name);
  if (!match) return [name];
  const inner = [...match[2]!.matchAll(/\[([^[\]]*)\]/g)].map(each => each[1]!);
  return inner.length > MOST_LEVELS ? [name] : [match[1]!, ...inner];
}

function add(place: JsonObject, path: string[], value: Json, isTop = false): void {
  const [head = '', ...rest] = path;
  const token = head === '' && !isTop ? String(Object.keys(place).length) : head;
  const held = Object.hasOwn(place, token) ? place[token]! : undefined;
  if (rest.length === 0) {
    if (held === undefined) setOwn(place, token, value);
    else setOwn(place, token, Array.isArray(held) ? [...held, value] : [held, value]);
  } else if (rest.length === 1 && rest[0] === '') {
    setOwn(place, token, [...(Array.isArray(held) ? held : held === undefined ? [] : [held]), value]);
  } else {
    const inner = isJsonObject(held) ? held : {};
    if (inner !== held) setOwn(place, token, inner);
    add(inner, rest, value);
  }
}

/** Objects whose keys are 0…n-1 become lists. */
function listsWhereNumbered(value: Json): Json {
  if (Array.isArray(value)) return value.map(listsWhereNumbered);
  if (!isJsonObject(value)) return value;
  const keys = Object.keys(value);
  for (const key of keys) setOwn(value, key, listsWhereNumbered(value[key]!));
  return keys.length > 0 && keys.every((key, index) => key === String(index)) ? keys.map(key => value[key]!) : value;
}
