import {
  appendFileSync,
  closeSync,
  existsSync,
  fstatSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
  renameSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { asText, isJsonObject, type Json } from '@grammata/core/submission';
import Papa from 'papaparse';
import { syncFolder } from '../storage';

/** Why a row can't be appended. */
export class RowFault extends Error {}

/**
 * Appends rows to CSV (RFC 4180) and NDJSON files below one folder. Cells that a spreadsheet would take for a formula are
 * kept from it. A file is made with its first row.
 */
export class RowFiles {
  constructor(private readonly folder: string) {}

  /**
   * @param url `file://folder/name.csv`
   * @param grows whether columns that a CSV file lacks are added to it
   * @returns how many bytes were appended. Throws RowFault.
   */
  append(url: string, row: Json, columns: readonly string[], grows = false): number {
    const { host, pathname } = new URL(url);
    const name = decodedName(pathname.slice(1));
    const folder = path.join(this.folder, host);
    const file = path.join(folder, name);
    if (!/^[a-z\d-]+$/.test(host) || path.dirname(file) !== folder || name.startsWith('.'))
      throw new RowFault(`“${url}” is not a folder for rows.`);
    const values = isJsonObject(row) ? row : {};
    mkdirSync(folder, { recursive: true });
    const text = /\.ndjson$/i.test(name) ? `${JSON.stringify(values)}\n` : this.#csvRow(file, values, columns, grows);
    const isNew = !existsSync(file);
    // What was written by hand, or broke off in the middle, may end without the end of a line: a row begins its own.
    appendFileSync(file, isNew || endsInLineEnd(file) ? text : `\n${text}`, { flush: true });
    if (isNew) syncFolder(folder);
    return Buffer.byteLength(text);
  }

  #csvRow(file: string, values: Record<string, Json>, columns: readonly string[], grows: boolean): string {
    const isNew = !existsSync(file);
    const heading = isNew ? [...columns] : headingOf(file);
    const missing = Object.keys(values).filter(key => !heading.includes(key));
    if (missing.length > 0 && grows) {
      this.#widen(file, [...heading, ...missing]);
      heading.push(...missing);
    } else if (missing.length > 0)
      throw new RowFault(`${path.basename(file)} has no column ${missing.join(', ')}. Its heading is not changed.`);
    const cells = heading.map(column => asText(values[column]));
    return `${isNew ? line(heading, false) : ''}${line(cells, true)}`;
  }

  /** Writes a file anew under a wider heading, whole or not at all. */
  #widen(file: string, heading: string[]): void {
    const { data } = Papa.parse<string[]>(readFileSync(file, 'utf8'), { skipEmptyLines: true });
    const rows = data.slice(1).map(row => heading.map((_, index) => row[index] ?? ''));
    const part = `${file}.part`;
    writeFileSync(part, [heading, ...rows].map(row => line(row, false)).join(''), { flush: true });
    renameSync(part, file);
    syncFolder(path.dirname(file));
  }
}

/** Bytes of a file in which its heading is looked for. */
const LONGEST_HEADING = 1_000_000;

/** The first line of a CSV file, which may be large: no more of it is read. Throws RowFault where it has no end. */
function headingOf(file: string): string[] {
  const handle = openSync(file, 'r');
  try {
    for (let most = 8192; ; most *= 8) {
      const bytes = Buffer.alloc(Math.min(most, LONGEST_HEADING));
      const length = readSync(handle, bytes, 0, bytes.length, 0);
      const text = bytes.toString('utf8', 0, length).replace(/^\ufeff/, '');
      // A line end may stand in a cell in quotes: a second row says that the first is whole.
      const { data } = Papa.parse<string[]>(text, { preview: 2 });
      if (data.length > 1 || length < bytes.length) return data[0] ?? [];
      if (most >= LONGEST_HEADING) throw new RowFault(`${path.basename(file)} has no heading that could be read.`);
    }
  } finally {
    closeSync(handle);
  }
}

function endsInLineEnd(file: string): boolean {
  const handle = openSync(file, 'r');
  try {
    const { size } = fstatSync(handle);
    const last = Buffer.alloc(1);
    return size === 0 || (readSync(handle, last, 0, 1, size - 1) === 1 && last[0] === 0x0a);
  } finally {
    closeSync(handle);
  }
}

function decodedName(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    throw new RowFault(`“${text}” is not a valid file name.`);
  }
}

/** What a spreadsheet would take for a formula; numbers are none. */
export const formula = /^(?![-+]?[\d.,]+$)(?!\+\d[\d\s()/-]*$)[=+\-@\t\r]/;

/** A line of CSV; cells that begin a formula are kept from being one where that is asked for. */
const line = (cells: string[], escapes: boolean): string =>
  `${Papa.unparse([cells], { newline: '\r\n', escapeFormulae: escapes && formula })}\r\n`;
