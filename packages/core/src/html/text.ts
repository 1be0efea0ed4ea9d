import { compile } from 'html-to-text';

/** Characters of HTML that are read, and elements inside one another: a person's mail has a few dozen. */
const LONGEST = 1_000_000;
const DEEPEST = 400;
/** Rows of tables that are laid out as such: the layout takes time by their square. */
const MOST_ROWS = 2000;

/** Elements that hold nothing, or that the next of their kind ends (HTML Standard §13.1.2). */
const never = new Set(
  'area base br col embed hr img input link meta source track wbr p li td th tr dd dt option'.split(' '),
);

/**
 * The text that a person sees of HTML: scripts, styles and comments go. What is nested deeper than anyone writes is cut
 * off, since the parser takes time by the square of the depth. Never throws.
 */
export function textOfHtml(html: string, { links = false, tables = false } = {}): string {
  try {
    const asTables = tables && html.split(/<tr\b/i, MOST_ROWS + 1).length <= MOST_ROWS;
    return converter(links, tables, asTables)(withoutWideCells(upToDepth(html.slice(0, LONGEST))));
  } catch {
    return html.slice(0, LONGEST).replace(/<[^<>]{0,1000}>/g, ' ');
  }
}

const converters = new Map<string, (html: string) => string>();

/** Made once for each way of writing: making one takes longer than using it. */
function converter(links: boolean, uppercase: boolean, asTables: boolean): (html: string) => string {
  const key = JSON.stringify([links, uppercase, asTables]);
  const made =
    converters.get(key) ??
    compile({
      wordwrap: false,
      limits: { maxDepth: DEEPEST },
      selectors: [
        { selector: 'a', options: { ignoreHref: !links, hideLinkHrefIfSameAsText: true } },
        { selector: 'img', format: 'skip' },
        ...['h1', 'h2', 'h3', 'h4', 'h5', 'h6'].map(selector => ({ selector, options: { uppercase } })),
        ...(asTables ? [{ selector: 'table', format: 'dataTable', options: { uppercaseHeaderCells: false } }] : []),
      ],
    });
  converters.set(key, made);
  return made;
}

/** The HTML up to where more elements are open than anyone nests. Takes time by its length. */
export function upToDepth(html: string): string {
  const open: string[] = [];
  const tag = /\/?[a-z][a-z\d]{0,20}/iy;
  for (let at = html.indexOf('<'); at >= 0; at = html.indexOf('<', at + 1)) {
    tag.lastIndex = at + 1;
    const name = tag.exec(html)?.[0].toLowerCase();
    if (name === undefined || never.has(name)) continue;
    if (name.startsWith('/')) {
      const last = open.lastIndexOf(name.slice(1));
      if (last >= 0) open.length = last;
    } else if (open.push(name) > DEEPEST) return html.slice(0, at);
  }
  return html;
}

/** Cells that span hundreds of others are none of a person’s making; laying them out would take all memory. */
const withoutWideCells = (html: string): string =>
  html.replace(
    /(?:col|row)span(?=\s{0,9}=\s{0,9}["']?\s{0,9}[&\d])(?!\s{0,9}=\s{0,9}["']?\d{1,2}["'\s>])/gi,
    'data-span',
  );
