import Papa from 'papaparse';
import { most, MOST_NOTES, type Note } from '../notes';
import type { MediaReader } from './reader';
import { fromRows } from './grid';

/** CSV (RFC 4180) and its kin with tabs or semicolons, with a header row or without. */
export const separated: MediaReader = {
  id: 'separated',
  label: 'separated values',
  isStated: type =>
    /^text\/(csv|tab-separated-values|comma-separated-values)$/.test(type) || type === 'application/csv',
  looksLike: ({ text }) => /^sep=.\r?\n/.test(text) || rowsAgree(text),
  read({ text, type, parameters }) {
    const delimiter = type === 'text/tab-separated-values' ? '\t' : '';
    // Some spreadsheets say in a line of its own what separates.
    const [said = '', mark] = /^sep=(.)\r?\n/.exec(text) ?? [];
    const { data, errors } = Papa.parse<string[]>(withoutEndLines(text.slice(said.length)), {
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
    return fromRows(data, notes, parameters.header?.toLowerCase());
  },
};

/** Characters from the start that tell whether lines agree, and rows. */
const LOOKED_AT = 20_000;
const ROWS_LOOKED_AT = 8;

/** Without the line ends behind the last row; blank cells stay. */
function withoutEndLines(text: string): string {
  let end = text.length;
  while (end > 0 && (text[end - 1] === '\n' || text[end - 1] === '\r')) end -= 1;
  return text.slice(0, end);
}

/** At least two rows with the same number, two or more, of cells, whatever stands inside quotes. */
function rowsAgree(text: string): boolean {
  const head = text.trimStart().slice(0, LOOKED_AT);
  if (!head.includes('\n')) return false;
  const isCut = text.length > LOOKED_AT;
  return [',', ';', '\t'].some(delimiter => {
    if (!head.includes(delimiter)) return false;
    const { data } = Papa.parse<string[]>(withoutEndLines(head), {
      delimiter,
      skipEmptyLines: 'greedy',
      preview: ROWS_LOOKED_AT + 1,
    });
    const rows = data.length > ROWS_LOOKED_AT || isCut ? data.slice(0, -1) : data;
    return rows.length > 1 && rows[0]!.length > 1 && rows.every(row => row.length === rows[0]!.length);
  });
}
