import { asText, escapeToken, isJsonObject, labelFromKey, type Json, type JsonObject } from '../../submission';
import { speaksOf } from '../names';
import { isStructural, wordingWorth } from '../evidence';
import { withoutAround } from './labelledText';
import { optionsOf } from './options';
import type { Place } from './place';
import type { OptionLabels, RawAnswer } from './reader';

/** A list that words, or identifies, what other lists answer in the same order. */
export interface Header {
  pointer: string;
  name: string;
  cells: { key: string | null; label: string; stated: string | null; options: OptionLabels | null }[];
  /** Where it came from a list of texts: how well they read as wordings. */
  worth: number;
}

interface Found {
  pointer: string;
  name: string;
  list: Json[];
}

const MOST_LISTS = 60;
const DEEPEST_LIST = 6;

/** Lists below objects, with their names. */
function listsIn(value: Json, at: string, depth: number, name = '', found: Found[] = []): Found[] {
  if (found.length >= MOST_LISTS) return found;
  if (Array.isArray(value)) {
    if (value.length > 1) found.push({ pointer: at, name, list: value });
    // Tables in a list of tables.
    if (depth > 0 && value.every(isRows))
      value.slice(0, 20).forEach((each, index) => listsIn(each, `${at}/${index}`, depth - 1, name, found));
  } else if (isJsonObject(value) && depth > 0)
    for (const [key, each] of Object.entries(value))
      if (typeof each === 'object' && each !== null) listsIn(each, `${at}/${escapeToken(key)}`, depth - 1, key, found);
  return found;
}

const isRows = (value: Json): boolean => Array.isArray(value) && value.length > 1 && value.every(Array.isArray);

function headerOf({ pointer, name, list }: Found): Header | null {
  if (list.every(each => typeof each === 'string' && each.trim() !== '')) {
    if (new Set(list).size < list.length * 0.7) return null;
    const worth = list.reduce<number>((sum, each) => sum + wordingWorth(each as string), 0) / list.length;
    return {
      pointer,
      name,
      worth,
      cells: list.map(each => ({ key: null, label: String(each).trim(), stated: null, options: null })),
    };
  }
  if (!list.every(isJsonObject)) return null;
  const cells = list.map(each => {
    const names = Object.keys(each).filter(inner => ['string', 'number'].includes(typeof each[inner]));
    const label =
      names.find(inner => speaksOf(inner, 'wording')) ?? names.find(inner => /\s/.test(String(each[inner])));
    const key = names.find(inner => inner !== label && speaksOf(inner, 'id'));
    const kind = names.find(inner => inner !== label && inner !== key && speaksOf(inner, 'kind'));
    return label === undefined
      ? null
      : {
          key: key === undefined ? null : String(each[key]),
          label: String(each[label]).trim(),
          stated: kind === undefined ? null : String(each[kind]),
          options: optionsOf(each),
        };
  });
  if (!cells.every(each => each !== null)) return null;
  return { pointer, name, worth: 1, cells };
}

/** Every list of a document that may word what others answer. */
export const headersIn = (document: Json, at = ''): Header[] =>
  listsIn(document, at, DEEPEST_LIST).flatMap(each => headerOf(each) ?? []);

const isCell = (value: Json): boolean =>
  typeof value !== 'object' ||
  value === null ||
  (Array.isArray(value) && value.every(each => typeof each !== 'object'));

/** Answers in a list, in the order of another that words them: `{ questions: […], answers: […] }`, or cells below a header. */
export function positionalPlaces(value: Json, at: string, headers: Header[]): Place[] {
  const lists: Found[] = Array.isArray(value)
    ? [{ pointer: at, name: at.split('/').at(-1) ?? '', list: value }]
    : listsIn(value, at, 4);
  return lists.flatMap(values => {
    if (values.list.length < 2 || !values.list.every(isCell)) return [];
    // Rows of cells are several submissions.
    if (values.list.every(each => Array.isArray(each) && each.length > 1)) return [];
    const fitting = headers.filter(
      each =>
        each.pointer !== values.pointer &&
        each.cells.length === values.list.length &&
        !each.pointer.startsWith(`${values.pointer}/`),
    );
    const wording = fitting.reduce<Header | null>(
      (best, each) => (best === null || each.worth > best.worth ? each : best),
      null,
    );
    if (!wording) return [];
    const own = values.list.every(each => typeof each === 'string')
      ? values.list.reduce<number>((sum, each) => sum + wordingWorth(each as string), 0) / values.list.length
      : 0;
    const isNamed = speaksOf(values.name, 'answer') || /rows|cells|values/i.test(values.name);
    // Of two lists of texts, that which is called so holds the answers; otherwise the one that reads less like wordings.
    if (!isNamed && own >= wording.worth) return [];
    if (speaksOf(values.name, 'wording') && !isNamed) return [];
    const keys = fitting.find(
      each => each !== wording && each.cells.every(cell => cell.key === null && !/\s/.test(cell.label)),
    );
    const answers = values.list.map((cell, index): RawAnswer => {
      const told = wording.cells[index]!;
      const key = told.key ?? keys?.cells[index]?.label ?? told.label;
      const label = told.label === key ? labelFromKey(key) : told.label;
      return {
        key,
        label,
        stated: told.stated,
        value: cell,
        pointer: `${values.pointer}/${index}`,
        options: told.options,
        other: null,
      };
    });
    return [
      {
        reader: 'lists',
        label: 'answers in the order of a list of questions',
        at: values.pointer,
        answers,
        covers: [values.pointer, wording.pointer, ...(keys ? [keys.pointer] : [])],
        trust: (isNamed ? 0.93 : 0.8) * (wording.worth > 0.6 || keys ? 1 : 0.7),
        isWorded: true,
        why: `${answers.length} values at ${values.pointer || 'the top'} stand in the order of the questions at ${wording.pointer || 'the top'}.`,
      },
    ];
  });
}

/** One question with its answer, and where that stands below the list. */
interface Pair {
  label: string;
  answer: Json;
  place: string;
}

/**
 * The pairs in a list of rows: two cells each, headings of one cell between them and a head that says no more passed over; or one
 * cell each, the question above its answer. Null for any other.
 */
function pairsIn(list: Json[]): Pair[] | null {
  if (list.every(isJsonObject)) return singlesIn(list);
  const rows = list.map(each => (Array.isArray(each) ? each : []));
  if (rows.some(row => row.length < 1 || row.length > 2 || typeof row[0] !== 'string' || !row.every(isCell)))
    return null;
  if (rows.every(row => row.length === 1)) return stackedIn(rows as [string][]);
  const body = rows.flatMap((row, index) =>
    row.length === 2 ? [{ label: withoutColon(String(row[0])), answer: row[1]!, place: `${index}/1` }] : [],
  );
  if (body.length < rows.length * 0.5) return null;
  const [head] = body;
  const isHead = head !== undefined && body.length > 2 && isStructural(head.label) && isStructural(asText(head.answer));
  return (isHead ? body.slice(1) : body).filter(each => each.label !== '');
}

const withoutColon = (label: string): string => label.trim().replace(/\s?[:：]$/, '');

/** `[{ 'Which gate?': 'North' }, { 'Key number': '12' }]`: each question the only name of an object. */
function singlesIn(list: JsonObject[]): Pair[] | null {
  const entries = list.map(each => Object.entries(each));
  if (!entries.every(each => each.length === 1 && isCell(each[0]![1]))) return null;
  return entries.map(([[label, answer] = ['', null]], index) => ({
    label: label.trim(),
    answer,
    place: `${index}/${escapeToken(label)}`,
  }));
}

function stackedIn(rows: [string][]): Pair[] | null {
  if (rows.length < 4 || rows.length % 2 === 1) return null;
  const worth = (from: number) =>
    rows.reduce((sum, [cell], index) => (index % 2 === from ? sum + wordingWorth(cell) : sum), 0) / (rows.length / 2);
  if (worth(0) < 0.7 || worth(0) < worth(1)) return null;
  return rows.flatMap(([label], index) =>
    index % 2 === 0 ? [{ label: withoutColon(label), answer: rows[index + 1]![0], place: `${index + 1}/0` }] : [],
  );
}

/** Answers as small lists of a wording and a value: `[['Plot', '14b'], ['Weeds', 'Knee-high']]`. */
export function pairPlaces(value: Json, at: string): Place[] {
  const lists = listsIn(value, at, DEEPEST_LIST, at.split('/').at(-1) ?? '');
  return lists.flatMap(({ pointer, list }) => {
    const pairs = pairsIn(list);
    if (!pairs || pairs.length < 2) return [];
    const labels = pairs.map(({ label }) => label);
    const worth = labels.reduce((sum, label) => sum + wordingWorth(label), 0) / labels.length;
    const distinct = new Set(labels).size / labels.length;
    const { own: answers, around: said } = withoutAround(
      pairs.map(({ label, answer, place }): RawAnswer => ({
        key: label,
        label,
        stated: null,
        value: answer,
        pointer: `${pointer}/${place}`,
        options: null,
        other: null,
      })),
    );
    return [
      {
        reader: 'pairs',
        label: 'pairs of question and answer',
        at: pointer,
        answers,
        covers: [pointer],
        trust: 0.9 * worth * distinct,
        isWorded: true,
        said,
        why: `${answers.length} pairs at ${pointer || 'the top'} each hold a question and its answer.`,
      },
    ];
  });
}
