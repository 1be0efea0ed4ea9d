import { isJsonObject, setOwn, type Json, type JsonObject } from './json';

/** One reference token escaped for a JSON Pointer (RFC 6901 §3): `~` is `~0`, `/` is `~1`. */
export const escapeToken = (token: string | number): string =>
  typeof token === 'number' || !/[~/]/.test(token) ? String(token) : token.replaceAll('~', '~0').replaceAll('/', '~1');

/** The JSON Pointer of some tokens, read from the whole on (RFC 6901 §3). None: the whole document. */
export const pointerOf = (tokens: readonly (string | number)[]): string =>
  tokens.map(token => `/${escapeToken(token)}`).join('');

/** The tokens of a JSON Pointer (RFC 6901 §4). Throws on one that does not start with `/`. */
export function tokensOf(pointer: string): string[] {
  if (pointer === '') return [];
  if (!pointer.startsWith('/')) throw new Error(`A JSON Pointer starts with “/”: ${pointer}`);
  return pointer
    .slice(1)
    .split('/')
    .map(token => token.replaceAll('~1', '/').replaceAll('~0', '~'));
}

const isArrayIndex = (token: string) => /^(0|[1-9]\d*)$/.test(token);

/** The value a JSON Pointer refers to in a document, or undefined (RFC 6901 §4). */
export function valueAt(document: Json, pointer: string): Json | undefined {
  let value: Json | undefined = document;
  for (const token of tokensOf(pointer)) {
    if (Array.isArray(value)) value = isArrayIndex(token) ? value[Number(token)] : undefined;
    else if (isJsonObject(value)) value = Object.hasOwn(value, token) ? value[token] : undefined;
    else return undefined;
  }
  return value;
}

/** Puts a value where a pointer says, making the objects and lists on the way. Changes and gives back the document. */
export const withValueAt = (document: Json, pointer: string, value: Json): Json =>
  compilePlace(pointer)(document, value);

/** The same for a place that is written again and again: its pointer is read once. */
export function compilePlace(pointer: string): (document: Json, value: Json) => Json {
  const tokens = tokensOf(pointer);
  const last = tokens.pop();
  if (last === undefined) return (_, value) => value;
  const way = tokens.map((token, depth) => ({ token, holdsList: isArrayIndex(tokens[depth + 1] ?? last) }));
  return (document, value) => {
    let place = document as Json[] | JsonObject;
    for (const { token, holdsList } of way) {
      let inner = Array.isArray(place) ? place[Number(token)] : Object.hasOwn(place, token) ? place[token] : undefined;
      if (typeof inner !== 'object' || inner === null) {
        inner = holdsList ? [] : {};
        put(place, token, inner);
      }
      place = inner;
    }
    put(place, last, value);
    return document;
  };
}

function put(place: Json[] | JsonObject, token: string, value: Json) {
  if (Array.isArray(place)) place[token === '-' ? place.length : Number(token)] = value;
  else setOwn(place, token, value);
}
