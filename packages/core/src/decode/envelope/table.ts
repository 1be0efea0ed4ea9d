import { escapeToken, isJsonObject, labelFromKey, setOwn, type Json, type JsonObject } from '../../submission';
import { most } from '../notes';
import { idRank, isEnvelopeKey, speaksOf, surroundings, tellingWords, tellsOnlyOf, timeRank } from '../names';
import { flatAt } from './flat';
import type { EnvelopeReading, RawAnswer, RawSubmission } from './reader';

/** What is known of a column over all rows. */
interface Column {
  name: string;
  filled: number;
  distinct: number;
  /** Of the filled cells: those that are one word, and those that read as a date or a time. */
  words: number;
  times: number;
}

/** A table as its medium told it: rows below a header, each cell under the name of its column. */
export function readTable(document: Json): EnvelopeReading | null {
  if (!Array.isArray(document) || document.length === 0 || !document.every(isJsonObject)) return null;
  const rows = document.slice(0, most.submissions);
  const columns = columnsOf(rows);
  return pivoted(rows, columns) ?? rowByRow(rows, columns);
}

const isBlank = (cell: Json | undefined): boolean =>
  cell === undefined || cell === null || (typeof cell === 'string' && cell.trim() === '');

/** The notations of dates and times that exports write. Common practice, no source. */
const timeNotations = [
  /^\d{4}[-/.]\d{1,2}[-/.]\d{1,2}([T ,]|$)/,
  /^\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4}([T ,]|$)/,
  /^\d{1,2}\.? \p{L}{3,12}\.?,? \d{2,4}([ ,]|$)/u,
  /^\p{L}{3,12}\.? \d{1,2},? \d{4}([ ,]|$)/u,
  /^\p{L}{2,10}\.?, \d{1,2}\.? \p{L}{3,12}\.? \d{4}/u,
];

const readsAsTime = (cell: Json): boolean =>
  (typeof cell === 'string' && cell.length < 60 && timeNotations.some(each => each.test(cell.trim()))) ||
  (typeof cell === 'number' && cell > 946_684_800 && cell < 4_102_444_800_000 && Number.isInteger(cell));

function columnsOf(rows: JsonObject[]): Column[] {
  const names = new Map<string, Json[]>();
  for (const row of rows)
    for (const [name, cell] of Object.entries(row)) {
      const cells = names.get(name) ?? [];
      if (cells.length === 0) names.set(name, cells);
      if (!isBlank(cell)) cells.push(cell);
    }
  return [...names].map(([name, cells]) => ({
    name,
    filled: cells.length,
    distinct: new Set(cells.map(cell => JSON.stringify(cell))).size,
    words: cells.filter(cell => !/\s/.test(String(cell).trim())).length,
    times: cells.filter(readsAsTime).length,
  }));
}

/** Each row has one of its own, in one word. */
const isUnique = ({ filled, distinct, words }: Column, rows: number): boolean =>
  filled === rows && distinct === rows && words === filled;

/** How much a column says that it identifies submissions. A single word has to say so plainly: `Ref` is as often a question. */
function identifies(column: Column, rows: number): number {
  if (!isUnique(column, rows)) return 0;
  if (/^\s*#\s*$/.test(column.name)) return 1;
  const rank = idRank(column.name);
  if (tellingWords(column.name).length < 2) return rank >= 3 ? rank : 0;
  return Math.max(
    rank,
    speaksOf(column.name, 'id') && tellsOnlyOf(column.name, 'id', 'submission', 'answer', 'form') ? 2 : 0,
  );
}

/** How much a column says that it tells when submissions came. `Date` alone is as often a question. */
function tellsTime({ name, filled, times }: Column): number {
  if (filled === 0 || times < 0.9 * filled || !tellsOnlyOf(name, 'time', 'submission', 'form', 'answer')) return 0;
  const [rank, words] = [timeRank(name), tellingWords(name)];
  if (words.length > 1) return rank > 0 ? Math.max(2, rank) : 0;
  return rank === 3 || words[0] === 'timestamp' || words[0] === 'horodatage' || words[0] === 'zeitstempel' ? rank : 0;
}

const best = (columns: Column[], rank: (column: Column) => number): string | null =>
  columns.reduce<[string | null, number]>(
    (found, column) => (rank(column) > found[1] ? [column.name, rank(column)] : found),
    [null, 0],
  )[0];

/** What builders say of the sender in columns of an export, in several words. */
const sender = /\b(ip|agent|referr?er|utm|browser|network id|device id|session id|tracking|user id|submission url)\b/i;

const isAround = (name: string): boolean =>
  isEnvelopeKey(name.trim().replace(/\s+/g, '_'), '') ||
  (sender.test(name.replace(/_/g, ' ')) && tellsOnlyOf(name, 'sender', 'id', 'time', 'submission', 'form'));

const isOfForm = ({ name, distinct }: Column): boolean =>
  distinct <= 1 && speaksOf(name, 'form') && tellsOnlyOf(name, 'form', 'id', 'name');

/** A submission a row; columns that speak of the submission itself stand around its answers. */
function rowByRow(rows: JsonObject[], columns: Column[]): EnvelopeReading | null {
  const id = best(columns, column => identifies(column, rows.length));
  const time = best(columns, tellsTime);
  const around = new Set(
    columns
      .filter(
        column =>
          column.name === id ||
          column.name === time ||
          isOfForm(column) ||
          isAround(column.name) ||
          tellsTime(column) > 0 ||
          (/^(start|started|begonnen|begin)/i.test(tellingWords(column.name)[0] ?? '') &&
            tellsOnlyOf(column.name, 'time')),
      )
      .map(column => column.name),
  );
  // What is left without a question is no table of submissions.
  if (columns.every(column => around.has(column.name))) around.clear();
  const submissions = rows.map((row, index): RawSubmission => {
    const [own, beside]: [JsonObject, JsonObject] = [{}, {}];
    for (const { name } of columns) {
      const cell = row[name];
      if (cell !== undefined) setOwn(around.has(name) ? beside : own, name, cell);
    }
    const { form, meta } = surroundings(beside);
    const text = (name: string | null) => (name === null || isBlank(row[name]) ? null : String(row[name]));
    const rest = Object.fromEntries(Object.entries(meta).filter(([name]) => name !== id && name !== time));
    return {
      form,
      id: text(id),
      submittedAt: text(time),
      meta: rest,
      answers: flatAt(own, `/${index}`).submissions[0]!.answers,
    };
  });
  const told = [id && `“${id}” identifies them`, time && `“${time}” tells when they came`].filter(Boolean);
  return {
    reader: 'table',
    label: 'table with one submission a row',
    score: told.length > 0 ? 0.95 : 0.9,
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
  const wording = columns.find(
    ({ name, filled }) =>
      filled === rows.length && speaksOf(name, 'wording') && !tellsOnlyOf(name, 'id', 'submission', 'form', 'name'),
  );
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
  const time = best(beside, tellsTime);
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
    why: `“${wording.name}” words the question and “${answer.name}” holds the answer${group ? `; “${group.name}” tells which belong together` : ''}.`,
    answersAt: '',
    splitAt: '',
    submissions,
  };
}
