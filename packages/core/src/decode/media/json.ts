import type { Json } from '../../submission';
import type { MediaReader } from './reader';

/** JSON (RFC 8259), also under a `+json` suffix (RFC 6839). */
export const json: MediaReader = {
  id: 'json',
  label: 'JSON',
  isStated: type => /^(application|text)\/(json|x-json)$/.test(type) || type.endsWith('+json'),
  looksLike: ({ text }) => /^\s*[[{]/.test(text),
  read({ text }) {
    try {
      return { document: JSON.parse(text) as Json, notes: [] };
    } catch (error) {
      return { code: 'media.json', message: `This is not JSON: ${whereItBroke(text, String((error as Error).message))}` };
    }
  },
};

/** The parser's complaint with line and column, when it gives a position. */
function whereItBroke(text: string, complaint: string): string {
  const position = /at position (\d+)/.exec(complaint)?.[1];
  const reason = complaint.replace(/ in JSON at position.*$/, '').replace(/, "?\.\.\..*$/s, '');
  if (position === undefined) return /end of JSON/.test(complaint) ? 'it ends too early.' : `${reason}.`;
  const before = text.slice(0, Number(position)).split('\n');
  return `${reason} at line ${before.length}, column ${before.at(-1)!.length + 1}.`;
}
