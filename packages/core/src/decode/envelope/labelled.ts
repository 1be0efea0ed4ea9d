import { asText, escapeToken, isJsonObject, labelFromKey, type Json } from '../../submission';
import { filesOf } from '../files';
import { isAddressObject, isCheckboxGroup, isNameObject, speaksOf, speaksOnlyOf } from '../names';
import { DEEPEST } from '../notes';
import { byOrder, collectionsIn, containersAmong, shapeOf, type Collection, type Item } from './collections';
import { isOpened } from './expand';
import { isStructural, wordingWorth } from '../evidence';
import { markedIn, optionLabels, optionsOf } from './options';
import type { Place } from './place';
import { partsOf, type Parts } from './properties';
import type { RawAnswer } from './reader';

/** Collections that are tried as the answers, the largest: each is held against all others. */
const MOST_STARTS = 30;

/**
 * Answers that each say their question: `[{ id, label, type, answer }]`, in any naming, in pages and groups too, or the same with
 * the identifiers or the wordings as keys: `{ q1: { label, answer } }`.
 */
export function labelledPlaces(document: Json, at: string): Place[] {
  const all = collectionsIn(document, at, DEEPEST);
  const largest = all.length > MOST_STARTS ? [...all].sort((a, b) => b.items.length - a.items.length) : all;
  const covered = new Set<Collection>();
  return largest
    .slice(0, MOST_STARTS)
    .flatMap(each => (covered.has(each) ? [] : (readCollection(each, all, covered) ?? [])));
}

function readCollection(start: Collection, all: Collection[], covered: Set<Collection>): Place | null {
  const own = partsOf(
    start.items.map(item => item.object),
    start.isDictionary,
  );
  if (!own || isFiles(start.items)) return null;
  const { items, from } = siblingsOf(start, all, own);
  // What is read together here would be read so again from each of them.
  for (const each of from) covered.add(each);
  const parts =
    items.length === start.items.length
      ? own
      : (partsOf(
          items.map(item => item.object),
          start.isDictionary,
        ) ?? own);
  const trust = trustIn(start, items, parts);
  if (trust === 0) return null;
  const containers = items.length === start.items.length ? null : containersAmong(items);
  const leaves = items.filter(item => !containers?.has(item));
  const answers = withSeveral(leaves.map(item => rawAnswer(item, parts)));
  // The same question twice, in several places: these are several submissions, not the pages of one.
  const repeats = from.length > 1 && new Set(answers.map(answer => answer.key)).size < answers.length;
  const says = [
    parts.wording && `“${parts.wording}” is the question text`,
    parts.key ? `“${parts.key}” is the question key` : start.isDictionary && 'its key is the question key',
    parts.kind && `“${parts.kind}” is the question type`,
  ];
  return {
    reader: start.isDictionary ? 'labelled-dictionary' : 'labelled-list',
    label: start.isDictionary ? 'dictionary of labelled answers' : 'list of labelled answers',
    at: start.pointer,
    answers,
    covers: from.flatMap(each =>
      all.some(other => other !== each && other.pointer === each.pointer)
        ? each.items.map(item => item.pointer)
        : [each.pointer],
    ),
    trust: repeats ? trust * (parts.key !== null || start.isDictionary ? 0.5 : 0.75) : trust,
    isWorded: parts.wording !== null,
    columns: { wording: parts.wording, key: parts.key, kind: parts.kind },
    shape: shapeOf(leaves[0]?.object ?? {}),
    why: `${answers.length} items at ${start.pointer || 'the top'} each have an answer; ${says.filter(Boolean).join(', ')}.`,
  };
}

/** How plainly the items say that each is an answer with its question. */
function trustIn({ isDictionary, items: first }: Collection, items: Item[], parts: Parts): number {
  const names = [...new Set(items.slice(0, 20).flatMap(({ object }) => Object.keys(object)))];
  // Names that read as questions are the header of a table, whose rows are submissions.
  const isHead = (name: string) => /\s|[?？]/.test(name.trim()) || (/^\p{Lu}\p{Ll}/u.test(name) && !isStructural(name));
  const wordy = names.filter(isHead).length / names.length;
  const structural = names.filter(name => isStructural(name)).length / names.length;
  if (parts.wording === null) {
    if (isDictionary) {
      const keys = first.map(item => item.key ?? '');
      const worded = keys.reduce((sum, key) => sum + wordingWorth(key), 0) / keys.length;
      const answered = items.filter(({ object }) => parts.answer(object) !== null).length / items.length;
      if (answered < 0.7 || (items.length < 2 && structural < 0.99)) return 0;
      if (!parts.isSure && worded < 0.9) return 0.25;
      const base = parts.isSure ? 0.9 : parts.isMixed && worded >= 0.85 && items.length > 2 ? 0.85 : 0.6;
      return base * (0.7 + 0.3 * structural) * (1 - wordy);
    }
    return (parts.isSure ? 0.75 : 0.35) * (1 - wordy);
  }
  const isNamed = speaksOf(parts.wording, 'wording');
  const told =
    (isNamed ? (/^(name|nom|nombre|naam|titel|title)$/i.test(parts.wording) ? 0.2 : 0.3) : 0.1) +
    (parts.isSure ? 0.3 : 0.1);
  const keyed = parts.key !== null || isDictionary ? 0.06 : 0;
  const few = items.length > 1 ? 0 : parts.isSure ? -0.02 : -0.3;
  // Whatever it is called: texts that read as questions, beside answers of several sorts.
  const shown = items.length > 2 ? (parts.worth > 0.8 ? 0.14 : 0) + (parts.isMixed ? 0.14 : 0) : 0;
  // Columns of a table are each of one sort.
  const even = !parts.isSure && !parts.isMixed && items.length > 1 && structural < 0.9 ? -0.25 : 0;
  const sum = even + 0.32 + told + keyed + 0.1 * structural + (parts.kind ? 0.06 : 0) + few + shown;
  return Math.max(
    0.05,
    Math.min(0.98, sum) * (1 - wordy) * (1 - 0.8 * (first[0]?.laid ? parts.unused / 3 : parts.unused)),
  );
}

/** A list of files is one answer, not a list of answers. */
const isFiles = (items: Item[]): boolean =>
  filesOf(
    '',
    items.map(item => item.object),
    false,
  ) !== null;

/** The items of a collection with those that are like them elsewhere: the pages, sections and groups of one form. */
function siblingsOf(start: Collection, all: Collection[], parts: Parts): { items: Item[]; from: Collection[] } {
  const needed = [parts.wording, parts.key].filter(name => name !== null);
  if (needed.length === 0) return { items: start.items, from: [start] };
  const isAlike = ({ object }: Item) => needed.every(name => Object.hasOwn(object, name));
  const answered = ({ object }: Item) =>
    parts.answer(object) !== null || (parts.marked !== null && Object.hasOwn(object, parts.marked));
  const known = new Set(start.items.map(item => item.pointer));
  // Without a wording, what has more members than these says what they were asked.
  const names = new Set(start.items.flatMap(item => Object.keys(item.object)));
  const hasNoMore = ({ object }: Item) => parts.wording !== null || Object.keys(object).every(name => names.has(name));
  const items = [...start.items];
  const from = [start];
  for (const other of all) {
    if (other === start || other.pointer === start.pointer) continue;
    const alike = other.items.filter(item => isAlike(item) && hasNoMore(item) && !known.has(item.pointer));
    if (alike.length === 0 || !alike.some(answered)) continue;
    // Options inside an answer say less of themselves than the answers around them.
    const isAround = start.pointer.startsWith(`${other.pointer}/`);
    if (isAround && !alike.every(({ object }) => Object.keys(object).every(name => names.has(name)))) continue;
    if (alike.length < other.items.length && !other.items.every(item => isAlike(item) || holdsMore(item))) continue;
    from.push(other);
    for (const item of alike) {
      known.add(item.pointer);
      items.push(item);
    }
  }
  if (from.length === 1) return { items: start.items, from };
  return { items: items.sort(byOrder), from };
}

/** A section among questions. */
const holdsMore = ({ object }: Item): boolean =>
  Object.values(object).some(each => typeof each === 'object' && each !== null && Object.keys(each).length > 0);

/** A grid whose rows came one by one, `<row label="Top">Good</row>`: by the wordings of its rows. */
export function gridOf(value: Json): Json {
  if (!Array.isArray(value) || value.length < 2 || !value.every(isJsonObject)) return value;
  const rows = value.map(each => Object.entries(each));
  if (
    !rows.every(
      each => each.length === 2 && each.every(([, cell]) => typeof cell === 'string' || typeof cell === 'number'),
    )
  )
    return value;
  const label = rows[0]!.find(([name]) => name !== 'value' && (speaksOf(name, 'wording') || name === 'row'))?.[0];
  if (label === undefined || !value.every(each => Object.hasOwn(each, 'value') && Object.hasOwn(each, label)))
    return value;
  if (new Set(value.map(each => each[label])).size < value.length) return value;
  // What stands beside the labels of options is their identifiers.
  if (!value.every(each => /^\p{Lu}|\s|^\d+$/u.test(String(each.value)))) return value;
  return Object.fromEntries(value.map(each => [String(each[label]), each.value!]));
}

/** Single values at the end of ways that say nothing: `{ list: [{ is: 'Oboe' }] }`. */
export function valueAtEnd(value: Json): Json {
  let inner = value;
  for (let depth = 0; depth < 6; depth++) {
    if (Array.isArray(inner)) {
      const names = new Set(inner.flatMap(each => (isJsonObject(each) ? Object.keys(each) : [''])));
      const [only] = names;
      if (inner.length === 0 || names.size !== 1 || only === '' || filesOf('', inner, false) !== null) return inner;
      if (!speaksOnlyOf(only!, 'answer', 'wording')) return inner;
      const all = inner.map(each => (isJsonObject(each) ? each[only!]! : each));
      return all.length === 1 && isJsonObject(value) && !isOfChoices(value) ? all[0]! : all;
    }
    if (!isJsonObject(inner) || isNameObject(inner) || isAddressObject(inner) || isCheckboxGroup(inner)) return inner;
    const [name, ...more] = Object.keys(inner);
    if (name === undefined || more.length > 0 || typeof inner[name] === 'boolean') return inner;
    if (!speaksOnlyOf(name, 'answer', 'wording', 'kind') && !/^(list|files?|items|raw)$/i.test(name)) return inner;
    inner = inner[name]!;
  }
  return inner;
}

const isOfChoices = (value: Json): boolean =>
  isJsonObject(value) && Object.keys(value).some(name => /choices|options|labels|selected/i.test(name));

/** Where a member of an item stands in the document. */
const placeIn = ({ pointer, laid }: Item, name: string): string =>
  `${pointer}${laid?.names.includes(name) ? `/${escapeToken(laid.holder)}` : ''}/${escapeToken(name)}`;

export function rawAnswer(item: Item, parts: Parts): RawAnswer {
  const { object, pointer, key: outerKey } = item;
  const property = parts.answer(object);
  const stated = parts.key === null || object[parts.key] === undefined ? null : String(object[parts.key]);
  // The key of a dictionary is its identifier, unless it words the question and an identifier stands inside.
  const inner =
    outerKey !== null && /\s|[?？]/.test(outerKey) && parts.wording === null ? idInside(object, property) : null;
  const statedKey = inner ?? outerKey ?? stated;
  const wording = parts.wording === null ? '' : asText(object[parts.wording] ?? null).trim();
  const label = wording || (inner === null ? labelFromKey(statedKey ?? '') : outerKey!.trim());
  const other = parts.other === null ? '' : asText(object[parts.other]).trim();
  const chosen = parts.marked === null ? null : markedIn(object[parts.marked]);
  const value = chosen ?? (property === null ? null : object[property]!);
  const from = chosen ? parts.marked : property;
  const kind = parts.kind === null ? null : asText(object[parts.kind] ?? null);
  return {
    key: (statedKey ?? label).replace(/\[\]$/, ''),
    label,
    stated: kind,
    value: chosen
      ? chosen.length === 1 && !isMany(kind)
        ? chosen[0]!
        : chosen
      : isOpened(value)
        ? value
        : gridOf(valueAtEnd(value)),
    pointer: from === null ? pointer : placeIn(item, from),
    options: chosen
      ? markedLabels(chosen)
      : ((parts.options === null ? null : optionLabels(object[parts.options])) ?? optionsOf(object, property)),
    other: other || null,
  };
}

/** What was chosen stands for itself. */
const markedLabels = (chosen: Json[]): Map<string, string> => new Map(chosen.map(each => [asText(each), asText(each)]));

const isMany = (kind: string | null): boolean => kind !== null && /multi|many|several|checkbox|any|all/i.test(kind);

/** The identifier inside an entry whose key words the question: the one member that is called so. */
function idInside(object: Item['object'], answer: string | null): string | null {
  const name = Object.keys(object).find(
    each =>
      each !== answer &&
      speaksOnlyOf(each, 'id') &&
      !/^(no|nr|number)$/i.test(each) &&
      ['string', 'number'].includes(typeof object[each]),
  );
  return name === undefined ? null : String(object[name]);
}

/** Answers of one question that came one by one: `answer to="tool"` twice are two that were chosen. */
function withSeveral(answers: RawAnswer[]): RawAnswer[] {
  const joined: RawAnswer[] = [];
  for (const each of answers) {
    const last = joined.at(-1);
    // An identifier that repeats without wording its question anew, side by side.
    const isSame = last !== undefined && last.key === each.key && last.label === each.label && each.key !== each.label;
    if (!isSame || typeof each.value === 'object' || (typeof last.value === 'object' && !several.has(last)))
      joined.push(each);
    else if (several.has(last)) (last.value as Json[]).push(each.value);
    else {
      const all = { ...last, value: [last.value, each.value] };
      several.add(all);
      joined[joined.length - 1] = all;
    }
  }
  return joined;
}

/** Answers that were put together of several. */
const several = new WeakSet<RawAnswer>();
