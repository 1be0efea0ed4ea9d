import Papa from 'papaparse';
import { asText, setOwn, type Json, type JsonObject } from '../../submission';
import type { Note } from '../notes';
import type { MediaReader, MediaReading } from './reader';

const MOST_ROWS = 100_000;
const MOST_ROW_NOTES = 200;

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
      preview: MOST_ROWS,
    });
    if (data.length === 0) return { code: 'media.separated', message: 'It holds no row.' };
    const notes: Note[] = errors
      .filter(error => error.type === 'Quotes')
      .slice(0, MOST_ROW_NOTES)
      .map(error => ({ code: 'media.row', message: `Row ${(error.row ?? 0) + 1}: ${error.message}.` }));
    return fromRows(data, notes);
  },
};

/** Rows of cells as objects by the names of their columns: those of a header row, or `column_1` and on. */
export function fromRows(data: Json[][], notes: Note[] = []): MediaReading {
  const [first = [], ...rest] = data;
  const hasHeader = rest.length > 0 && looksLikeHeader(first.map(asText), rest);
  const names = first.map((cell, index) => (hasHeader && asText(cell).trim()) || `column_${index + 1}`);
  const rows = hasHeader ? rest : data;
  rows.forEach((row, index) => {
    if (row.length > names.length && notes.length < MOST_ROW_NOTES)
      notes.push({
        code: 'media.row',
        message: `Row ${index + (hasHeader ? 2 : 1)} has ${row.length} values for ${names.length} columns; the rest was not read.`,
      });
  });
  return { document: rows.map(row => rowObject(names, row)), notes };
}

function rowObject(names: string[], row: Json[]): JsonObject {
  const object: JsonObject = {};
  names.forEach((name, index) => {
    if (row[index] !== undefined)
      setOwn(object, Object.hasOwn(object, name) ? `${name} ${index + 1}` : name, row[index]);
  });
  return object;
}

const isData = (cell: string) => /^\s*[-+]?\d[\d.,:/\s-]*$/.test(cell) || cell.includes('@') || /^https?:/.test(cell);

/** Names are different, filled, and less like data than what stands below them. */
function looksLikeHeader(first: string[], rest: Json[][]): boolean {
  const cells = first.map(cell => cell.trim());
  if (new Set(cells).size < cells.length || cells.some(cell => cell === '') || cells.some(isData)) return false;
  return (
    rest.some(row => row.some(cell => typeof cell !== 'string' || isData(cell))) ||
    (cells.every(cell => cell.length < 60) && !rest.some(row => row.some((cell, index) => cell === cells[index])))
  );
}

/** At least two lines with the same number, two or more, of separators. */
function rowsAgree(text: string): boolean {
  const lines = text.trim().split(/\r?\n/).slice(0, 5);
  if (lines.length < 2) return false;
  return [',', ';', '\t'].some(mark => {
    const counts = lines.map(line => line.replace(/"[^"]*"/g, '').split(mark).length - 1);
    return counts[0]! >= 1 && counts.every(count => count === counts[0]);
  });
}
