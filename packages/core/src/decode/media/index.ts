import type { Json } from '../../submission';
import type { Note } from '../notes';
import { isBinary, readBody } from './body';
import { har } from './har';
import { json } from './json';
import { jsonLines } from './jsonLines';
import { mail } from './mail';
import { multipart } from './multipart';
import { plain } from './plain';
import type { MediaReader } from './reader';
import { separated } from './separated';
import { spreadsheet } from './spreadsheet';
import { firstPairs, nestedFromPairs, pairsOf, urlencoded } from './urlencoded';
import { xml } from './xml';

export type { Body, MediaReader } from './reader';
export { contentTypeParts } from './body';
export { fromRows } from './grid';
export { nestedFromPairs, nestedFromValues, pairsOf } from './urlencoded';
export { filesInMail, mailHead } from './mail';
export { filesInMultipart } from './multipart';
export { bytesOfBase64, headerParameters, fileValue, type FileContent } from './parts';

/** Bodies inside an archive are read like any other, but for archives: those would nest without end. */
const insideArchives: MediaReader[] = [json, jsonLines, multipart, urlencoded, xml, mail, separated, plain];

/** In the order they are tried on a body whose stated type does not fit. */
export const mediaReaders: MediaReader[] = [
  har((text, type) => readWith(insideArchives, new TextEncoder().encode(text), type, '')[0]),
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
  /** What the columns of a table are called for people, where that is not their name. */
  labels?: Record<string, string>;
}

/**
 * Stage one: bytes to a JSON document, in each way in which they may be meant, that which is stated or looks likeliest first. There
 * is always one. Never throws; what was not read is told in the notes.
 * @param query what followed `?` in the address, without the mark
 * @param meant the reader that a person said is meant; where it can't read the body, the others are tried
 */
export const readDocuments = (
  bytes: Uint8Array,
  contentType: string | null,
  query: string,
  meant?: string,
): [Document, ...Document[]] => {
  const wanted = mediaReaders.filter(reader => reader.id === meant);
  const [own] = wanted.length > 0 && bytes.length > 0 ? readWith(wanted, bytes, contentType, query, true) : [];
  return own && own.media === meant ? [own] : readWith(mediaReaders, bytes, contentType, query);
};

/** The likeliest of them. */
export const readDocument = (bytes: Uint8Array, contentType: string | null, query: string): Document =>
  readDocuments(bytes, contentType, query)[0];

/** Ways to read one body that are compared. */
const MOST_WAYS = 4;

function readWith(
  readers: MediaReader[],
  bytes: Uint8Array,
  contentType: string | null,
  query: string,
  isMeant = false,
): [Document, ...Document[]] {
  const values = nestedFromPairs(pairsOf(firstPairs(query).head));
  const hasQuery = Object.keys(values).length > 0;
  if (bytes.length === 0) {
    if (hasQuery) return [{ media: 'query', document: values, notes: [] }];
    const note = { code: 'media.empty', message: 'The body is empty and the address carries no values.' };
    return [{ media: 'none', document: null, notes: [note] }];
  }
  const { body, notes } = readBody(bytes, contentType);
  const stated = readers.find(reader => body.type !== null && reader.isStated(body.type));
  const ways: Document[] = [];
  const tryOut = (reader: MediaReader) => {
    if (isPlain(reader.id) && isBinary(body.text)) {
      if (reader === stated)
        notes.push({ code: 'media.binary', message: `Stated as ${body.type}, but its bytes are no text.` });
      return;
    }
    const reading = reader.read(body);
    if ('code' in reading) {
      notes.push(reading);
      return;
    }
    ways.push({
      media: reader.id,
      document: reading.document,
      ...(reading.isTable && { isTable: true }),
      ...(reading.labels && { labels: reading.labels }),
      notes: reader === stated || isMeant ? reading.notes : [...reading.notes, otherThanStated(reader, body.type)],
    });
  };
  if (stated) tryOut(stated);
  // What the bytes look like matters only where the stated type says little or turns out wrong.
  if (ways.length === 0 || (stated && saysLittle.includes(stated)))
    for (const reader of readers) {
      if (
        ways.length >= MOST_WAYS ||
        (ways.length > 0 && isCertain.includes(reader.id) && ways[0]!.media !== stated?.id)
      )
        break;
      if (reader !== stated && (isMeant || reader.looksLike(body))) tryOut(reader);
    }
  const [first, ...rest] = ways;
  if (first)
    return [
      { ...first, notes: [...notes, ...first.notes] },
      ...rest.map(each => ({ ...each, notes: [...notes, ...each.notes] })),
    ];
  if (notes.length === 0)
    notes.push({
      code: 'media.unknown',
      message: `Nothing here reads ${body.type ?? 'a body without a Content-Type'}.`,
    });
  return [{ media: 'none', document: null, notes }];
}

/** What is sent as one of these is as often something else. */
const saysLittle: MediaReader[] = [plain, urlencoded, separated];

/** True for what has no form that would show in the text. */
export const isPlain = (media: string): boolean => saysLittle.some(each => each.id === media);

/** What reads as one of these can be nothing else. */
const isCertain = ['har', 'json', 'json-lines', 'spreadsheet', 'multipart', 'xml'];

const otherThanStated = (reader: MediaReader, type: string | null): Note => ({
  code: 'media.mislabelled',
  message: type
    ? `Stated as ${type}, but it reads as ${reader.label}.`
    : `No Content-Type was stated; it reads as ${reader.label}.`,
});
