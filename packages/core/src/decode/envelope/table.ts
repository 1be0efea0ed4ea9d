import { asText, escapeToken, isJsonObject, labelFromKey, setOwn, type Json, type JsonObject } from '../../submission';
import { most } from '../notes';
import {
  idRank,
  isEnvelopeKey,
  isMoment,
  isOtherTime,
  readsAsTime,
  speaksOf,
  surroundings,
  tellingWords,
  tellsOnlyOf,
  timeRank,
} from '../names';
import { aroundWorth, wordingWorth } from '../evidence';
import { flatAt } from './flat';
import type { EnvelopeReading, RawAnswer, RawSubmission } from './reader';

/** What is known of a column over all rows. */
interface Column {
  name: string;
  /** What it is called for people. */
  label: string;
  /** Some of its cells. */
  cells: Json[];
  filled: number;
  distinct: number;
  /** Of the filled cells: those that are one word, and those that read as a date or a time. */
  words: number;
  times: number;
}

/**
 * A table as its medium told it: rows below a header, each cell under the name of its column.
 * @param labels what columns are called for people, where that is not their name
 */
export function readTable(document: Json, labels: Record<string, string> = {}): EnvelopeReading | null {
  if (!Array.isArray(document) || document.length === 0 || !document.every(isJsonObject)) return null;
  const rows = document.slice(0, most.submissions);
  const columns = columnsOf(rows, labels);
  return pivoted(rows, columns) ?? rowByRow(rows, columns);
}

const isBlank = (cell: Json | undefined): boolean =>
  cell === undefined || cell === null || (typeof cell === 'string' && cell.trim() === '');

/** Cells of a column that are looked at for what they tell. */
const MOST_CELLS = 20;

function columnsOf(rows: JsonObject[], labels: Record<string, string>): Column[] {
  const names = new Map<string, Json[]>();
  for (const row of rows)
    for (const [name, cell] of Object.entries(row)) {
      const cells = names.get(name) ?? [];
      if (cells.length === 0) names.set(name, cells);
      if (!isBlank(cell)) cells.push(cell);
    }
  return [...names].map(([name, cells]) => ({
    name,
    label: Object.hasOwn(labels, name) ? labels[name]! : name,
    cells: cells.slice(0, MOST_CELLS),
    filled: cells.length,
    distinct: new Set(cells.map(cell => JSON.stringify(cell))).size,
    words: cells.filter(cell => !/\s/.test(String(cell).trim())).length,
    times: cells.filter(readsAsTime).length,
  }));
}

/** Each row has one of its own, in one word. */
const isUnique = ({ filled, distinct, words }: Column, rows: number): boolean =>
  filled === rows && distinct === rows && words === filled;

/** Names of one word that plainly say that they number submissions, and those that do beside a time. */
const plainIds = new Set('id uid uuid guid entry submission response folio #'.split(' '));

/** How much a column says that it identifies submissions. A single word has to say so plainly: `Ref` is as often a question. */
function identifies({ label, ...column }: Column, rows: number, isTimed: boolean): number {
  if (!isUnique({ label, ...column }, rows)) return 0;
  if (/^\s*#\s*$/.test(label)) return 1;
  const words = tellingWords(label);
  const isOfId = words.length > 0 && (speaksOf(words.at(-1)!, 'id') || speaksOf(words[0]!, 'id'));
  if (words.length === 1) {
    if (plainIds.has(words[0]!) || /(nummer|番号|.id)$/.test(words[0]!)) return 3;
    return isTimed && (isOfId || speaksOf(words[0]!, 'submission')) ? 1 : 0;
  }
  if (!isOfId || speaksOf(label, 'form')) return 0;
  if (speaksOf(label, 'submission') && tellsOnlyOf(label, 'id', 'submission')) return 4;
  if (tellsOnlyOf(label, 'id', 'submission', 'answer')) return 2;
  // `Report ID`: of something that nobody knows, each with figures.
  const hasFigures = column.cells.every(cell => /\d/.test(String(cell)));
  return isTimed &&
    hasFigures &&
    words.length === 2 &&
    !speaksOf(label, 'sender') &&
    /^(id|no|nr|number|nummer)$/.test(words[1]!)
    ? 1
    : 0;
}

/** How much a column tells when submissions came. `Date` alone is as often a question. */
function tellsTime({ label, cells, filled, times }: Column): number {
  if (filled === 0 || times < 0.9 * filled || /[?？]/.test(label)) return 0;
  const [rank, words] = [timeRank(label), tellingWords(label)];
  const isKnown = tellsOnlyOf(label, 'time', 'submission', 'form', 'answer');
  if (words.length > 1) {
    if (isKnown) return rank > 0 ? Math.max(2, rank) : 0;
    return rank === 3 && words.length < 4 && cells.every(isMoment) ? 1 : 0;
  }
  if (!isKnown) return 0;
  return rank === 3 ||
    (rank === 2 && cells.every(isMoment)) ||
    /^(timestamp|horodatage|zeitstempel|送信日時|回答日時|created)$/.test(words[0]!)
    ? rank
    : 0;
}

const best = (columns: Column[], rank: (column: Column) => number): Column | null =>
  columns.reduce<[Column | null, number]>(
    (found, column) => (rank(column) > found[1] ? [column, rank(column)] : found),
    [null, 0],
  )[0];

const isAddressOfSender = ({ label, cells }: Column): boolean =>
  /\bip\b/i.test(label) && cells.every(cell => /^[\d.]+$|^[\da-f:]+$/i.test(String(cell)));

/** What builders say of the sender and of the submission in columns of an export. */
const isAround = (column: Column): boolean => {
  if (isAddressOfSender(column)) return true;
  if (
    tellingWords(column.label).length === 1 &&
    !/^(ip|browser|timestamp|referr?er|useragent|locale)$/i.test(column.label.trim()) &&
    !/^_|^[a-z]+_/.test(column.name)
  )
    return isEnvelopeKey(column.label.trim(), '') && !/^(id|form)$/i.test(column.label.trim());
  const [first = ''] = column.cells;
  return aroundWorth(column.label, first) >= 0.55;
};

const isOfForm = ({ label, distinct }: Column): boolean =>
  distinct <= 1 && speaksOf(label, 'form') && tellsOnlyOf(label, 'form', 'id', 'name');

/** A submission a row; columns that speak of the submission itself stand around its answers. */
function rowByRow(rows: JsonObject[], columns: Column[]): EnvelopeReading {
  const time = best(columns, tellsTime);
  const id = best(columns, column => identifies(column, rows.length, time !== null));
  const around = new Set(
    columns
      .filter(
        column =>
          column === id ||
          column === time ||
          isOfForm(column) ||
          isAround(column) ||
          (column.times > 0 && tellsTime(column) > 0) ||
          (isOtherTime(column.label) && tellsOnlyOf(column.label, 'time', 'submission')),
      )
      .map(column => column.name),
  );
  // States and programs stand beside what numbers the submissions: `Status` among the questions is one.
  const isAside = (column: Column) =>
    tellsOnlyOf(column.label, 'sender', 'kind') && column.cells.every(cell => /^\S{1,40}$/.test(String(cell).trim()));
  columns.forEach((column, index) => {
    const isBeside = [columns[index - 1], columns[index + 1]].some(each => each && around.has(each.name));
    if (isBeside && isAside(column) && around.size > 0) around.add(column.name);
  });
  // What is left without a question is no table of submissions.
  if (columns.every(column => around.has(column.name))) around.clear();
  const label = new Map(columns.map(column => [column.name, column.label]));
  const submissions = rows.map((row, index): RawSubmission => {
    const [own, beside]: [JsonObject, JsonObject] = [{}, {}];
    for (const { name } of columns) {
      const cell = row[name];
      if (cell !== undefined) setOwn(around.has(name) ? beside : own, name, cell);
    }
    const { form, meta } = surroundings(beside);
    const text = (column: Column | null) =>
      column === null || isBlank(row[column.name]) ? null : String(row[column.name]).trim();
    const rest = Object.fromEntries(Object.entries(meta).filter(([name]) => name !== id?.name && name !== time?.name));
    return {
      form,
      id: text(id),
      submittedAt: text(time),
      meta: rest,
      answers: flatAt(own, `/${index}`).submissions[0]!.answers.map(answer => {
        const told = label.get(answer.key);
        return told === undefined || told === answer.key ? answer : { ...answer, label: told };
      }),
    };
  });
  const told = [id && `“${id.label}” identifies them`, time && `“${time.label}” tells when they came`].filter(Boolean);
  const asked = columns.filter(column => !around.has(column.name));
  const worded =
    asked.reduce((sum, { label: name }) => sum + (/^column_\d+$/.test(name) ? 0.55 : wordingWorth(name)), 0) /
    asked.length;
  return {
    reader: 'table',
    label: 'table with one submission a row',
    score: (told.length > 0 ? 0.98 : 0.9) * (0.35 + 0.65 * worded) * (columns.length > 1 ? 1 : 0.7),
    why: `It is a table of ${rows.length} ${rows.length === 1 ? 'row' : 'rows'} and ${columns.length} columns${told.length > 0 ? `; ${told.join(', ')}` : ''}.`,
    answersAt: '',
    splitAt: '',
    submissions,
  };
}

/** A row, and where it stands in the table. */
interface Placed {
  row: JsonObject;
  place: number;
}

/** One answer a row: a column words the question, another holds the answer, and those of one submission stand together. */
function pivoted(rows: JsonObject[], columns: Column[]): EnvelopeReading | null {
  const wordings = columns.filter(
    ({ name, filled }) =>
      filled === rows.length && speaksOf(name, 'wording') && !tellsOnlyOf(name, 'id', 'submission', 'form', 'name'),
  );
  const worth = ({ cells }: Column) =>
    cells.reduce<number>((sum, cell) => sum + wordingWorth(String(cell)), 0) / cells.length;
  const wording = wordings.sort((a, b) => worth(b) - worth(a))[0];
  const answer = columns.find(({ name }) => name !== wording?.name && tellsOnlyOf(name, 'answer'));
  if (!wording || !answer || columns.length > 12) return null;
  const group = columns.find(
    column =>
      column !== wording &&
      column !== answer &&
      column.filled === rows.length &&
      column.distinct < rows.length &&
      (idRank(column.name) >= 2 ||
        (speaksOf(column.name, 'id') && tellsOnlyOf(column.name, 'id', 'submission', 'answer'))),
  );
  const groups = new Map<string, Placed[]>();
  rows.forEach((row, place) => {
    const key = group ? String(row[group.name]) : '';
    const own = groups.get(key);
    if (own) own.push({ row, place });
    else groups.set(key, [{ row, place }]);
  });
  const all = [...groups.values()];
  // One alone is no form's answer; and of one submission each question is asked once.
  if (all.some(own => own.length < 2) || (!group && wording.distinct < rows.length)) return null;
  const constant = (name: string) =>
    all.every(own =>
      own.every(({ row }) => JSON.stringify(row[name] ?? null) === JSON.stringify(own[0]!.row[name] ?? null)),
    );
  const beside = columns.filter(({ name }) => name !== wording.name && name !== answer.name && constant(name));
  const keys = columns.find(
    ({ name, filled }) =>
      name !== wording.name &&
      name !== answer.name &&
      name !== group?.name &&
      filled === rows.length &&
      !beside.some(each => each.name === name) &&
      speaksOf(name, 'id'),
  );
  const kinds = columns.find(({ name }) => tellsOnlyOf(name, 'kind') && !beside.some(each => each.name === name));
  const time = best(beside, tellsTime)?.name ?? null;
  const submissions = all.map((own): RawSubmission => {
    const around = Object.fromEntries(beside.map(({ name }) => [name, own[0]!.row[name] ?? null]));
    const { form, submittedAt, meta } = surroundings(around);
    const joined = new Map<string, RawAnswer>();
    for (const { row, place } of own) {
      const label = String(row[wording.name]).trim();
      const key = keys ? String(row[keys.name]) : label;
      const value = row[answer.name] ?? '';
      const known = joined.get(key);
      // Asked twice of one submission: several were chosen.
      if (known && Array.isArray(known.value)) known.value.push(value);
      else if (known) known.value = [known.value, value];
      else
        joined.set(key, {
          key,
          label: label || labelFromKey(key),
          stated: kinds && !isBlank(row[kinds.name]) ? String(row[kinds.name]) : null,
          value,
          pointer: `/${place}/${escapeToken(answer.name)}`,
          options: null,
          other: null,
        });
    }
    return {
      form,
      id: group ? String(own[0]!.row[group.name]) : null,
      submittedAt: time && !isBlank(own[0]!.row[time]) ? String(own[0]!.row[time]) : submittedAt,
      meta,
      answers: [...joined.values()],
    };
  });
  return {
    reader: 'table-of-answers',
    label: 'table with one answer a row',
    score: 0.93,
    why: `“${wording.name}” is the question text and “${answer.name}” holds the answer${group ? `; “${group.name}” tells which belong together` : ''}.`,
    answersAt: '',
    splitAt: '',
    submissions,
  };
}

/**
 * Rows of cells below a row of names, as sheets give them: `[['Observer', 'Herons'], ['Ada', 3]]`, wherever they stand.
 * @param read makes a table of rows as the media readers do
 */
export function readCells(
  document: Json,
  read: (rows: Json[][]) => { document: Json; headers: number },
): EnvelopeReading[] {
  return gridsIn(document, '', DEEPEST_GRID).flatMap(({ rows, pointer }) => {
    const { document: table, headers } = read(rows);
    if (headers !== 1) return [];
    const reading = readTable(table);
    if (!reading || reading.reader !== 'table') return [];
    const names = rows[0]!.map(cell => asText(cell).trim());
    return [
      {
        ...reading,
        label: 'rows of cells below their names',
        answersAt: pointer,
        splitAt: pointer,
        submissions: reading.submissions.map((each, index) => ({
          ...each,
          answers: each.answers.map(answer => ({
            ...answer,
            pointer: `${pointer}/${index + 1}/${names.indexOf(answer.key)}`,
          })),
        })),
      },
    ];
  });
}

const DEEPEST_GRID = 4;
/** Rows and columns from which lists of lists are a sheet rather than pairs or the answer to one question. */
const [LEAST_ROWS, LEAST_COLUMNS] = [2, 3];

function gridsIn(value: Json, pointer: string, depth: number): { rows: Json[][]; pointer: string }[] {
  if (Array.isArray(value)) {
    const isGrid =
      value.length >= LEAST_ROWS &&
      value.every(
        (row): row is Json[] =>
          Array.isArray(row) &&
          row.length === (value[0] as Json[]).length &&
          row.length >= LEAST_COLUMNS &&
          row.every(cell => typeof cell !== 'object' || cell === null),
      );
    return isGrid ? [{ rows: value as Json[][], pointer }] : [];
  }
  if (!isJsonObject(value) || depth === 0) return [];
  return Object.entries(value).flatMap(([name, each]) => gridsIn(each, `${pointer}/${escapeToken(name)}`, depth - 1));
}
