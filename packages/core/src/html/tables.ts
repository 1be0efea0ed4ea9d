import { Parser } from 'htmlparser2';
import { upToDepth } from './text';

/** Characters of HTML that are read, and cells of it. */
const LONGEST = 1_000_000;
const MOST_CELLS = 20_000;
const DEEPEST = 400;

const breaks = new Set('br p div li ul ol h1 h2 h3 h4 h5 h6'.split(' '));
const silent = new Set('style script head title template'.split(' '));

/** What is being read of one table: its rows so far, and the open cell. */
interface Open {
  rows: string[][];
  row: string[] | null;
  cell: string | null;
}

/** Text as it is shown: blanks as one, line ends where the HTML has breaks. */
const shown = (text: string): string =>
  text
    .split('\n')
    .map(line => line.replace(/\s+/g, ' ').trim())
    .filter((line, index, all) => line !== '' || (index > 0 && index < all.length - 1 && all[index - 1] !== ''))
    .join('\n')
    .trim();

/**
 * The tables of HTML as rows of cells, and its lists of terms (`dl`) as rows of two. A link whose text is another than its address
 * stays an anchor. Tables without rows of text are left out. Takes time by the length of the HTML; never throws.
 */
export function tablesOfHtml(html: string): string[][][] {
  const tables: string[][][] = [];
  const open: Open[] = [];
  let [depth, quiet, cells] = [0, 0, 0];
  let anchor: { href: string; text: string } | null = null;
  const say = (text: string) => {
    const table = open.at(-1);
    if (quiet > 0 || !table || table.cell === null) return;
    if (anchor) anchor.text += text;
    else table.cell += text;
  };
  const endCell = () => {
    const table = open.at(-1);
    if (!table || table.cell === null) return;
    if (cells++ < MOST_CELLS) table.row?.push(shown(table.cell));
    table.cell = null;
  };
  const endRow = () => {
    endCell();
    const table = open.at(-1);
    if (table?.row && table.row.some(cell => cell !== '')) table.rows.push(table.row);
    if (table) table.row = null;
  };
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (++depth > DEEPEST) return;
        if (silent.has(name)) quiet += 1;
        if (name === 'table' || name === 'dl') open.push({ rows: [], row: null, cell: null });
        else if (name === 'tr' || name === 'dt') {
          endRow();
          const table = open.at(-1);
          if (table) table.row = [];
          if (name === 'dt' && table) table.cell = '';
        } else if (name === 'td' || name === 'th' || name === 'dd') {
          endCell();
          const table = open.at(-1);
          if (table) {
            table.row ??= [];
            table.cell = '';
          }
        } else if (name === 'a' && attributes.href && !anchor) anchor = { href: attributes.href, text: '' };
        else if (breaks.has(name)) say('\n');
      },
      ontext: text => say(text.replace(/\s+/g, ' ')),
      onclosetag(name) {
        depth -= 1;
        if (silent.has(name)) quiet -= 1;
        if (name === 'a' && anchor) {
          const { href, text } = anchor;
          anchor = null;
          const plain = text.trim();
          const isPlain = plain === '' || plain === href || !/^https?:/i.test(href);
          say(isPlain ? plain || href : `<a href="${href.replaceAll('"', '%22')}">${plain.replaceAll('<', '')}</a>`);
        } else if (name === 'td' || name === 'th' || name === 'dt' || name === 'dd') endCell();
        else if (name === 'tr') endRow();
        else if (name === 'table' || name === 'dl') {
          endRow();
          const table = open.pop();
          if (table && table.rows.length > 0) tables.push(table.rows);
        } else if (breaks.has(name) && name !== 'br') say('\n');
      },
    },
    { decodeEntities: true, lowerCaseTags: true },
  );
  parser.end(upToDepth(html.slice(0, LONGEST)));
  return tables;
}
