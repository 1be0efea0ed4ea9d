import { isJsonObject, parseJson, setOwn, type Json, type JsonObject } from '../../submission';
import { DEEPEST } from '../notes';

/** The texts that were opened, by what they hold: inside an answer they stay the text that was written. */
const texts = new WeakMap<object, string>();

/** The value as it was sent: what a text held is that text again. */
export const asSent = (value: Json): Json =>
  typeof value === 'object' && value !== null ? (texts.get(value) ?? value) : value;

/** True for what stood in a text of its own. */
export const isOpened = (value: Json): boolean => typeof value === 'object' && value !== null && texts.has(value);

/** What was made of a value that stood in a text stands in it as well. */
export function keepOpened<T extends object>(before: object, after: T): T {
  const text = texts.get(before);
  if (text !== undefined) texts.set(after, text);
  return after;
}

/** Texts longer than this are not tried as JSON inside JSON. */
const LONGEST = 2_000_000;

/** True for a text that begins and ends like a JSON object, like lists of some, or like a JSON text of such a text. */
function looksLikeObjects(text: string): boolean {
  let inner = text.trim();
  if (inner.startsWith('"') && inner.endsWith('"')) return /^"\s*[[{\\]/.test(inner);
  for (let depth = 0; depth < 2 && inner.startsWith('[') && inner.endsWith(']'); depth++)
    inner = inner.slice(1, -1).trim();
  return inner.startsWith('{') && inner.endsWith('}');
}

/** An object, or lists of some. */
const holdsObjects = (value: Json | undefined, depth = 2): boolean =>
  isJsonObject(value) ||
  (Array.isArray(value) && value.length > 0 && depth > 0 && value.every(each => holdsObjects(each, depth - 1)));

/** The document with texts that hold a JSON object, or a list of objects, opened up. Gives the same document back where there are none. */
export function withEmbeddedOpened(value: Json, depth = DEEPEST): Json {
  if (depth === 0) return value;
  if (typeof value === 'string') {
    if (value.length > LONGEST || !looksLikeObjects(value)) return value;
    const inner = parseJson(value);
    if (typeof inner === 'string') {
      const opened = withEmbeddedOpened(inner, depth - 1);
      if (opened === inner) return value;
      if (typeof opened === 'object' && opened !== null) texts.set(opened, value);
      return opened;
    }
    if (!holdsObjects(inner)) return value;
    const opened = withEmbeddedOpened(inner!, depth - 1);
    texts.set(opened as object, value);
    return opened;
  }
  if (Array.isArray(value)) {
    const opened = value.map(each => withEmbeddedOpened(each, depth - 1));
    return opened.some((each, index) => each !== value[index]) ? opened : value;
  }
  if (!isJsonObject(value)) return value;
  let changed: JsonObject | null = null;
  for (const [key, each] of Object.entries(value)) {
    const opened = withEmbeddedOpened(each, depth - 1);
    if (opened === each) continue;
    changed ??= { ...value };
    setOwn(changed, key, opened);
  }
  return changed ?? value;
}
