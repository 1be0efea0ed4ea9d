import type { IncomingMessage } from 'node:http';
import { PassThrough, pipeline, type Readable, type Transform } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';

/** A body whose coding is not known, or that is not what its coding says. */
export class CodingFault extends Error {
  constructor(
    /** 415 for a coding that is not known (RFC 9110 §15.5.16), 400 for a body that is broken. */
    readonly status: 400 | 415,
    message: string,
  ) {
    super(message);
  }
}

const decoders: Record<string, () => Transform> = {
  gzip: createGunzip,
  'x-gzip': createGunzip,
  deflate: createInflate,
  br: createBrotliDecompress,
};

/** Codings that are read, as the header `Accept-Encoding` of an answer lists them. */
export const codings = 'gzip, deflate, br';

/** Codings of one body at once: it was coded once, or twice by a proxy. */
const MOST_CODINGS = 2;

const codingsOf = ({ headers }: IncomingMessage): string[] =>
  (headers['content-encoding'] ?? '')
    .split(',')
    .map(each => each.trim().toLowerCase())
    .filter(each => each !== '' && each !== 'identity');

/**
 * The body of a request without the codings that its sender put on it (RFC 9110 §8.4). What it grows to is bounded by whoever reads it.
 * Throws CodingFault; a body that is broken ends the stream with one.
 */
export function bodyOf(request: IncomingMessage): Readable {
  const all = codingsOf(request);
  if (all.length === 0) return request;
  const makers = all.reverse().map(each => decoders[each]);
  const unknown = all.find(each => !Object.hasOwn(decoders, each));
  if (unknown !== undefined || all.length > MOST_CODINGS)
    throw new CodingFault(415, `Its coding “${unknown ?? all.join(', ')}” is not read; ${codings} are.`);
  const plain = new PassThrough();
  // Whoever reads what comes of it hears of what went wrong.
  pipeline([request, ...makers.map(make => make!()), plain], () => undefined);
  return plain;
}

/** What was wrong with a body where decoding it broke off; null where its sender did. */
export function faultOfCoding(cause: unknown): CodingFault | null {
  const code = (cause as NodeJS.ErrnoException | undefined)?.code ?? '';
  return /^Z_|^ERR__ERROR|^ERR_BROTLI|^ERR_PADDING|^ERR_FORMAT/.test(code)
    ? new CodingFault(400, 'Its body is not what its Content-Encoding says.')
    : null;
}
