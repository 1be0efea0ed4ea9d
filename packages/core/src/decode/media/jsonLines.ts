import { parseJson, type Json } from '../../submission';
import { most, tooMany } from '../notes';
import type { MediaReader } from './reader';

/** Two for each submission: there may be blank lines. */
const MOST_LINES = 2 * most.submissions;

/** What stands before each document in a JSON text sequence (RFC 7464). */
const RECORD_SEPARATOR = '\u001e';

/** True where the first line with something on it is a document of its own, and another follows. */
function beginsLikeLines(text: string): boolean {
  const start = text.search(/\S/);
  const end = start < 0 ? -1 : text.indexOf('\n', start);
  if (end < 0 || !/[[{]/.test(text[start]!)) return false;
  const next = text.slice(end, end + 2000).trimStart()[0];
  return /[\]}]/.test(text.slice(start, end).trimEnd().at(-1)!) && (next === '{' || next === '[');
}

/** Several JSON documents, one a line. */
export const jsonLines: MediaReader = {
  id: 'json-lines',
  label: 'JSON, one document a line',
  isStated: type => /^application\/(x-ndjson|ndjson|jsonl|x-jsonlines|json-seq|jsonlines)$/.test(type),
  looksLike: ({ text }) => beginsLikeLines(text),
  read({ text }) {
    const all = text.split('\n', MOST_LINES + 1);
    const lines = all
      .slice(0, MOST_LINES)
      .map((line, index) => ({ line: line.replace(RECORD_SEPARATOR, '').trim(), number: index + 1 }))
      .filter(({ line }) => line !== '');
    const read = lines.map(({ line, number }) => ({ number, value: parseJson(line) }));
    const good = read.filter((each): each is { number: number; value: Json } => each.value !== undefined);
    if (good.length === 0) return { code: 'media.json-lines', message: 'None of its lines is JSON.' };
    const notes = read
      .filter(each => each.value === undefined)
      .slice(0, 20)
      .map(({ number }) => ({ code: 'media.line', message: `Line ${number} is not JSON; it was not read.` }));
    if (all.length > MOST_LINES) notes.push(tooMany('media.lines', `more than ${MOST_LINES} lines`));
    return { document: good.map(each => each.value), notes };
  },
};
