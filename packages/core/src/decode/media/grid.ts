import { asText, setOwn, type Json, type JsonObject } from '../../submission';
import { isStructural, wordingWorth } from '../evidence';
import { readsAsTime } from '../names';
import { greatest, most, MOST_NOTES, tooMany, type Note } from '../notes';
import type { MediaReading } from './reader';

/** Rows and columns that are looked at for what a table is. */
const MOST_ROWS = 50;

const textOf = (cell: Json | undefined): string => (cell === undefined ? '' : asText(cell).trim());

/** What is never the name of a column: numbers, times, addresses. */
const isData = (cell: string): boolean =>
  (cell.length < 100 && /^\s*[-+]?\d[\d.,:/\s-]*$/.test(cell)) ||
  cell.includes('@') ||
  /^https?:/.test(cell) ||
  readsAsTime(cell);

/** The sort of a cell, so that those of one column can be told to be alike. */
const sortOf = (cell: string): string =>
  isData(cell)
    ? cell.includes('@')
      ? 'address'
      : /^https?:/.test(cell)
        ? 'link'
        : readsAsTime(cell)
          ? 'time'
          : 'number'
    : /\d/.test(cell) && !/\s/.test(cell)
      ? 'code'
      : /\s/.test(cell)
        ? 'text'
        : 'word';

/** How alike the cells of each line are, 0 to 1, over lines with more than one. */
function alikeness(lines: string[][]): number {
  const shares = lines.flatMap(line => {
    const filled = line.filter(Boolean);
    if (filled.length < 2) return [];
    const counts = new Map<string, number>();
    for (const cell of filled) counts.set(sortOf(cell), (counts.get(sortOf(cell)) ?? 0) + 1);
    return [greatest(counts.values()) / filled.length];
  });
  return shares.length === 0 ? 0.5 : shares.reduce((sum, each) => sum + each, 0) / shares.length;
}

const transposed = (rows: Json[][]): Json[][] => {
  const width = greatest(rows.map(row => row.length));
  return Array.from({ length: width }, (_, column) => rows.map(row => row[column] ?? ''));
};

/** True for cells that each differ, none of which is data, and most of which read as names. */
function nameColumns(cells: string[]): boolean {
  const named = cells.filter(Boolean);
  return (
    named.length > 1 &&
    named.length === cells.length &&
    new Set(named).size === named.length &&
    named.filter(isData).length === 0 &&
    named.reduce((sum, each) => sum + wordingWorth(each), 0) / named.length > 0.6
  );
}

/**
 * True where the questions stand in the first column: they read as names, what stands beside each is alike along its row, and the
 * first row is none of names.
 */
function isSideways(rows: Json[][]): boolean {
  const head = rows.slice(0, MOST_ROWS).map(row => row.slice(0, 12).map(textOf));
  const width = head[0]!.length;
  if (rows.length < 3 || rows.length > 400 || width < 2 || head.some(row => row.length !== width)) return false;
  const first = head.map(row => row[0]!);
  if (!nameColumns(first)) return false;
  const rest = head.map(row => row.slice(1));
  if (width === 2) return isDownwards(head);
  const columns = rest[0]!.map((_, index) => rest.map(row => row[index]!));
  const top = head[0]!.slice(1);
  return top.some(isData) && alikeness(rest) > alikeness(columns) + 0.1;
}

/** Two columns, of questions and of answers: what stands in the second is of many sorts, or below a head that says no more. */
function isDownwards(rows: string[][]): boolean {
  const body = isHeadOfPairs(rows[0]!) ? rows.slice(1) : rows;
  const labels = body.map(row => row[0]!);
  const worded = labels.reduce((sum, each) => sum + wordingWorth(each), 0) / labels.length;
  const sorts = new Set(
    body
      .map(row => row[1]!)
      .filter(Boolean)
      .map(sortOf),
  );
  if (body.length < rows.length) return worded > 0.6 && new Set(labels).size === labels.length;
  return (
    worded > 0.85 && sorts.size > 2 && labels.some(each => /[?？]|\s/.test(each)) && !isData(rows[0]![1]!) === false
  );
}

/** `Question;Answer`, `Feld;Wert`: names of the two columns that ask nothing themselves. */
const isHeadOfPairs = (row: string[]): boolean =>
  row.every(cell => isStructural(cell) || /^(feld|field|campo|champ|veld|item|pole)$/i.test(cell));

/**
 * Rows of cells as objects by the names of their columns: those of a header row, of two, of a header column, or `column_1` and on.
 * @param header what the sender states of it (RFC 4180 §3): `present`, `absent`, or nothing
 */
export function fromRows(data: Json[][], notes: Note[] = [], header?: string): MediaReading & { headers: number } {
  if (header === undefined && isSideways(data)) {
    const width = data[0]!.length;
    const rows = width === 2 && isHeadOfPairs(data[0]!.map(textOf)) ? data.slice(1) : data;
    const [names = [], ...columns] = transposed(rows);
    return tableOf([names, ...columns], 1, notes);
  }
  if (data.length > most.submissions + 1) notes.push(tooMany('media.rows', `more than ${most.submissions} rows`));
  if (data[0]!.length > most.columns) notes.push(tooMany('media.columns', `more than ${most.columns} columns`));
  const rows = data.slice(0, most.submissions + 1).map(row => row.slice(0, most.columns));
  const [first = [], ...rest] = rows;
  const hasHeader =
    header !== 'absent' && (header === 'present' || (rest.length > 0 && looksLikeHeader(first.map(asText), rest)));
  return tableOf(rows, hasHeader ? (hasSecondHeader(rows) ? 2 : 1) : 0, notes);
}

/** A second row that words what the first identifies. */
function hasSecondHeader(rows: Json[][]): boolean {
  const [first = [], second = [], ...rest] = rows.slice(0, MOST_ROWS).map(row => row.map(textOf));
  if (rest.length === 0 || second.length !== first.length || !nameColumns(second)) return false;
  const areKeys = first.every(cell => /^\S+$/.test(cell)) && new Set(first).size === first.length;
  // Of a row of data some cells would be.
  const differs = second.some((_, column) => {
    const below = rest.map(row => row[column] ?? '').filter(Boolean);
    return below.length > 0 && below.every(isData);
  });
  return areKeys && (differs || second.some(cell => /[?？]/.test(cell)));
}

function tableOf(rows: Json[][], headers: number, notes: Note[]): MediaReading & { headers: number } {
  const [first = [], second = []] = rows;
  const names: string[] = [];
  const labels: Record<string, string> = {};
  first.forEach((cell, index) => {
    const own = (headers > 0 && textOf(cell)) || `column_${index + 1}`;
    const name = names.includes(own) ? `${own} ${index + 1}` : own;
    names.push(name);
    if (headers === 2) labels[name] = textOf(second[index]) || own;
    else if (name !== own) labels[name] = own;
  });
  const body = rows.slice(headers);
  body.forEach((row, index) => {
    if (row.length > names.length && notes.length < MOST_NOTES)
      notes.push({
        code: 'media.row',
        message: `Row ${index + headers + 1} has ${row.length} values for ${names.length} columns; the rest was not read.`,
      });
  });
  return {
    document: body.map(row => rowObject(names, row)),
    notes,
    isTable: true,
    headers,
    ...(Object.keys(labels).length > 0 && { labels }),
  };
}

function rowObject(names: string[], row: Json[]): JsonObject {
  const object: JsonObject = {};
  row.forEach((cell, index) => {
    const name = names[index];
    if (name !== undefined && cell !== undefined) setOwn(object, name, cell);
  });
  return object;
}

/**
 * Whether a first row names the columns: it holds no data, and below most of its cells stands what is of another nature: data, or
 * words that come again where the first does not.
 */
function looksLikeHeader(first: string[], all: Json[][]): boolean {
  const rest = all.slice(0, MOST_ROWS);
  const cells = first.map(cell => cell.trim());
  const named = cells.filter(Boolean);
  if (named.length < Math.max(1, cells.length / 2)) return false;
  if (named.filter(isData).length > named.length * 0.1) return false;
  let evidence = 0;
  cells.forEach((cell, index) => {
    if (cell === '') return;
    const below = rest.map(row => row[index]).filter(each => each !== undefined && asText(each).trim() !== '');
    if (below.length === 0) return;
    const texts = below.map(each => asText(each).trim());
    if (below.filter(each => typeof each !== 'string' || isData(each)).length > below.length / 2) evidence += 1;
    else if (texts.includes(cell)) evidence -= 1;
    else if (new Set(texts).size < texts.length) evidence += 0.5;
  });
  if (evidence !== 0) return evidence > 0;
  // Nothing tells: names are short and differ.
  return new Set(named).size === named.length && named.length === cells.length && cells.every(cell => cell.length < 60);
}
