import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import busboy from 'busboy';
import { decodeDocument, fileValue, nestedFromValues, type Decoded, type Note, type Pins } from '@grammata/core/decode';
import type { Json } from '@grammata/core/submission';

/** Bytes of one value that is no file; more is cut. */
const LARGEST_VALUE = 1_000_000;
const MOST_PARTS = 5000;

const tooMany: Note = { code: 'media.parts', message: `It has more than ${MOST_PARTS} parts; the rest was not read.` };

/** Decodes a multipart form (RFC 7578) from a file without holding it in memory: of its files, only names and sizes. */
export async function decodeMultipartFile(file: string, contentType: string, pins: Pins): Promise<Decoded> {
  const values: [string, Json][] = [];
  const notes: Note[] = [];
  try {
    const parser = busboy({
      headers: { 'content-type': contentType },
      defParamCharset: 'utf8',
      limits: { fieldSize: LARGEST_VALUE, parts: MOST_PARTS },
    });
    parser.on('field', (name, value, { valueTruncated }) => {
      values.push([name, value]);
      if (valueTruncated)
        notes.push({
          code: 'media.cut',
          message: `“${name}” is longer than ${LARGEST_VALUE / 1e6} MB; the rest was not read.`,
        });
    });
    parser.on('partsLimit', () => notes.push(tooMany));
    parser.on('file', (name, stream, { filename, mimeType }) => {
      const at = values.push([name, null]) - 1;
      let size = 0;
      stream.on('error', () => undefined);
      stream.on('data', (chunk: Buffer) => (size += chunk.length));
      stream.on('end', () => {
        if (filename || size > 0) values[at] = [name, fileValue(filename || 'file', mimeType, size)];
      });
    });
    await pipeline(createReadStream(file), parser);
  } catch (error) {
    notes.push({ code: 'media.multipart', message: `It could not be read to its end: ${(error as Error).message}.` });
  }
  return decodeDocument({ media: 'multipart', document: nestedFromValues(values), notes }, pins);
}
