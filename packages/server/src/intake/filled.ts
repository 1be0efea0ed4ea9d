import { asText, isJsonObject, parseJson, pointerOf, valueAt, type Json } from '@grammata/core/submission';

/** Places for parts of an answer: `{specimen.id}`, `{items.0.name}`. */
const place = /\{([A-Za-z_][\w-]*(?:\.[\w-]+)*)\}/g;

const onlyPlace = /^\{([A-Za-z_][\w-]*(?:\.[\w-]+)*)\}$/;

const partOf = (answer: Json, name: string): Json => valueAt(answer, pointerOf(name.split('.'))) ?? null;

const filledText = (text: string, answer: Json): string =>
  text.replace(place, (_, name: string) => asText(partOf(answer, name)));

/** A text of JSON: a part alone keeps its type. */
function filledJson(value: Json, answer: Json): Json {
  if (Array.isArray(value)) return value.map(each => filledJson(each, answer));
  if (isJsonObject(value))
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, filledJson(each, answer)]));
  if (typeof value !== 'string') return value;
  const [whole, name] = onlyPlace.exec(value) ?? [];
  return whole === undefined ? filledText(value, answer) : partOf(answer, name!);
}

/**
 * What a sender gets of a target's answer: all of it where the template is empty, else the template with parts of it in their
 * places. A template that is JSON gives JSON, whatever stands in the parts.
 */
export function filled(template: string, answer: Json): { json: Json } | { text: string } {
  if (template.trim() === '') return { json: answer };
  const document = parseJson(template);
  return document === undefined || typeof document !== 'object'
    ? { text: filledText(template, answer) }
    : { json: filledJson(document, answer) };
}
