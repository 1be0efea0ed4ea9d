import { escapeToken, isJsonObject, setOwn, valueAt, type Json, type JsonObject } from '../../submission';
import { most } from '../notes';

/** Whether a place is another or stands below it. */
export const isWithin = (pointer: string, outer: string) => pointer === outer || pointer.startsWith(`${outer}/`);

/** A value without what stands at some places; undefined where nothing of it is left. */
export function without(value: Json, at: string, places: readonly string[]): Json | undefined {
  if (places.includes(at)) return undefined;
  const inner = places.filter(each => each.startsWith(`${at}/`));
  if (inner.length === 0 || typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) {
    const rest = value.flatMap((each, index) => without(each, `${at}/${index}`, inner) ?? []);
    return rest.length > 0 ? rest : undefined;
  }
  const rest: JsonObject = {};
  for (const [name, each] of Object.entries(value)) {
    const left = without(each, `${at}/${escapeToken(name)}`, inner);
    if (left !== undefined) setOwn(rest, name, left);
  }
  return Object.keys(rest).length > 0 ? rest : undefined;
}

/**
 * What stands around the answers: the objects on the way down to them, laid over one another, the nearest on top, without what
 * belongs to the answers or defines them.
 */
export function around(document: Json, at: string, pointer: string, except: readonly string[] = []): JsonObject {
  const steps = isWithin(pointer, at) ? pointer.slice(at.length).split('/').slice(1) : [];
  const levels: JsonObject[] = [];
  let place: Json | undefined = document;
  let here = at;
  const lay = (object: JsonObject, step: string | null) => {
    const level: JsonObject = {};
    for (const [name, value] of Object.entries(object).slice(0, most.around)) {
      if (escapeToken(name) === step) continue;
      const left = without(value, `${here}/${escapeToken(name)}`, except);
      if (left !== undefined) setOwn(level, name, left);
    }
    levels.push(level);
  };
  for (const step of steps) {
    if (isJsonObject(place)) lay(place, step);
    place = place === undefined ? undefined : valueAt(place, `/${step}`);
    here = `${here}/${step}`;
  }
  // Where the answers are some keys of an object, the others stand around them.
  if (isJsonObject(place) && !except.includes(pointer)) lay(place, null);
  const laid: JsonObject = {};
  for (const level of levels.reverse())
    for (const [name, value] of Object.entries(level)) if (!Object.hasOwn(laid, name)) setOwn(laid, name, value);
  return laid;
}
