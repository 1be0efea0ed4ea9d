import { strFromU8, unzipSync } from 'fflate';
import { XMLParser } from 'fast-xml-parser';
import { isJsonObject, type Json, type JsonObject } from '../../submission';
import { most, MOST_NOTES, tooMany, type Note } from '../notes';
import type { MediaReader } from './reader';
import { fromRows } from './grid';

/** The first worksheet with rows of an Office Open XML workbook (ECMA-376 part 1, §18). */
export const spreadsheet: MediaReader = {
  id: 'spreadsheet',
  label: 'spreadsheet (XLSX)',
  isStated: type => type === 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  looksLike: ({ bytes }) => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4,
  read({ bytes }) {
    try {
      const parts = partsOf(bytes);
      const sheets = Object.keys(parts).filter(name => /^xl\/worksheets\/[^/]+\.xml$/.test(name));
      if (sheets.length === 0) return { code: 'media.spreadsheet', message: 'This archive has no worksheet.' };
      const book = workbookOf(parts);
      const ordered = book.sheets.filter(({ part }) => sheets.includes(part));
      const listed = ordered.length > 0 ? ordered : sheets.sort().map(part => ({ name: part, part }));
      const at = listed.findIndex(each => hasCells(parts[each.part]!));
      const first = listed[at];
      const read = first && rowsOf(parts[first.part]!, book);
      if (!read || read.rows.length === 0) return { code: 'media.spreadsheet', message: 'Its worksheets hold no row.' };
      const others = listed.slice(at + 1).filter(each => hasCells(parts[each.part]!));
      const notes: Note[] = read.notes;
      if (others.length > 0)
        notes.push({
          code: 'media.sheets',
          message: `Only the sheet “${first.name}” was read, not ${others.map(each => `“${each.name}”`).join(', ')}.`,
        });
      return fromRows(read.rows, notes);
    } catch (error) {
      return { code: 'media.spreadsheet', message: `This workbook can’t be read: ${(error as Error).message}.` };
    }
  },
};

/** True for a worksheet that holds a value. */
const hasCells = (xml: string): boolean => /<(?:\w+:)?(?:v|is)[\s>]/.test(xml);

/** The parts of the package that matter, unpacked. Throws on an archive that is broken or claims too much. */
function partsOf(bytes: Uint8Array): Record<string, string> {
  const wanted =
    /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|sharedStrings\.xml|styles\.xml|worksheets\/[^/]+\.xml)$/;
  // A small file may claim to be a huge one, or hold many that are large together.
  let unpacked = 0;
  const files = unzipSync(bytes, {
    filter: ({ name, originalSize }) => {
      if (!wanted.test(name)) return false;
      unpacked += originalSize;
      if (unpacked > most.unpacked) throw new Error(`it is larger than ${most.unpacked / 1e6} MB unpacked`);
      return true;
    },
  });
  return Object.fromEntries(Object.entries(files).map(([name, content]) => [name, strFromU8(content)]));
}

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  textNodeName: '#',
  alwaysCreateTextNode: true,
  parseTagValue: false,
  parseAttributeValue: false,
  removeNSPrefix: true,
  trimValues: false,
  ignoreDeclaration: true,
  isArray: name => ['row', 'c', 'si', 'r', 'sheet', 'Relationship', 'xf', 'numFmt'].includes(name),
});

/** A part as an object. A document type has no place in a workbook: entities are not expanded. */
function parsed(xml: string | undefined): JsonObject {
  if (xml === undefined || /<!DOCTYPE/i.test(xml)) return {};
  const value = parser.parse(xml) as Json;
  return isJsonObject(value) ? value : {};
}

const inside = (value: Json | undefined, ...path: string[]): Json | undefined =>
  path.reduce<Json | undefined>((at, name) => (isJsonObject(at ?? null) ? (at as JsonObject)[name] : undefined), value);
const list = (value: Json | undefined): Json[] => (Array.isArray(value) ? value : []);
const text = (value: Json | undefined): string => (typeof value === 'string' ? value : '');

interface Workbook {
  sheets: { name: string; part: string }[];
  strings: string[];
  /** By style index: true where the number format is one of dates or times. */
  dates: boolean[];
  /** True where days count from 1904 (ECMA-376 part 1, §18.17.4.1). */
  from1904: boolean;
}

/** The text of a string item: its own, or that of its runs; phonetic hints are left out. */
const stringOf = (item: Json): string =>
  text(inside(item, 't', '#')) ||
  list(inside(item, 'r'))
    .map(run => text(inside(run, 't', '#')))
    .join('');

function workbookOf(parts: Record<string, string>): Workbook {
  const book = parsed(parts['xl/workbook.xml']);
  const relations = new Map(
    list(inside(parsed(parts['xl/_rels/workbook.xml.rels']), 'Relationships', 'Relationship')).map(each => [
      text(inside(each, '@Id')),
      `xl/${text(inside(each, '@Target')).replace(/^\/?(xl\/)?/, '')}`,
    ]),
  );
  const sheets = list(inside(book, 'workbook', 'sheets', 'sheet')).map(each => ({
    name: text(inside(each, '@name')),
    part: relations.get(text(inside(each, '@id'))) ?? '',
  }));
  const styles = parsed(parts['xl/styles.xml']);
  const formats = new Map(
    list(inside(styles, 'styleSheet', 'numFmts', 'numFmt')).map(each => [
      text(inside(each, '@numFmtId')),
      text(inside(each, '@formatCode')),
    ]),
  );
  const dates = list(inside(styles, 'styleSheet', 'cellXfs', 'xf')).map(each => {
    const id = text(inside(each, '@numFmtId'));
    return isDateFormat(Number(id), formats.get(id));
  });
  return {
    sheets,
    strings: list(inside(parsed(parts['xl/sharedStrings.xml']), 'sst', 'si')).map(stringOf),
    dates,
    from1904: /^(1|true)$/.test(text(inside(book, 'workbook', 'workbookPr', '@date1904'))),
  };
}

/** The built-in formats of dates and times (§18.8.30), and own ones that write year, month, day, hour or second. */
function isDateFormat(id: number, code: string | undefined): boolean {
  if ((id >= 14 && id <= 22) || (id >= 45 && id <= 47)) return true;
  return code !== undefined && code.length < 300 && /[ymdhs]/i.test(code.replace(/"[^"]*"|\[[^[\]]*\]|\\./g, ''));
}

/** Cells that may be left out before others, beyond four for each that is there. */
const MOST_BLANK = 100_000;

const DAY = 86_400_000;
/** 9999-12-31 (§18.17.4.1). */
const LAST_DAY = 2_958_466;

/** A serial number of a day as ISO 8601: a date, a time where it is less than a day, or both. */
function isoOfSerial(serial: number, from1904: boolean): string {
  if (serial < 0 || serial > LAST_DAY) return String(serial);
  const epoch = from1904 ? Date.UTC(1904, 0, 1) : Date.UTC(1899, 11, 30);
  const iso = new Date(epoch + Math.round(serial * 86_400) * 1000).toISOString();
  if (serial < 1) return iso.slice(11, 16);
  return (Math.round(serial * 86_400) * 1000) % DAY === 0 ? iso.slice(0, 10) : iso.slice(0, 19);
}

/** The number of a column by its letters, from 0. */
function columnOf(reference: string): number | null {
  const letters = /^([A-Z]{1,3})\d+$/.exec(reference)?.[1];
  return letters ? [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1 : null;
}

function rowsOf(xml: string, book: Workbook): { rows: Json[][]; notes: Note[] } {
  const notes: Note[] = [];
  const rows: Json[][] = [];
  let [filled, blank] = [0, 0];
  let isWide = false;
  for (const row of list(inside(parsed(xml), 'worksheet', 'sheetData', 'row')).slice(0, most.submissions + 2)) {
    const cells: Json[] = [];
    list(inside(row, 'c')).forEach((cell, index) => {
      const reference = text(inside(cell, '@r'));
      const value = valueOf(cell, book);
      if (value === undefined) {
        if (notes.length < MOST_NOTES)
          notes.push({ code: 'media.cell', message: `Cell ${reference} holds an error; it was not read.` });
        return;
      }
      const column = columnOf(reference) ?? index;
      const gap = Math.max(0, column - cells.length);
      if (column >= most.columns || blank + gap > MOST_BLANK + 4 * filled) return void (isWide = true);
      blank += gap;
      filled += 1;
      while (cells.length < column) cells.push('');
      cells[column] = value;
    });
    if (cells.some(cell => cell !== '')) rows.push(cells);
  }
  if (isWide) notes.push(tooMany('media.columns', `cells beyond column ${most.columns}, or too many in all`));
  return { rows, notes };
}

/** The value of a cell; undefined for one that holds an error. */
function valueOf(cell: Json, { strings, dates, from1904 }: Workbook): Json | undefined {
  const raw = text(inside(cell, 'v', '#'));
  switch (text(inside(cell, '@t'))) {
    case 's':
      return strings[Number(raw)] ?? '';
    case 'inlineStr':
      return stringOf(inside(cell, 'is') ?? null);
    case 'str':
    case 'd':
      return raw;
    case 'b':
      return raw === '1';
    case 'e':
      return undefined;
    default: {
      if (raw === '') return '';
      const number = Number(raw);
      if (!Number.isFinite(number)) return raw;
      return dates[Number(text(inside(cell, '@s')) || -1)] ? isoOfSerial(number, from1904) : number;
    }
  }
}
