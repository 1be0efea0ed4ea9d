import type { Note } from '../notes';
import { decodeText } from './charset';
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

/** JSON in UTF-16 without a mark shows by its zero bytes, since it starts with two ASCII characters (RFC 4627 §3). */
function charsetOfZeros(bytes: Uint8Array): string | null {
  if (bytes.length < 4 || bytes.length % 2 !== 0) return null;
  if (bytes[0] !== 0 && bytes[1] === 0 && bytes[2] !== 0 && bytes[3] === 0) return 'utf-16le';
  if (bytes[0] === 0 && bytes[1] !== 0 && bytes[2] === 0 && bytes[3] !== 0) return 'utf-16be';
  return null;
}

/**
 * The body with its text, which is decoded when it is first asked for: files may be large and no text at all. A
 * byte-order mark wins over the stated charset, UTF-8 is the default, windows-1252 the last resort; a charset that does
 * not fit adds a note.
 */
export function readBody(bytes: Uint8Array, contentType: string | null): { body: Body; notes: Note[] } {
  const parts = contentTypeParts(contentType);
  const notes: Note[] = [];
  let text: string | null = null;
  const decoded = () => {
    const stated = charsetOfMark(bytes) ?? parts.parameters.charset ?? charsetOfZeros(bytes) ?? 'utf-8';
    const strict = decodeStrictly(bytes, stated);
    if (strict !== null) return strict;
    notes.push({ code: 'media.charset', message: `The bytes are not valid ${stated}; read with another charset.` });
    return decodeStrictly(bytes, 'utf-8') ?? decodeText('windows-1252', bytes);
  };
  const body: Body = {
    bytes,
    ...parts,
    get text() {
      return (text ??= decoded());
    },
  };
  return { body, notes };
}

function decodeStrictly(bytes: Uint8Array, charset: string): string | null {
  try {
    return decodeText(charset, bytes, true);
  } catch {
    return null;
  }
}

/** Characters from the start that tell whether bytes are text (WHATWG MIME Sniffing Standard §3, “resource header”). */
const LOOKED_AT = 1445;

/** Of those, the share from which they are none; one that strayed into an export is nothing. */
const MOST_BINARY = 0.02;

/** Characters that no text holds (WHATWG MIME Sniffing Standard §3, “binary data byte”). */
const binary = /[\u0000-\u0008\u000b\u000e-\u001a\u001c-\u001f]/g; // eslint-disable-line no-control-regex

/** True for bytes that are an archive, a picture or the like: whatever they would say as text is chance. */
export function isBinary(text: string): boolean {
  const head = text.slice(0, LOOKED_AT);
  return (head.match(binary)?.length ?? 0) > MOST_BINARY * head.length;
}
