import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { asText, isJsonObject, type Json } from '@grammata/core/submission';
import Papa from 'papaparse';

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
   * @returns how many bytes were appended. Throws RowFault.
   */
  append(url: string, row: Json, columns: readonly string[]): number {
    const { host, pathname } = new URL(url);
    const name = decodeURIComponent(pathname.slice(1));
    const folder = path.join(this.folder, host);
    const file = path.join(folder, name);
    if (!/^[a-z\d-]+$/.test(host) || path.dirname(file) !== folder || name.startsWith('.'))
      throw new RowFault(`“${url}” is no place for rows.`);
    const values = isJsonObject(row) ? row : {};
    mkdirSync(folder, { recursive: true });
    const text = /\.ndjson$/i.test(name) ? `${JSON.stringify(values)}\n` : this.#csvRow(file, values, columns);
    appendFileSync(file, text, { flush: true });
    return Buffer.byteLength(text);
  }

  #csvRow(file: string, values: Record<string, Json>, columns: readonly string[]): string {
    const isNew = !existsSync(file);
    const [head] = isNew ? [] : Papa.parse<string[]>(readFileSync(file, 'utf8'), { preview: 1 }).data;
    const heading = head?.map((each, index) => (index === 0 ? each.replace(/^\ufeff/, '') : each)) ?? [...columns];
    const missing = Object.keys(values).filter(key => !heading.includes(key));
    if (missing.length > 0)
      throw new RowFault(
        `${path.basename(file)} has no column ${missing.join(', ')}; its first line is kept as it is.`,
      );
    const line = (cells: string[], escapes: boolean) =>
      `${Papa.unparse([cells], { newline: '\r\n', escapeFormulae: escapes })}\r\n`;
    const cells = heading.map(column => asText(values[column]));
    return `${isNew ? line(heading, false) : ''}${line(cells, true)}`;
  }
}
