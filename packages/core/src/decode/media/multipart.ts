import { behindLast, parseJson, type Json } from '../../submission';
import { most, tooMany, type Note } from '../notes';
import { contentTypeParts } from './body';
import { fileValue, headerParameters, partOf, partsBetween, textIn, type FileContent } from './parts';
import type { MediaReader } from './reader';
import { nestedFromValues } from './urlencoded';

/** Characters: RFC 2046 §5.1.1 allows 70. */
const LONGEST_BOUNDARY = 200;

/** The boundary that the first line with something on it shows; empty for none. */
function boundaryShown(text: string): string {
  const start = text.search(/\S/);
  const end = start < 0 ? -1 : text.indexOf('\n', start);
  const line = end < 0 ? '' : text.slice(start, end).trimEnd();
  return line.startsWith('--') && line.length <= 72 ? line.slice(2) : '';
}

/** multipart/form-data (RFC 7578), names and empty file inputs as the HTML Standard sends them. */
export const multipart: MediaReader = {
  id: 'multipart',
  label: 'multipart form',
  isStated: type => type.startsWith('multipart/') && type !== 'multipart/mixed' && type !== 'multipart/alternative',
  looksLike: ({ text }) => /^--[^\r\n]{1,70}\r?\ncontent-disposition\s*:\s*form-data/i.test(text),
  read({ bytes, text, parameters }) {
    const boundary = (parameters.boundary || boundaryShown(text)).slice(0, LONGEST_BOUNDARY);
    if (!boundary)
      return { code: 'media.multipart', message: 'The Content-Type names no boundary, and the body shows none.' };
    const parts = partsBetween(bytes, boundary, most.parts + 1);
    if (parts === null)
      return { code: 'media.multipart', message: `The boundary “${boundary}” does not occur in the body.` };
    const notes: Note[] = text.trimEnd().endsWith('--')
      ? []
      : [{ code: 'media.cut', message: 'The last part is not closed: the message may have been cut off.' }];
    if (parts.length > most.parts) notes.push(tooMany('media.parts', `more than ${most.parts} parts`));
    const read = parts.slice(0, most.parts).map(partOf);
    const charset = read.find(part => nameOf(part.headers) === '_charset_');
    const fallback = charset ? textIn(charset.body, 'utf-8').trim() : 'utf-8';
    const values = read.flatMap(({ headers, body }): [string, Json][] => {
      const name = nameOf(headers);
      if (name === null || name === '_charset_') return [];
      const { filename } = headerParameters(headers.get('content-disposition') ?? '', true);
      const { type, parameters: own } = contentTypeParts(headers.get('content-type') ?? null);
      if (filename !== undefined) {
        const bare = bareName(filename);
        return bare === '' && body.length === 0
          ? [[name, null]]
          : [[name, fileValue(bare || 'file', type, body.length)]];
      }
      const content = textIn(body, own.charset || fallback);
      return [[name, type !== null && /json/.test(type) ? (parseJson(content) ?? content) : content]];
    });
    return { document: nestedFromValues(values), notes };
  },
};

/** A file's name without the folders that some senders put before it. */
const bareName = (filename: string): string => behindLast(decoded(filename), '\\/');

/** The files in a multipart body, in their order. */
export function filesInMultipart(bytes: Uint8Array, boundary: string): FileContent[] {
  return (partsBetween(bytes, boundary, most.parts) ?? []).map(partOf).flatMap(({ headers, body }): FileContent[] => {
    const { filename } = headerParameters(headers.get('content-disposition') ?? '', true);
    if (filename === undefined) return [];
    const { type } = contentTypeParts(headers.get('content-type') ?? null);
    return [{ name: bareName(filename) || 'file', type, bytes: body }];
  });
}

const nameOf = (headers: Map<string, string>): string | null => {
  const { name } = headerParameters(headers.get('content-disposition') ?? '', true);
  return name === undefined ? null : decoded(name);
};

/** Browsers percent-encode quotes and line breaks in names, and nothing else. */
const decoded = (name: string): string => name.replace(/%22/g, '"').replace(/%0d/gi, '\r').replace(/%0a/gi, '\n');
