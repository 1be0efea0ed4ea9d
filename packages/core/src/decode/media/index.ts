import type { Json } from '../../submission';
import type { Note } from '../notes';
import { readBody } from './body';
import { har } from './har';
import { json } from './json';
import { jsonLines } from './jsonLines';
import { mail } from './mail';
import { multipart } from './multipart';
import { plain } from './plain';
import type { Body, MediaReader } from './reader';
import { isTableForCertain, separated } from './separated';
import { spreadsheet } from './spreadsheet';
import { firstPairs, nestedFromPairs, urlencoded } from './urlencoded';
import { xml } from './xml';

export type { Body, MediaReader } from './reader';
export { contentTypeParts } from './body';
export { nestedFromPairs, nestedFromValues } from './urlencoded';
export { filesInMail } from './mail';
export { filesInMultipart } from './multipart';
export { bytesOfBase64, fileValue, type FileContent } from './parts';

/** Bodies inside an archive are read like any other, but for archives: those would nest without end. */
const insideArchives: MediaReader[] = [json, jsonLines, multipart, urlencoded, xml, mail, separated, plain];

/** In the order they are tried on a body whose stated type does not fit. */
export const mediaReaders: MediaReader[] = [
  har((text, type) => readWith(insideArchives, new TextEncoder().encode(text), type, '')),
  json,
  jsonLines,
  spreadsheet,
  multipart,
  urlencoded,
  xml,
  mail,
  separated,
  plain,
];

export interface Document {
  /** Which reader read it; 'query' for an address with values and no body, 'none' when nothing could. */
  media: string;
  document: Json;
  notes: Note[];
  /** True for a table: rows of cells by the names of their columns. */
  isTable?: boolean;
}

/**
 * Stage one: bytes to a JSON document. Never throws; what was not read is told in the notes.
 * @param query what followed `?` in the address, without the mark
 */
export const readDocument = (bytes: Uint8Array, contentType: string | null, query: string): Document =>
  readWith(mediaReaders, bytes, contentType, query);

function readWith(readers: MediaReader[], bytes: Uint8Array, contentType: string | null, query: string): Document {
  const values = nestedFromPairs(new URLSearchParams(firstPairs(query).head));
  const hasQuery = Object.keys(values).length > 0;
  if (bytes.length === 0) {
    if (hasQuery) return { media: 'query', document: values, notes: [] };
    return {
      media: 'none',
      document: null,
      notes: [{ code: 'media.empty', message: 'The body is empty and the address carries no values.' }],
    };
  }
  const { body, notes } = readBody(bytes, contentType);
  const stated = readers.find(reader => body.type !== null && reader.isStated(body.type));
  // What the bytes look like matters only where the stated type says little or turns out wrong.
  let looks: MediaReader[] | null = null;
  const likely = () => (looks ??= readers.filter(reader => reader !== stated && reader.looksLike(body)));
  for (const reader of candidates(stated, likely)) {
    const reading = reader.read(body);
    if ('code' in reading) {
      notes.push(reading);
      continue;
    }
    const mislabelled = looksElsewhere(reader, body, likely);
    if (mislabelled) {
      const better = mislabelled.read(body);
      if (!('code' in better))
        return {
          media: mislabelled.id,
          document: better.document,
          ...(better.isTable && { isTable: true }),
          notes: [...notes, ...better.notes, otherThanStated(mislabelled, body.type)],
        };
    }
    if (reader !== stated) notes.push(otherThanStated(reader, body.type));
    return {
      media: reader.id,
      document: reading.document,
      ...(reading.isTable && { isTable: true }),
      notes: [...notes, ...reading.notes],
    };
  }
  if (notes.length === 0)
    notes.push({
      code: 'media.unknown',
      message: `Nothing here reads ${body.type ?? 'a body without a Content-Type'}.`,
    });
  return { media: 'none', document: null, notes };
}

/** The stated reader first; the others only when it could not read the body. */
function* candidates(stated: MediaReader | undefined, likely: () => MediaReader[]): Generator<MediaReader> {
  if (stated) yield stated;
  yield* likely();
}

/** Text that is stated as plain or urlencoded but looks like something with a form of its own is read as that. */
const looksElsewhere = (reader: MediaReader, body: Body, likely: () => MediaReader[]) =>
  body.type !== null && (reader === plain || reader === urlencoded)
    ? likely().find(each => each !== plain && (each !== separated || isTableForCertain(body.text)))
    : undefined;

const otherThanStated = (reader: MediaReader, type: string | null): Note => ({
  code: 'media.mislabelled',
  message: type
    ? `Stated as ${type}, but it reads as ${reader.label}.`
    : `No Content-Type was stated; it reads as ${reader.label}.`,
});
