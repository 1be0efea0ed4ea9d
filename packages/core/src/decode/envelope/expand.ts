import { isJsonObject, parseJson, setOwn, type Json, type JsonObject } from '../../submission';
import { DEEPEST } from '../notes';

/** Texts longer than this are not tried as JSON inside JSON. */
const LONGEST = 2_000_000;

/** True for a text that begins and ends like a JSON object, or like a list of some. */
function looksLikeObjects(text: string): boolean {
  const plain = text.trim();
  const inner = plain.startsWith('[') && plain.endsWith(']') ? plain.slice(1, -1).trim() : plain;
  return inner.startsWith('{') && inner.endsWith('}');
}

/** The document with texts that hold a JSON object, or a list of objects, opened up. Gives the same document back where there are none. */
export function withEmbeddedOpened(value: Json, depth = DEEPEST): Json {
  if (depth === 0) return value;
  if (typeof value === 'string') {
    if (value.length > LONGEST || !looksLikeObjects(value)) return value;
    const inner = parseJson(value);
    const holdsObjects = isJsonObject(inner) || (Array.isArray(inner) && inner.every(isJsonObject));
    return holdsObjects ? withEmbeddedOpened(inner, depth - 1) : value;
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
