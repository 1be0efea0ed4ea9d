import { parseJson, type Json } from '../../submission';
import type { MediaReader } from './reader';

/** What stands before each document in a JSON text sequence (RFC 7464). */
const RECORD_SEPARATOR = '\u001e';

/** Several JSON documents, one a line. */
export const jsonLines: MediaReader = {
  id: 'json-lines',
  label: 'JSON, one document a line',
  isStated: type => /^application\/(x-ndjson|ndjson|jsonl|x-jsonlines|json-seq|jsonlines)$/.test(type),
  looksLike: ({ text }) => /^\s*[[{].*[\]}]\s*\r?\n\s*[[{]/.test(text),
  read({ text }) {
    const lines = text
      .split(/\r?\n/)
      .map((line, index) => ({ line: line.replace(RECORD_SEPARATOR, '').trim(), number: index + 1 }))
      .filter(({ line }) => line !== '');
    const read = lines.map(({ line, number }) => ({ number, value: parseJson(line) }));
    const good = read.filter((each): each is { number: number; value: Json } => each.value !== undefined);
    if (good.length === 0) return { code: 'media.json-lines', message: 'None of its lines is JSON.' };
    const notes = read
      .filter(each => each.value === undefined)
      .slice(0, 20)
      .map(({ number }) => ({ code: 'media.line', message: `Line ${number} is not JSON; it was not read.` }));
    return { document: good.map(each => each.value), notes };
  },
};
