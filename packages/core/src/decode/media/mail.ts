import { tablesOfHtml, textOfHtml } from '../../html';
import type { Json } from '../../submission';
import { contentTypeParts } from './body';
import {
  bytesOfBase64,
  fileValue,
  headerParameters,
  latin1,
  partOf,
  partsBetween,
  textIn,
  type FileContent,
  type Part,
} from './parts';
import type { MediaReader } from './reader';

const MOST_PARTS = 200;
const DEEPEST_PART = 12;

/** Characters from the start in which the headers of a mail show. */
const LONGEST_HEAD = 8000;

const looksLikeHead = (head: string): boolean =>
  /^[\w-]+:/.test(head) &&
  /^(?:return-path|received|from|to|subject|date|message-id|mime-version|delivered-to|dkim-signature):/im.test(head) &&
  /\n(?:from|subject):/i.test(`\n${head}`);

/** The members of a mail's document that its headers give. */
export const mailHead = ['from', 'to', 'subject', 'date', 'message_id'] as const;

/** Internet messages (RFC 5322) with MIME parts (RFC 2045, 2046) and encoded words (RFC 2047). */
export const mail: MediaReader = {
  id: 'mail',
  label: 'mail',
  isStated: type => type === 'message/rfc822' || type === 'multipart/mixed' || type === 'multipart/alternative',
  looksLike: ({ text }) => looksLikeHead(text.slice(0, LONGEST_HEAD)),
  read({ bytes }) {
    const top = partOf(bytes);
    if (!top.headers.has('from') && !top.headers.has('subject'))
      return { code: 'media.mail', message: 'Not an e-mail: no From and no Subject.' };
    const content = contentOf(top, 0);
    const header = (name: string) => (top.headers.has(name) ? decodedWords(top.headers.get(name)!) : null);
    const document: Json = {
      from: header('from'),
      to: header('to'),
      subject: header('subject'),
      date: header('date'),
      message_id: header('message-id'),
      text: (content.text ?? content.html ?? '').replace(/\r\n?/g, '\n').trim(),
      ...(content.tables.length > 0 && { tables: content.tables }),
    };
    const attachments = content.files.map(each => fileValue(each.name, each.type, each.bytes.length));
    return { document: attachments.length > 0 ? { ...document, attachments } : document, notes: [] };
  },
};

/** The files attached to a mail, in their order. */
export const filesInMail = (bytes: Uint8Array): FileContent[] => contentOf(partOf(bytes), 0).files;

interface Content {
  text: string | null;
  html: string | null;
  /** The tables of its HTML: rows of cells. */
  tables: string[][][];
  files: FileContent[];
}

function contentOf({ headers, body }: Part, depth: number): Content {
  const { type, parameters } = contentTypeParts(headers.get('content-type') ?? 'text/plain');
  if (type?.startsWith('multipart/') && parameters.boundary && depth < DEEPEST_PART) {
    const inner = (partsBetween(body, parameters.boundary, MOST_PARTS) ?? []).map(part =>
      contentOf(partOf(part), depth + 1),
    );
    const pick = (name: 'text' | 'html') => inner.map(each => each[name]).find(each => each !== null) ?? null;
    return {
      text: pick('text'),
      html: pick('html'),
      tables: inner.flatMap(each => each.tables),
      files: inner.flatMap(each => each.files),
    };
  }
  const bytes = transferDecoded(body, headers.get('content-transfer-encoding'));
  const disposition = headers.get('content-disposition') ?? '';
  const name = headerParameters(disposition).filename ?? headerParameters(`;${headers.get('content-type') ?? ''}`).name;
  if (/^attachment/i.test(disposition) || (name !== undefined && !type?.startsWith('text/')))
    return { text: null, html: null, tables: [], files: [{ name: decodedWords(name ?? 'file'), type, bytes }] };
  const raw = textIn(bytes, parameters.charset);
  const text =
    parameters.format?.toLowerCase() === 'flowed' ? unflowed(raw, parameters.delsp?.toLowerCase() === 'yes') : raw;
  if (type === 'text/html')
    return {
      text: null,
      html: textOfHtml(text, { tables: true }),
      tables: tablesOfHtml(text).filter(rows => rows.length > 1),
      files: [],
    };
  return { text: type?.startsWith('text/') ? text : null, html: null, tables: [], files: [] };
}

/** Text in `format=flowed` (RFC 3676 §4): lines that end in a blank go on in the next; a blank put before `From` or `>` goes. */
function unflowed(text: string, deletesSpace: boolean): string {
  let flowed = '';
  let goesOn = false;
  for (const line of text.split(/\r?\n/)) {
    const own = line.startsWith(' ') ? line.slice(1) : line;
    flowed += (goesOn || flowed === '' ? '' : '\n') + own;
    // The line before a signature ends there, whatever it ends with (§4.3).
    goesOn = own.endsWith(' ') && own !== '-- ';
    if (goesOn && deletesSpace) flowed = flowed.slice(0, -1);
  }
  return flowed;
}

/** RFC 2045 §6: quoted-printable and base64; everything else is as it is. */
function transferDecoded(body: Uint8Array, encoding: string | undefined): Uint8Array {
  const name = encoding?.trim().toLowerCase();
  if (name === 'base64') return bytesOfBase64(latin1(body));
  if (name === 'quoted-printable')
    return bytesOfQuoted(
      latin1(body)
        .split('\n')
        .map(line => line.trimEnd())
        .join('\r\n')
        .replaceAll('=\r\n', ''),
    );
  return body;
}

const bytesOfQuoted = (text: string): Uint8Array =>
  Uint8Array.from(
    text.replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
    each => each.charCodeAt(0),
  );

/** RFC 2047: `=?charset?Q or B?text?=`; white space between two encoded words is dropped (§6.2). */
export function decodedWords(text: string): string {
  return text
    .replace(/(=\?[^?]+\?[bq]\?[^?]*\?=)\s+(?==\?[^?]+\?[bq]\?)/gi, '$1')
    .replace(/=\?([^?*]+)(?:\*[^?]*)?\?([bq])\?([^?]*)\?=/gi, (_, charset: string, encoding: string, word: string) => {
      const bytes = /b/i.test(encoding) ? bytesOfBase64(word) : bytesOfQuoted(word.replaceAll('_', ' '));
      return textIn(bytes, charset);
    });
}
