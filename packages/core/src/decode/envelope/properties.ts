import { isJsonObject, type Json, type JsonObject } from '../../submission';
import { optionLabels } from './options';
import { speaksOf, speaksOnlyOf, type Role } from '../names';

/** What a property is worth over all items of a list. */
interface Property {
  name: string;
  /** Share of items that have it, 0 to 1. */
  presence: number;
  /** Share of different values among those that are text or numbers. */
  distinct: number;
  isScalar: boolean;
  /** Share of texts that end with a question mark. */
  asking: number;
  /** Share of texts that start with a capital. */
  capital: number;
  /** Mean number of words of its texts. */
  words: number;
  /** True when every value could be an identifier: short, without white space. */
  isToken: boolean;
  /** Share of items in which its value names another property, of those that have one which others lack. */
  points: number;
}

/** Which property plays which part in the items of a list. */
export interface Parts {
  wording: string | null;
  key: string | null;
  kind: string | null;
  answer: (item: JsonObject) => string | null;
  /** True when the answer's property is called like one or pointed at by the kind. */
  isSure: boolean;
  options: string | null;
  other: string | null;
}

const MOST_PROPERTIES = 200;

/** Texts of a property whose wording is looked at. */
const MOST_WORDED = 24;

function propertiesOf(items: JsonObject[]): Property[] {
  const held = new Map<string, Json[]>();
  for (const item of items)
    for (const name of Object.keys(item)) {
      const values = held.get(name);
      if (values) values.push(item[name]!);
      else if (held.size < MOST_PROPERTIES) held.set(name, [item[name]!]);
    }
  const isCommon = (name: string) => (held.get(name)?.length ?? 0) / items.length > 0.9;
  const varied = items.filter(item => Object.keys(item).some(name => !isCommon(name)));
  return [...held].map(([name, values]) => {
    const scalars = values.filter(value => typeof value === 'string' || typeof value === 'number');
    const texts = scalars.slice(0, MOST_WORDED).map(String);
    const share = (is: (text: string) => boolean) => texts.filter(is).length / Math.max(1, texts.length);
    const points = varied.filter(item => typeof item[name] === 'string' && Object.hasOwn(item, item[name] as string));
    return {
      name,
      presence: values.length / items.length,
      distinct: new Set(scalars).size / Math.max(1, scalars.length),
      isScalar: scalars.length === values.length,
      asking: share(text => /\?\s*$/.test(text)),
      capital: share(text => /^\s*\p{Lu}/u.test(text)),
      words: texts.reduce((sum, text) => sum + wordCount(text), 0) / Math.max(1, texts.length),
      isToken: scalars.every(each => typeof each === 'number' || /^[\w.:[\]-]{1,80}$/.test(each)),
      points: points.length / Math.max(1, varied.length),
    };
  });
}

/** Pieces between white space; 1 for a text without any. */
function wordCount(text: string): number {
  let count = 0;
  let inWord = false;
  for (let at = 0; at < text.length; at++) {
    const isSpace = text.charCodeAt(at) <= 32 || text.charCodeAt(at) === 160;
    if (!isSpace && !inWord) count++;
    inWord = !isSpace;
  }
  return Math.max(1, count);
}

/** How much a property's texts look like questions: several words, question marks, a capital at the start. */
function wordingWorth({ words, asking, capital, isToken }: Property): number {
  if (isToken && asking === 0 && capital < 0.5) return -1;
  const wordy = words >= 1.3 ? 0.91 : Math.min(0.9, words / 3);
  return wordy + 0.3 * asking + 0.05 * capital + Math.min(0.04, words / 100);
}

/** The best property for a role: named for it and, where several are, the one whose values fit better. */
function best(properties: Property[], role: Role, worth: (property: Property) => number): string | null {
  const ranked = properties
    .map(property => ({ name: property.name, worth: worth(property) + (speaksOf(property.name, role) ? 1 : 0) }))
    .filter(each => each.worth > 0.9)
    .sort((a, b) => b.worth - a.worth);
  return ranked[0]?.name ?? null;
}

/**
 * The parts that the properties of a list's items play, or null when they are no labelled answers.
 * @param isKeyed true when the items already have keys from outside, as in a dictionary
 */
export function partsOf(items: JsonObject[], isKeyed: boolean): Parts | null {
  const properties = propertiesOf(items);
  const identifying = properties.filter(
    each => each.isScalar && each.presence > 0.9 && each.distinct > 0.95 && each.points < 0.5,
  );
  const wordings = properties.filter(
    each => each.isScalar && each.presence > 0.9 && each.distinct > 0.6 && each.points < 0.5,
  );
  const wording = best(
    wordings.filter(each => !speaksOnlyOf(each.name, 'answer')),
    'wording',
    wordingWorth,
  );
  const token = isKeyed
    ? null
    : best(
        identifying.filter(each => each.name !== wording),
        'id',
        each =>
          each.isToken && !speaksOf(each.name, 'answer') && (speaksOf(each.name, 'id') || !speaksOf(each.name, 'kind'))
            ? 0.95
            : -1,
      );
  // A token that nobody calls an identifier may be the answer itself.
  for (const key of token === null ? [null] : [token, null]) {
    if (wording === null && key === null && !isKeyed) continue;
    const taken = new Set([wording, key]);
    const kind = best(
      properties.filter(each => !taken.has(each.name) && each.isScalar && each.presence > 0.9),
      'kind',
      each => (each.points > 0.5 ? 0.95 : each.isToken && each.words < 2 ? 0.1 : -1),
    );
    const rest = properties.filter(each => !taken.has(each.name) && each.name !== kind);
    const found = answerProperty(items, rest, kind);
    if (!found) continue;
    const { answer, isSure } = found;
    const beside = rest.filter(each => items.some(item => answer(item) !== each.name));
    return {
      wording,
      key,
      kind,
      answer,
      isSure,
      options:
        beside.find(each => isOptions(each.name) && items.some(item => optionLabels(item[each.name]) !== null))?.name ??
        null,
      other: beside.find(each => /other|else|free_?text|specify/i.test(each.name))?.name ?? null,
    };
  }
  return null;
}

/** Which property of an item holds its answer: one for all, or one that varies from item to item. */
function answerProperty(
  items: JsonObject[],
  rest: Property[],
  kind: string | null,
): { answer: Parts['answer']; isSure: boolean } | null {
  const pointed = kind !== null && items.some(item => Object.hasOwn(item, String(item[kind])));
  const named = rest
    .filter(each => speaksOf(each.name, 'answer') && !isDefinition(each.name) && !isOptions(each.name))
    .sort((a, b) => b.presence - a.presence);
  if (!pointed && named[0] && named[0].presence > 0.2) {
    const names = named.map(each => each.name);
    return {
      answer: item =>
        names.find(name => Object.hasOwn(item, name) && item[name] !== null) ??
        names.find(name => Object.hasOwn(item, name)) ??
        null,
      isSure: true,
    };
  }
  const varying = new Set(
    rest
      .filter(each => each.presence < 0.9 && !isDefinition(each.name) && !isOptions(each.name))
      .map(each => each.name),
  );
  const pick = (item: JsonObject): string | null => {
    const byKind = kind === null ? '' : String(item[kind]);
    if (pointed && Object.hasOwn(item, byKind)) return byKind;
    const candidates = Object.keys(item).filter(name => varying.has(name));
    return (
      candidates.find(name => byKind !== '' && (name.startsWith(byKind) || name.endsWith(byKind))) ??
      candidates[0] ??
      null
    );
  };
  const holding = items.filter(item => pick(item) !== null).length / items.length;
  if (varying.size > 1 && (pointed || holding > 0.3)) return { answer: pick, isSure: pointed };
  if (pointed) return { answer: pick, isSure: true };
  const only = rest.filter(each => each.presence > 0.4 && !isDefinition(each.name) && !isOptions(each.name));
  return only.length === 1
    ? { answer: item => (Object.hasOwn(item, only[0]!.name) ? only[0]!.name : null), isSure: false }
    : null;
}

/** Properties that define a question and answer nothing. */
const isDefinition = (name: string): boolean =>
  /^(allowed|possible|required|mandatory|optional|config|settings|propert|validation|rules|position|order|index|sort|hidden|visible|placeholder|help|hint|description|properties|max|min|multiple|is_?|has_?|page|section|step|width|layout|other|unit)/i.test(
    name,
  );
const isOptions = (name: string): boolean =>
  /^(options?|choices?_?(list|available)?|available|items|enum|alternatives|picklist|allowed)$/i.test(name);

/** True for a list whose items are objects. */
export const isObjectList = (value: Json | undefined): value is JsonObject[] =>
  Array.isArray(value) && value.length > 0 && value.every(isJsonObject);
