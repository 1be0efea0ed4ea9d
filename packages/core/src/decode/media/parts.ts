import { decodeText } from './charset';
import type { Json } from '../../submission';

/** A file that came along in a message, as it stands in the document. */
export const fileValue = (name: string, type: string | null, size: number): Json => ({
  filename: name,
  type: type ?? 'application/octet-stream',
  size,
});

/** A file that came along, with what is in it. */
export interface FileContent {
  name: string;
  /** Media type as stated. */
  type: string | null;
  bytes: Uint8Array;
}

/** Index of a byte sequence in bytes from a place on, or -1. */
export function indexOfBytes(bytes: Uint8Array, wanted: Uint8Array, from: number): number {
  const first = wanted[0]!;
  for (
    let at = bytes.indexOf(first, from);
    at >= 0 && at <= bytes.length - wanted.length;
    at = bytes.indexOf(first, at + 1)
  ) {
    let same = 1;
    while (same < wanted.length && bytes[at + same] === wanted[same]) same++;
    if (same === wanted.length) return at;
  }
  return -1;
}

/** Bytes as text one to one, for header lines (ISO-8859-1). */
export const latin1 = (bytes: Uint8Array): string => {
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return text;
};

/** Bytes in a charset as text; unknown charsets are read as UTF-8, unreadable bytes become U+FFFD. */
export function textIn(bytes: Uint8Array, charset: string | undefined): string {
  try {
    return decodeText(charset || 'utf-8', bytes);
  } catch {
    return new TextDecoder().decode(bytes);
  }
}

export interface Part {
  /** Lower-cased names. */
  headers: Map<string, string>;
  body: Uint8Array;
}

/** Splits a head and a body at the first blank line; header lines that go on are unfolded (RFC 5322 §2.2.3). */
export function partOf(bytes: Uint8Array): Part {
  const crlf = indexOfBytes(bytes, new Uint8Array([13, 10, 13, 10]), 0);
  const lf = indexOfBytes(bytes, new Uint8Array([10, 10]), 0);
  const isCrlf = crlf >= 0 && (lf < 0 || crlf < lf);
  const end = isCrlf ? crlf : lf;
  const startsBlank = bytes[0] === 10 || (bytes[0] === 13 && bytes[1] === 10);
  if (startsBlank) return { headers: new Map(), body: bytes.subarray(bytes[0] === 10 ? 1 : 2) };
  if (end < 0) return { headers: headersIn(bytes), body: new Uint8Array() };
  return { headers: headersIn(bytes.subarray(0, end)), body: bytes.subarray(end + (isCrlf ? 4 : 2)) };
}

function headersIn(bytes: Uint8Array): Map<string, string> {
  const utf8 = textIn(bytes, 'utf-8');
  const text = utf8.includes('\ufffd') ? latin1(bytes) : utf8;
  const headers = new Map<string, string>();
  for (const line of text.replace(/\r?\n[ \t]+/g, ' ').split(/\r?\n/)) {
    const colon = line.indexOf(':');
    const name = line.slice(0, colon).trim().toLowerCase();
    if (colon > 0 && !headers.has(name)) headers.set(name, line.slice(colon + 1).trim());
  }
  return headers;
}

/** The parts between the delimiters of a multipart body (RFC 2046 §5.1.1), at most `most`; null when there is no delimiter. */
export function partsBetween(bytes: Uint8Array, boundary: string, most: number): Uint8Array[] | null {
  const delimiter = new TextEncoder().encode(`--${boundary}`);
  const parts: Uint8Array[] = [];
  let at = indexOfBytes(bytes, delimiter, 0);
  if (at < 0) return null;
  while (at >= 0 && parts.length < most) {
    let start = at + delimiter.length;
    if (bytes[start] === 45 && bytes[start + 1] === 45) break;
    while (bytes[start] === 32 || bytes[start] === 9) start++;
    start += bytes[start] === 13 ? 2 : 1;
    let next = indexOfBytes(bytes, delimiter, start);
    // A delimiter stands at the start of a line.
    while (next > 0 && bytes[next - 1] !== 10) next = indexOfBytes(bytes, delimiter, next + 1);
    const end = next < 0 ? bytes.length : bytes[next - 2] === 13 ? next - 2 : next - 1;
    if (end >= start) parts.push(bytes.subarray(start, end));
    at = next;
  }
  return parts;
}

/**
 * Parameters of a header such as Content-Disposition: quoted strings, and `name*` with a charset (RFC 8187). In form-data,
 * quotes in names come percent-encoded, and a backslash is one (HTML Standard, “multipart/form-data encoding algorithm”); other
 * senders escape both (RFC 822 §3.3), which shows where a quote is escaped.
 */
export function headerParameters(header: string, isForm = false): Record<string, string> {
  const parameters: Record<string, string> = {};
  const unreadable: Record<string, string> = {};
  for (const [, name, star, quoted, bare, plain] of header.matchAll(
    /;\s*([\w!#$&+^.`|~-]+?)(\*)?\s*=\s*(?:"((?:[^"\\]|\\.)*)"(?=\s*(?:;|$))|"([^"]*)"|([^;]*))/g,
  )) {
    const isEscaped = quoted !== undefined && (!isForm || quoted.includes('\\"'));
    const raw = isEscaped ? quoted.replace(/\\(["\\])/g, '$1') : (quoted ?? bare ?? (plain ?? '').trim());
    const value = star ? (extendedValue(raw) ?? raw) : raw;
    // One whose bytes are not of its charset does not count where it is said plainly, too (RFC 6266 §4.3).
    if (star && value.includes('\ufffd')) unreadable[name!.toLowerCase()] = value;
    else if (star) parameters[name!.toLowerCase()] = value;
    else parameters[name!.toLowerCase()] ??= value;
  }
  return withContinued({ ...unreadable, ...parameters }, header);
}

/** Values in several pieces, `filename*0*=utf-8''a; filename*1=b` (RFC 2231 §3, §4.1), put together under their name. */
function withContinued(parameters: Record<string, string>, header: string): Record<string, string> {
  const pieces = new Map<string, { text: string; isEncoded: boolean }[]>();
  for (const [, name, place, star, quoted, plain] of header.matchAll(
    /;\s*([\w!#$&+^.`|~-]+)\*(\d{1,3})(\*)?\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^;]*))/g,
  )) {
    const all = pieces.get(name!.toLowerCase()) ?? [];
    all[Number(place)] = { text: quoted ?? (plain ?? '').trim(), isEncoded: star !== undefined };
    pieces.set(name!.toLowerCase(), all);
  }
  for (const [name, all] of pieces) {
    const [charset = ''] = /^[\w-]*(?=')/.exec(all[0]?.text ?? '') ?? [];
    const whole = all.reduce((text, piece, index) => {
      if (!piece) return text;
      const { text: own, isEncoded } = piece;
      if (!isEncoded) return text + encodeURIComponent(own);
      return text + (index === 0 ? own.replace(/^[\w-]*'[^']*'/, '') : own);
    }, '');
    const isUtf = charset === '' || /^utf-?8$/i.test(charset);
    parameters[name] = extendedValue(`${isUtf ? 'utf-8' : charset}''${whole}`) ?? whole;
  }
  return parameters;
}

function extendedValue(raw: string): string | null {
  const [, charset, encoded] = /^([\w-]*)'[^']*'(.*)$/.exec(raw) ?? [];
  if (encoded === undefined) return null;
  const bytes = encoded.replace(/%([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
  return textIn(
    Uint8Array.from(bytes, each => each.charCodeAt(0)),
    charset,
  );
}

/** The bytes that a text in Base64 (RFC 4648 §4) stands for; what is no Base64 is passed over. */
export function bytesOfBase64(text: string): Uint8Array {
  const clean = text.replace(/[^A-Za-z0-9+/]/g, '');
  const whole = clean.slice(0, clean.length - (clean.length % 4 === 1 ? 1 : 0));
  return Uint8Array.from(atob(whole), each => each.charCodeAt(0));
}
