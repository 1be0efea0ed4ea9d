import type { Note } from '../notes';
import type { Body } from './reader';

/** Splits a Content-Type into its media type and parameters (RFC 9110 §8.3.1). */
export function contentTypeParts(contentType: string | null): Pick<Body, 'type' | 'parameters'> {
  if (!contentType?.trim()) return { type: null, parameters: {} };
  const [type = '', ...rest] = contentType.split(';');
  const parameters: Record<string, string> = {};
  for (const part of rest) {
    const [, name, quoted, plain] = /^\s*([^=\s]+)\s*=\s*(?:"((?:[^"\\]|\\.)*)"|(\S+))\s*$/.exec(part) ?? [];
    if (name) parameters[name.toLowerCase()] = quoted?.replace(/\\(.)/g, '$1') ?? plain ?? '';
  }
  return { type: type.trim().toLowerCase() || null, parameters };
}

/** The charset a byte-order mark tells (WHATWG Encoding Standard, “BOM sniff”), or null. */
function charsetOfMark(bytes: Uint8Array): string | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  return null;
}

/** Bytes as text: a byte-order mark wins over the stated charset, UTF-8 is the default, windows-1252 the last resort. */
export function readBody(bytes: Uint8Array, contentType: string | null): { body: Body; notes: Note[] } {
  const parts = contentTypeParts(contentType);
  const notes: Note[] = [];
  const stated = charsetOfMark(bytes) ?? parts.parameters.charset ?? 'utf-8';
  let text: string | null = decodeStrictly(bytes, stated);
  if (text === null) {
    text = decodeStrictly(bytes, 'utf-8') ?? new TextDecoder('windows-1252').decode(bytes);
    notes.push({ code: 'media.charset', message: `The bytes are not valid ${stated}; read with another charset.` });
  }
  return { body: { bytes, ...parts, text }, notes };
}

function decodeStrictly(bytes: Uint8Array, charset: string): string | null {
  try {
    return new TextDecoder(charset, { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}
