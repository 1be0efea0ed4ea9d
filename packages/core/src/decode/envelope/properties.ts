import { isJsonObject, type Json, type JsonObject } from '../../submission';
import { wordCount, wordingWorth as worthOfText } from '../evidence';
import { isOptionsNamed, markedIn, optionLabels } from './options';
import { nameWords, speaksOf, speaksOnlyOf, type Role } from '../names';

/** What a property is worth over all items of a list. */
interface Property {
  name: string;
  /** Share of items that have it, 0 to 1. */
  presence: number;
  /** Share of different values among those that are text or numbers. */
  distinct: number;
  /** The same where one value several times in a row counts once: what was chosen comes one by one. */
  runs: number;
  isScalar: boolean;
  /** Share of texts that end with a question mark. */
  asking: number;
  /** Share of texts that start with a capital. */
  capital: number;
  /** Mean number of words of its texts. */
  words: number;
  /** True where one of its texts has several lines. */
  isLined: boolean;
  /** Mean of how well its texts read as wordings. */
  wordings: number;
  /** Kinds of JSON value among those that are not null. */
  sorts: number;
  /** True for booleans alone, for one value in all, and for numbers that count the items. */
  isIdle: boolean;
  /** True for numbers that go up by one from item to item. */
  counts: boolean;
  /** True for one value in all. */
  isConstant: boolean;
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
  /** True where what was answered is of several sorts, as questions are and the column of a table is not. */
  isMixed: boolean;
  /** Share of what the items hold that plays no part, 0 to 1. */
  unused: number;
  /** How well its wordings read as such, 0 to 1; 0 where it has none. */
  worth: number;
  options: string | null;
  /** The property that lists all options, with a mark on those that were chosen. */
  marked: string | null;
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
    const points = varied.filter(
      item =>
        typeof item[name] === 'string' && Object.hasOwn(item, item[name] as string) && !isCommon(item[name] as string),
    );
    return {
      name,
      presence: values.length / items.length,
      distinct: new Set(scalars).size / Math.max(1, scalars.length),
      runs:
        new Set(scalars).size /
        Math.max(1, scalars.filter((each, index) => index === 0 || each !== scalars[index - 1]).length),
      isScalar: scalars.length === values.length,
      asking: share(text => /\?\s*$/.test(text)),
      capital: share(text => /^\s*\p{Lu}/u.test(text)),
      words: texts.reduce((sum, text) => sum + wordCount(text), 0) / Math.max(1, texts.length),
      wordings: texts.reduce((sum, text) => sum + worthOfText(text), 0) / Math.max(1, texts.length),
      sorts: new Set(values.filter(each => each !== null).map(sortOf)).size,
      isLined: texts.some(text => text.includes('\n')),
      isIdle: isIdle(values),
      counts: counts(values),
      isConstant: isConstant(values),
      isToken: scalars.every(each => typeof each === 'number' || /^[\w.:[\]-]{1,80}$/.test(each)),
      points: points.length / Math.max(1, varied.length),
    };
  });
}

const sortOf = (value: Json): string => (Array.isArray(value) ? 'list' : typeof value);

function isIdle(values: Json[]): boolean {
  if (values.every(each => typeof each === 'boolean')) return true;
  if (values.length < 2) return false;
  if (isConstant(values)) return true;
  return counts(values);
}

/** One value in all, objects too. */
const isConstant = (values: Json[]): boolean => {
  const [first] = values;
  if (typeof first !== 'object' || first === null) return values.length > 1 && values.every(each => each === first);
  const text = JSON.stringify(first);
  return (
    values.length > 1 &&
    text.length < 2000 &&
    values.every(each => typeof each === 'object' && JSON.stringify(each) === text)
  );
};

const counts = (values: Json[]): boolean =>
  values.length > 1 &&
  values.every(
    (each, index) =>
      typeof each !== 'object' && String(each).trim() !== '' && Number(each) === Number(values[0]) + index,
  );

/** How much a property's texts look like questions: several words, question marks, a capital at the start. */
function wordingWorth({ words, asking, capital, isToken, wordings, isLined }: Property): number {
  if (isLined || (isToken && asking === 0 && capital < 0.5)) return -1;
  const wordy = words >= 1.3 || wordings > 0.95 ? 0.91 : wordings >= 0.85 ? 0.9 : Math.min(0.9, words / 3);
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
    each => each.isScalar && each.presence > 0.9 && each.runs > 0.95 && each.points < 0.5,
  );
  const wordings = properties.filter(
    each =>
      each.isScalar &&
      each.presence > 0.9 &&
      (each.distinct > 0.6 || (each.distinct > 0.3 && items.length > 3 && speaksOf(each.name, 'wording'))) &&
      each.points < 0.5,
  );
  const wording = best(
    wordings.filter(each => !speaksOnlyOf(each.name, 'answer') && each.wordings > 0.45),
    'wording',
    wordingWorth,
  );
  const token = isKeyed
    ? null
    : best(
        identifying.filter(each => each.name !== wording),
        'id',
        each =>
          each.isToken && !isAnswerNamed(each.name) && (speaksOf(each.name, 'id') || !speaksOf(each.name, 'kind'))
            ? 0.95 + (isOfQuestion(each.name) ? 0.2 : 0)
            : -1,
      );
  // A token that nobody calls an identifier may be the answer itself.
  for (const key of token === null ? [null] : [token, null]) {
    if (wording === null && key === null && !isKeyed) continue;
    const taken = new Set([wording, key]);
    const kind = best(
      properties.filter(
        each =>
          !taken.has(each.name) &&
          each.isScalar &&
          (each.presence > 0.9 || (each.presence > 0.15 && /^(type|kind)$/.test(each.name))),
      ),
      'kind',
      each =>
        each.points > 0.5 ? 0.95 : each.isToken && each.words < 2 ? (looksLikeKind(each, items) ? 0.92 : 0.1) : -1,
    );
    const rest = properties.filter(each => !taken.has(each.name) && each.name !== kind);
    const marked = rest.find(each => items.some(item => markedIn(item[each.name]) !== null));
    const found =
      answerProperty(
        items,
        rest.filter(each => each !== marked),
        kind,
      ) ?? (marked ? { answer: () => null, isSure: true } : null);
    if (!found) continue;
    const { answer, isSure } = found;
    const beside = rest.filter(each => items.some(item => answer(item) !== each.name));
    return {
      wording,
      key,
      kind,
      answer,
      isSure,
      isMixed: isMixed(items.map(item => (answer(item) === null ? null : item[answer(item)!]!))),
      unused: unusedIn(items, rest, answer),
      worth: properties.find(each => each.name === wording)?.wordings ?? 0,
      marked: marked?.name ?? null,
      options:
        beside.find(each => isOptions(each.name) && items.some(item => optionLabels(item[each.name]) !== null))?.name ??
        null,
      other: beside.find(each => /other|else|free_?text|specify/i.test(each.name))?.name ?? null,
    };
  }
  return null;
}

/** Names of what was before a change, and of what is after it. */
const beforeChange =
  /^(old|previous|prior|former|before|was|from|alt|vorher|ancien|avant|anterior)([_ ]?(value|answer|wert))?$/i;
const afterChange =
  /^(new|current|now|after|is|to|neu|nachher|nouveau|apres|nuevo|actual)([_ ]?(value|answer|wert))?$/i;

/** The later of two that stand for one thing before and after a change, and the earlier; null where there is no such pair. */
export function changeAmong(names: string[]): { old: string; now: string } | null {
  const [old, now] = [names.find(name => beforeChange.test(name)), names.find(name => afterChange.test(name))];
  return old !== undefined && now !== undefined ? { old, now } : null;
}

const own = (name: string) => (item: JsonObject) => (Object.hasOwn(item, name) ? name : null);

/** `question_id`, `fieldRef`: the identifier of what was asked, rather than of the item. */
const isOfQuestion = (name: string): boolean =>
  nameWords(name).length > 1 && /question|field|frage|vraag|pregunta|ask|prompt|element/i.test(name);

/** Called as answers are, and not as the identifier of something. */
const isAnswerNamed = (name: string): boolean =>
  speaksOf(name, 'answer') && !speaksOf(nameWords(name).at(-1) ?? '', 'id');

/** Identifiers, kinds and running numbers are never what was answered, where nothing calls them so. */
const saysNothing = ({ name, isToken, distinct, isScalar, counts, isConstant }: Property): boolean =>
  counts ||
  (isConstant && !isScalar) ||
  (isScalar && isToken && distinct === 1 && !isAnswerNamed(name) && speaksOf(nameWords(name).at(-1) ?? '', 'id')) ||
  (isScalar && speaksOnlyOf(name, 'kind'));

/** One of two lists of the same length in each item that has them: identifiers and labels of options. */
function isSideBySide(name: string, items: JsonObject[]): boolean {
  const having = items.filter(item => Array.isArray(item[name]));
  return (
    having.length > 0 &&
    having.every(item =>
      Object.entries(item).some(
        ([other, value]) =>
          other !== name &&
          Array.isArray(value) &&
          value.length === (item[name] as Json[]).length &&
          nameWords(other)[0] === nameWords(name)[0],
      ),
    )
  );
}

/** The sort of an answer: what columns of a table have in common. */
function lexicalSort(value: Json): string {
  if (Array.isArray(value)) return 'list';
  if (typeof value !== 'string') return typeof value;
  if (value.includes('\n')) return 'lines';
  if (/^[^\s@]+@[^\s@]+$/.test(value)) return 'address';
  if (/^[\d.,:/\s-]+$/.test(value)) return 'figures';
  return wordCount(value) > 3 ? 'prose' : wordCount(value) > 1 ? 'words' : 'word';
}

const isMixed = (values: Json[]): boolean =>
  new Set(values.filter(each => each !== null && each !== '').map(lexicalSort)).size > 1;

/** How much of what the items hold nothing was found for. */
function unusedIn(items: JsonObject[], rest: Property[], answer: Parts['answer']): number {
  const free = rest.filter(
    each =>
      !each.isIdle &&
      !isDefinition(each.name) &&
      !isOptionsNamed(each.name) &&
      !speaksOnlyOf(each.name, 'kind', 'id', 'old', 'wording') &&
      each.presence > 0.9,
  );
  const sample = items.slice(0, MOST_WORDED);
  const shares = sample.map(item => {
    const names = Object.keys(item);
    const own = answer(item);
    return free.filter(each => each.name !== own && item[each.name] !== null).length / Math.max(1, names.length);
  });
  return shares.reduce((sum, each) => sum + each, 0) / Math.max(1, shares.length);
}

const isPlainList = (value: Json | undefined): boolean =>
  Array.isArray(value) && value.length > 0 && value.every(each => typeof each === 'string');

/** The usual words for kinds of question. Common practice, no source. */
const kindWord =
  /^(short|long)?_?-?(text|textarea|textfield|string|number|integer|int|float|decimal|e?mail|phone|tel|url|link|date|datetime|time|radio|checkbox(es)?|select|multi_?-?select|dropdown|choice|choices|multiple|single|boolean|bool|yesno|rating|scale|slider|file|files|upload|image|signature|name|fullname|address|matrix|table|grid|consent|hidden|heading|note|statement|paragraph|input|list|range|line|lines|words)$/i;

/** Few short words of one sort, in small letters, again and again; or words that are usual for kinds. */
function looksLikeKind({ name, distinct, capital, isIdle, sorts, isScalar }: Property, items: JsonObject[]): boolean {
  if (items.length < 3 || !isScalar || sorts !== 1 || capital > 0) return false;
  const usual = items.filter(item => typeof item[name] === 'string' && kindWord.test(item[name])).length;
  return usual > 0.6 * items.length || (items.length > 3 && !isIdle && distinct < 0.8);
}

/** Which property of an item holds its answer: one for all, or one that varies from item to item. */
function answerProperty(
  items: JsonObject[],
  all: Property[],
  kind: string | null,
): { answer: Parts['answer']; isSure: boolean } | null {
  const change = changeAmong(all.map(each => each.name));
  const offers = (name: string) =>
    isOptionsNamed(name) &&
    !speaksOnlyOf(name, 'answer') &&
    items.some(item => optionLabels(item[name]) !== null) &&
    items.every(item => item[name] === undefined || item[name] === null || typeof item[name] === 'object');
  const rest = all.filter(each => each.name !== change?.old && !offers(each.name) && !isSideBySide(each.name, items));
  if (change) return { answer: own(change.now), isSure: true };
  // A kind that happens to be called as a member that all items have points at nothing.
  const some = new Set(rest.filter(each => each.presence < 0.9).map(each => each.name));
  const pointed =
    kind !== null && items.some(item => some.has(String(item[kind])) && Object.hasOwn(item, String(item[kind])));
  const named = rest
    .filter(each => isAnswerNamed(each.name) && !isDefinition(each.name) && !isOptions(each.name))
    .sort(
      (a, b) =>
        Number(speaksOnlyOf(b.name, 'answer')) - Number(speaksOnlyOf(a.name, 'answer')) || b.presence - a.presence,
    );
  const answersNamed = items.filter(item => named.some(each => Object.hasOwn(item, each.name))).length / items.length;
  const others = items.filter(item =>
    rest.some(each => each.presence < 0.9 && !named.includes(each) && Object.hasOwn(item, each.name)),
  );
  const isOne = answersNamed > 0.6 || others.length / items.length + answersNamed < 0.9;
  if (!pointed && named[0] && named[0].presence > 0.2 && isOne) {
    const names = named.map(each => each.name);
    const first = named.filter(each => each.presence > 0.9 && !each.isIdle)[0];
    if (first && names.length > 1 && named.filter(each => each.presence > 0.9).length > 1) names.unshift(first.name);
    return {
      answer: item =>
        names.find(name => Object.hasOwn(item, name) && item[name] !== null) ??
        Object.keys(item).find(name => some.has(name) && isJsonObject(item[name])) ??
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
    if (pointed && some.has(byKind) && Object.hasOwn(item, byKind)) return byKind;
    const candidates = Object.keys(item).filter(
      name => varying.has(name) || (isOptions(name) && isPlainList(item[name])),
    );
    // Labels side by side are what could be chosen, where something else tells what was.
    const told = candidates.filter(name => !isPlainList(item[name]));
    if (told.length > 0 && told.length < candidates.length) candidates.splice(0, candidates.length, ...told);
    return (
      candidates.find(name => byKind !== '' && (name.startsWith(byKind) || name.endsWith(byKind))) ??
      candidates[0] ??
      null
    );
  };
  const holding = items.filter(item => pick(item) !== null).length / items.length;
  const common = rest.filter(each => each.presence >= 0.9 && !isDefinition(each.name) && !isOptions(each.name));
  if (varying.size > 1 && (pointed || holding > 0.6 || (holding > 0.3 && common.length === 0)))
    return { answer: pick, isSure: pointed };
  if (pointed) return { answer: pick, isSure: true };
  const only = rest.filter(
    each =>
      each.presence > 0.4 && !isDefinition(each.name) && !isOptions(each.name) && !/^(other|else)/i.test(each.name),
  );
  if (only.length === 1) return saysNothing(only[0]!) ? null : { answer: own(only[0]!.name), isSure: false };
  // Of several, the one whose values differ most in their nature.
  const lively = only
    .filter(each => !each.isIdle && !saysNothing(each))
    .map(each => ({
      name: each.name,
      worth: each.sorts + (each.words > 1.3 ? 0.5 : 0) + (each.capital > 0.3 ? 0.3 : 0) - (each.isToken ? 0.3 : 0),
    }))
    .sort((a, b) => b.worth - a.worth);
  if (lively.length === 1) return { answer: own(lively[0]!.name), isSure: false };
  return lively.length > 1 && lively[0]!.worth >= lively[1]!.worth + 0.5
    ? { answer: own(lively[0]!.name), isSure: false }
    : null;
}

/** Properties that define a question and answer nothing. */
const isDefinition = (name: string): boolean =>
  /^(allowed|possible|required|mandatory|optional|config|settings|propert|validation|rules|position|order|index|sort|hidden|visible|placeholder|help|hint|description|properties|max|min|multiple|is_|has_|page|section|step|width|layout|other|unit)/i.test(
    name,
  );
const isOptions = (name: string): boolean =>
  /^(options?|choices?_?(list|available)?|available|items|enum|alternatives|picklist|allowed)$/i.test(name);
