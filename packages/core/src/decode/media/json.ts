import { parse, type ParseError } from 'jsonc-parser';
import { exactJson, type Json } from '../../submission';
import { digitsAsText } from '../notes';
import type { MediaReader } from './reader';

/** JSON (RFC 8259), also under a `+json` suffix (RFC 6839). */
export const json: MediaReader = {
  id: 'json',
  label: 'JSON',
  isStated: type => /^(application|text)\/(json|x-json)$/.test(type) || type.endsWith('+json'),
  looksLike: ({ text }) => /^\s*[[{]/.test(text),
  read({ text }) {
    try {
      const { value, kept } = exactJson(text);
      return { document: value as Json, notes: kept === 0 ? [] : [digitsAsText(kept)] };
    } catch (error) {
      return {
        code: 'media.json',
        message: `This is not JSON: ${whereItBroke(text, String((error as Error).message))}`,
      };
    }
  },
};

/** Texts longer than this are not searched for the place where they break. */
const LONGEST_SEARCHED = 1_000_000;

/** What is wrong, with line and column. */
function whereItBroke(text: string, complaint: string): string {
  const reason = complaint
    .replace(/,? "?\.\.\.[\s\S]*$/, '')
    .replace(/, "[\s\S]*$/, '')
    .replace(/ in JSON at position[\s\S]*$/, '');
  const offset = breakingOffset(text);
  if (offset === null) return `${reason}.`;
  if (text.slice(offset).trim() === '')
    return `it ends too early, at line ${text.slice(0, offset).split('\n').length}.`;
  const before = text.slice(0, offset).split('\n');
  return `${reason} at line ${before.length}, column ${before.at(-1)!.length + 1}.`;
}

/** Where a text stops being JSON, in UTF-16 code units; null when that can't be told. */
function breakingOffset(text: string): number | null {
  if (text.length > LONGEST_SEARCHED) return null;
  const errors: ParseError[] = [];
  try {
    parse(text, errors, { disallowComments: true });
  } catch {
    return null; // nested deeper than the stack
  }
  return errors[0]?.offset ?? null;
}
