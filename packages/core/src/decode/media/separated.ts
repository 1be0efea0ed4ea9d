import Papa from 'papaparse';
import { asText, setOwn, type Json, type JsonObject } from '../../submission';
import { most, MOST_NOTES, tooMany, type Note } from '../notes';
import type { MediaReader, MediaReading } from './reader';

/** CSV (RFC 4180) and its kin with tabs or semicolons, with a header row or without. */
export const separated: MediaReader = {
  id: 'separated',
  label: 'separated values',
  isStated: type =>
    /^text\/(csv|tab-separated-values|comma-separated-values)$/.test(type) || type === 'application/csv',
  looksLike: ({ text }) => /^sep=.\r?\n/.test(text) || rowsAgree(text),
  read({ text, type }) {
    const delimiter = type === 'text/tab-separated-values' ? '\t' : '';
    // Some spreadsheets say in a line of its own what separates.
    const [said = '', mark] = /^sep=(.)\r?\n/.exec(text) ?? [];
    const { data, errors } = Papa.parse<string[]>(text.slice(said.length).trimEnd(), {
      delimiter: mark ?? delimiter,
      delimitersToGuess: [',', ';', '\t', '|'],
      skipEmptyLines: 'greedy',
      preview: most.submissions + 2,
    });
    if (data.length === 0) return { code: 'media.separated', message: 'It holds no row.' };
    const notes: Note[] = errors
      .filter(error => error.type === 'Quotes')
      .slice(0, MOST_NOTES)
      .map(error => ({ code: 'media.row', message: `Row ${(error.row ?? 0) + 1}: ${error.message}.` }));
    return fromRows(data, notes);
  },
};

/** Rows of cells as objects by the names of their columns: those of a header row, or `column_1` and on. */
export function fromRows(data: Json[][], notes: Note[] = []): MediaReading {
  if (data.length > most.submissions + 1) notes.push(tooMany('media.rows', `more than ${most.submissions} rows`));
  const [first = [], ...rest] = data.slice(0, most.submissions + 1).map(row => row.slice(0, most.columns));
  if (data[0]!.length > most.columns) notes.push(tooMany('media.columns', `more than ${most.columns} columns`));
  const hasHeader = rest.length > 0 && looksLikeHeader(first.map(asText), rest);
  const names = first.map((cell, index) => (hasHeader && asText(cell).trim()) || `column_${index + 1}`);
  const rows = hasHeader ? rest : [first, ...rest];
  rows.forEach((row, index) => {
    if (row.length > names.length && notes.length < MOST_NOTES)
      notes.push({
        code: 'media.row',
        message: `Row ${index + (hasHeader ? 2 : 1)} has ${row.length} values for ${names.length} columns; the rest was not read.`,
      });
  });
  return { document: rows.map(row => rowObject(names, row)), notes, isTable: true };
}

function rowObject(names: string[], row: Json[]): JsonObject {
  const object: JsonObject = {};
  row.forEach((cell, index) => {
    const name = names[index];
    if (name !== undefined && cell !== undefined)
      setOwn(object, Object.hasOwn(object, name) ? `${name} ${index + 1}` : name, cell);
  });
  return object;
}

const isData = (cell: string) =>
  (cell.length < 100 && /^\s*[-+]?\d[\d.,:/\s-]*$/.test(cell)) || cell.includes('@') || /^https?:/.test(cell);

/** Rows that are looked at for what a first row is. */
const MOST_ROWS = 50;

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

/** Characters from the start that tell whether lines agree. */
const LOOKED_AT = 100_000;

/** At least two lines with the same number, two or more, of separators. */
function rowsAgree(text: string): boolean {
  const lines = text
    .trimStart()
    .slice(0, LOOKED_AT)
    .split('\n', 5)
    .map(line => line.trimEnd())
    .filter(Boolean);
  if (lines.length < 2) return false;
  return agreeing(lines, 1);
}

const agreeing = (lines: string[], least: number): boolean =>
  [',', ';', '\t'].some(mark => {
    const counts = lines.map(line => line.replace(/"[^"]*"/g, '').split(mark).length - 1);
    return counts[0]! >= least && counts.every(count => count === counts[0]);
  });

/** True for what can be nothing but a table, whatever it is stated to be: several columns, and no lines that label a value. */
export function isTableForCertain(text: string): boolean {
  const lines = text
    .trimStart()
    .slice(0, LOOKED_AT)
    .replace(/^sep=.\r?\n/, '')
    .split('\n', 8)
    .slice(0, 7)
    .map(line => line.trimEnd())
    .filter(Boolean);
  return lines.length >= 2 && agreeing(lines, 2) && lines.filter(line => /^[^,;\t"]{1,60}: \S/.test(line)).length < 2;
}
