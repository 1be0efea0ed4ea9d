import { escapeToken, isJsonObject, labelFromKey, valueAt, type Json, type JsonObject } from '../../submission';
import { DEEPEST } from '../notes';
import type { EnvelopeReader, EnvelopeReading, RawAnswer } from './reader';
import { speaksOf, speaksOnlyOf, surroundings, type Role } from './roles';

/** A list of answers that each say their question: `[{ id, label, type, answer }]`, in any naming. */
export const labelledList: EnvelopeReader = {
  id: 'labelled-list',
  label: 'list of labelled answers',
  read(document, at) {
    const candidates = listsIn(document, at, DEEPEST).flatMap(
      ({ items, pointer }) => readList(document, at, items, pointer) ?? [],
    );
    return candidates.sort((a, b) => b.score - a.score)[0] ?? null;
  },
};

interface List {
  items: JsonObject[];
  pointer: string;
}

/** Every list of objects below a document, outermost first. */
function listsIn(value: Json, at: string, depth: number): List[] {
  if (depth === 0 || typeof value !== 'object' || value === null) return [];
  const found: List[] = [];
  if (Array.isArray(value) && value.length > 0 && value.every(isJsonObject)) found.push({ items: value, pointer: at });
  if (Array.isArray(value)) return found;
  for (const [key, inner] of Object.entries(value))
    found.push(...listsIn(inner, `${at}/${escapeToken(key)}`, depth - 1));
  return found;
}

/** What a property is worth over all items. */
interface Property {
  name: string;
  /** Share of items that have it, 0 to 1. */
  presence: number;
  /** Share of different values among those that are text or numbers. */
  distinct: number;
  isScalar: boolean;
  /** Mean number of words of its texts. */
  words: number;
  /** True when every value could be an identifier: short, without white space. */
  isToken: boolean;
  /** Share of items in which its value names another property, of those that have one which others lack. */
  points: number;
}

function propertiesOf(items: JsonObject[]): Property[] {
  const names = [...new Set(items.flatMap(item => Object.keys(item)))].slice(0, 200);
  const common = new Set(
    names.filter(name => items.filter(item => Object.hasOwn(item, name)).length / items.length > 0.9),
  );
  const varied = items.filter(item => Object.keys(item).some(name => !common.has(name)));
  return names.map(name => {
    const values = items.filter(item => Object.hasOwn(item, name)).map(item => item[name]!);
    const scalars = values.filter(value => typeof value === 'string' || typeof value === 'number');
    return {
      name,
      presence: values.length / items.length,
      distinct: new Set(scalars).size / Math.max(1, scalars.length),
      isScalar: scalars.length === values.length,
      words:
        scalars.reduce<number>((sum, each) => sum + String(each).trim().split(/\s+/).length, 0) /
        Math.max(1, scalars.length),
      isToken: scalars.every(each => /^[\w.:-]{1,64}$/.test(String(each))),
      points:
        varied.filter(item => typeof item[name] === 'string' && Object.hasOwn(item, item[name] as string)).length /
        Math.max(1, varied.length),
    };
  });
}

/** The best property for a role: named for it and, where several are, the one whose values fit better. */
function best(properties: Property[], role: Role, worth: (property: Property) => number): string | null {
  const ranked = properties
    .map(property => ({ name: property.name, worth: worth(property) + (speaksOf(property.name, role) ? 1 : 0) }))
    .filter(each => each.worth > 0.9)
    .sort((a, b) => b.worth - a.worth);
  return ranked[0]?.name ?? null;
}

function readList(document: Json, at: string, items: JsonObject[], pointer: string): EnvelopeReading | null {
  const properties = propertiesOf(items);
  const identifying = properties.filter(
    each => each.isScalar && each.presence > 0.9 && each.distinct > 0.95 && each.points < 0.5,
  );
  const wording = best(
    identifying.filter(each => !speaksOnlyOf(each.name, 'answer')),
    'wording',
    each => Math.min(0.95, each.words / 3),
  );
  const token = best(
    identifying.filter(each => each.name !== wording),
    'id',
    each => (each.isToken && !speaksOf(each.name, 'answer') ? 0.95 : -1),
  );
  // A token that nobody calls an identifier may be the answer itself.
  for (const key of token === null ? [null] : [token, null]) {
    if (wording === null && key === null) continue;
    const taken = new Set([wording, key]);
    const kind = best(
      properties.filter(each => !taken.has(each.name) && each.isScalar && each.presence > 0.9),
      'kind',
      each => (each.points > 0.5 ? 0.95 : (each.distinct < 1 || items.length < 3) && each.words < 2 ? 0.1 : -1),
    );
    const rest = properties.filter(each => !taken.has(each.name) && each.name !== kind);
    const answer = answerProperty(items, rest, kind);
    if (answer)
      return reading(document, at, items, pointer, {
        wording,
        key,
        kind,
        answer,
        options: definitionProperty(items, rest, answer),
      });
  }
  return null;
}

/** Which property plays which part in the items of a list. */
interface Parts {
  wording: string | null;
  key: string | null;
  kind: string | null;
  answer: (item: JsonObject) => string | null;
  options: string | null;
}

function reading(document: Json, at: string, items: JsonObject[], pointer: string, parts: Parts): EnvelopeReading {
  const { wording, key, kind, answer, options } = parts;
  const answers = items.map((item, index): RawAnswer => {
    const label = wording === null ? labelFromKey(String(item[key!])) : String(item[wording]).trim();
    const property = answer(item);
    return {
      key: (key === null ? label : String(item[key])).replace(/\[\]$/, ''),
      label,
      stated: kind === null ? null : String(item[kind] ?? ''),
      value: property === null ? null : item[property]!,
      pointer: `${pointer}/${index}${property === null ? '' : `/${escapeToken(property)}`}`,
      options: options && Array.isArray(item[options]) ? optionLabels(item[options]) : null,
    };
  });
  const score = 0.55 + (wording ? 0.2 : 0) + (key ? 0.1 : 0) + (kind ? 0.1 : 0) + (items.length > 2 ? 0.02 : -0.1);
  const says = [
    wording && `“${wording}” words the question`,
    key && `“${key}” identifies it`,
    kind && `“${kind}” tells its kind`,
  ];
  return {
    reader: labelledList.id,
    label: labelledList.label,
    score: Math.min(0.97, score),
    why: `${items.length} items at ${pointer || 'the top'} each hold an answer; ${says.filter(Boolean).join(', ')}.`,
    answersAt: pointer,
    submissions: [{ ...surroundings(around(document, at, pointer)), answers }],
  };
}

/** Which property of an item holds its answer: one for all, or one that varies from item to item. */
function answerProperty(
  items: JsonObject[],
  rest: Property[],
  kind: string | null,
): ((item: JsonObject) => string | null) | null {
  const named = rest.filter(each => speaksOf(each.name, 'answer')).sort((a, b) => b.presence - a.presence)[0];
  if (named && named.presence > 0.2) return item => (Object.hasOwn(item, named.name) ? named.name : null);
  const pointed = kind !== null && items.some(item => Object.hasOwn(item, String(item[kind])));
  const varying = new Set(rest.filter(each => each.presence < 0.9 && !isDefinition(each.name)).map(each => each.name));
  const pick = (item: JsonObject): string | null => {
    const byKind = kind === null ? '' : String(item[kind]);
    if (pointed && Object.hasOwn(item, byKind)) return byKind;
    return Object.keys(item).find(name => varying.has(name)) ?? null;
  };
  const holding = items.filter(item => pick(item) !== null).length / items.length;
  if (varying.size > 0 && (pointed || holding > 0.3)) return pick;
  const only = rest.filter(each => each.presence > 0.9 && !isDefinition(each.name));
  return only.length === 1 ? () => only[0]!.name : null;
}

const isDefinition = (name: string) =>
  /^(options|choices|allowed|possible|required|config|settings|validation|items)/i.test(name);

/** The property that lists the possible options as `{ id, label }`, when there is one beside the answer. */
function definitionProperty(
  items: JsonObject[],
  rest: Property[],
  answer: (item: JsonObject) => string | null,
): string | null {
  const lists = rest.filter(each =>
    items.some(item => answer(item) !== each.name && Array.isArray(item[each.name]) && optionLabels(item[each.name]!)),
  );
  return lists[0]?.name ?? null;
}

/** `[{ id, label }]` as a map from identifier to label; null when the list is none of that kind. */
export function optionLabels(list: Json): Map<string, string> | null {
  if (!Array.isArray(list) || list.length === 0) return null;
  const labels = new Map<string, string>();
  for (const option of list) {
    if (!isJsonObject(option)) return null;
    const names = Object.keys(option).filter(name => ['string', 'number'].includes(typeof option[name]));
    const label = names.find(name => speaksOf(name, 'wording'));
    const id = names.find(name => name !== label && (speaksOf(name, 'id') || speaksOf(name, 'answer')));
    if (!label || !id) return null;
    labels.set(String(option[id]), String(option[label]));
  }
  return labels;
}

/** The objects on the way down to the answers, laid over one another, without the branch that leads to them. */
function around(document: Json, at: string, pointer: string): JsonObject {
  const steps = pointer.slice(at.length).split('/').slice(1);
  const laid: JsonObject = {};
  let place: Json | undefined = document;
  for (const step of steps) {
    if (!isJsonObject(place)) break;
    for (const [name, value] of Object.entries(place)) if (escapeToken(name) !== step) laid[name] ??= value;
    place = valueAt(place, `/${step}`);
  }
  return laid;
}
