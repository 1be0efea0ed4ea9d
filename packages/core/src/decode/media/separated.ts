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
  looksLike: ({ text }) => rowsAgree(text),
  read({ text, type }) {
    const delimiter = type === 'text/tab-separated-values' ? '\t' : '';
    const { data, errors } = Papa.parse<string[]>(text.trimEnd(), {
      delimiter,
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
  return { document: rows.map(row => rowObject(names, row)), notes };
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

/** Names are different, filled, and less like data than what stands below them. */
function looksLikeHeader(first: string[], rest: Json[][]): boolean {
  const cells = first.map(cell => cell.trim());
  if (new Set(cells).size < cells.length || cells.some(cell => cell === '') || cells.some(isData)) return false;
  return (
    rest.some(row => row.some(cell => typeof cell !== 'string' || isData(cell))) ||
    (cells.every(cell => cell.length < 60) && !rest.some(row => row.some((cell, index) => cell === cells[index])))
  );
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
  return [',', ';', '\t'].some(mark => {
    const counts = lines.map(line => line.replace(/"[^"]*"/g, '').split(mark).length - 1);
    return counts[0]! >= 1 && counts.every(count => count === counts[0]);
  });
}
