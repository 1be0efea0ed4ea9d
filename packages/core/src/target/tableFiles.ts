import { escapeToken } from '../submission';
import type { Operation } from './operation';

/** A file on the server's own disk that rows are appended to. */
export interface TableFile {
  /** With `.csv` or `.ndjson` at its end. */
  name: string;
  columns: string[];
  /** Whether columns that a file lacks are added to it; they are refused otherwise. */
  grows: boolean;
}

const fileName = /^[\w][\w .-]{0,80}\.(csv|ndjson)$/i;

/** Reads files and their columns, one a line: `visits.csv: school, pupils, day`. `…` at the end lets a file get more columns. */
export function readTableFiles(text: string): TableFile[] | { fault: string } {
  const files: TableFile[] = [];
  for (const line of text.split('\n').map(each => each.trim())) {
    if (line === '') continue;
    const colon = line.indexOf(':');
    const name = line.slice(0, colon).trim();
    if (colon < 0 || !fileName.test(name) || name.includes('..'))
      return { fault: `“${line.slice(0, 60)}” does not read like “visits.csv: school, pupils, day”.` };
    const columns = line
      .slice(colon + 1)
      .split(',')
      .map(each => each.trim())
      .filter(Boolean);
    const grows = columns.at(-1) === '…' || columns.at(-1) === '...';
    if (grows) columns.pop();
    if (columns.length === 0) return { fault: `${name} has no column.` };
    if (new Set(columns).size < columns.length) return { fault: `${name} names a column twice.` };
    if (files.some(each => each.name.toLowerCase() === name.toLowerCase())) return { fault: `${name} is named twice.` };
    files.push({ name, columns, grows });
  }
  return files.length > 0 ? files : { fault: 'Name at least one file with its columns.' };
}

/** What can be done with such files: a row appended to each. */
export const appendOperations = (files: readonly TableFile[]): Operation[] =>
  files.map(({ name, columns, grows }) => ({
    id: `append:${name}`,
    label: `Append a row to ${name}`,
    method: 'POST',
    path: `/${encodeURIComponent(name)}`,
    body: 'json',
    ...(grows && { grows }),
    fields: columns.map(column => ({
      key: column,
      pointer: `/${escapeToken(column)}`,
      label: column,
      type: 'json',
      required: false,
      readOnly: false,
      options: null,
      maxLength: null,
      description: null,
    })),
    answer: [],
  }));
