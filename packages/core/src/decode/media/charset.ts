/** What windows-1252 has from 0x80 to 0x9F (WHATWG Encoding Standard, index windows-1252); Node's own decoder has controls there. */
const upper = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** Labels that all mean windows-1252 (WHATWG Encoding Standard, §4.2). */
const westernLabels = new Set([
  'ansi_x3.4-1968',
  'ascii',
  'cp1252',
  'cp819',
  'csisolatin1',
  'ibm819',
  'iso-8859-1',
  'iso-ir-100',
  'iso8859-1',
  'iso88591',
  'iso_8859-1',
  'iso_8859-1:1987',
  'l1',
  'latin1',
  'us-ascii',
  'windows-1252',
  'x-cp1252',
]);

/** Bytes that are decoded at once. */
const PORTION = 8192;

function western(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += PORTION)
    parts.push(String.fromCharCode(...bytes.subarray(at, at + PORTION)));
  return parts.join('').replace(/[\u0080-\u009f]/g, control => upper[control.charCodeAt(0) - 0x80]!);
}

/**
 * Bytes as text in a charset, by its label as the WHATWG Encoding Standard knows it. A byte-order mark is dropped.
 * @throws RangeError for a label that nobody knows; TypeError for bytes that the charset does not have, where `fatal`
 */
export function decodeText(charset: string, bytes: Uint8Array, fatal = false): string {
  return westernLabels.has(charset.trim().toLowerCase())
    ? western(bytes)
    : new TextDecoder(charset, { fatal }).decode(bytes);
}
