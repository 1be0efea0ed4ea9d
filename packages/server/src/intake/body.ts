import { createHash } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

export interface KeptBody {
  /** All of it, or its beginning when it was cut or laid aside. */
  bytes: Buffer;
  /** Bytes that came, as far as they were read. */
  size: number;
  /** True when it was over the limit: only the beginning is kept. */
  cut: boolean;
  /** SHA-256 of all of it, in base64url, where it was laid aside. */
  aside: string | null;
}

/** Writes what comes to a place of its own. */
export type LayAside = (chunks: AsyncIterable<Buffer>) => Promise<void>;

/** Bytes from which a body is laid aside. */
export const LARGE_BODY = 1_000_000;
/** How much of a body that is too large or laid aside is kept for people to look at. */
const KEPT_OF_LARGE = 65536;
/** How much more of a body that is too large is still read, so that the sender gets to see the answer. */
const MOST_DRAINED = 128_000_000;

/**
 * Reads a request's body, keeping at most `LARGE_BODY` bytes in memory where it can be laid aside, else at most `limit`.
 * Rejects when the sender breaks off.
 * @param limit bytes
 * @param layAside writes the body somewhere else; null keeps it in memory
 */
export function readBody(request: IncomingMessage, limit: number, layAside: LayAside | null): Promise<KeptBody> {
  return new Promise((resolve, reject) => {
    let chunks: Buffer[] = [];
    let size = 0;
    const onData = (chunk: Buffer) => {
      size += chunk.length;
      const wasOver = size - chunk.length > limit;
      if (!wasOver) chunks.push(chunk);
      if (size > limit && !wasOver) chunks = [Buffer.concat(chunks).subarray(0, KEPT_OF_LARGE)];
      if (size > limit + MOST_DRAINED) request.destroy();
      if (layAside && size > LARGE_BODY && size <= limit) {
        request.pause();
        request.off('data', onData).off('end', onEnd).off('aborted', onAborted);
        readAside(request, limit, chunks, layAside).then(resolve, reject);
      }
    };
    const onEnd = () => resolve({ bytes: Buffer.concat(chunks), size, cut: size > limit, aside: null });
    const onAborted = () => reject(new Error('The sender broke off.'));
    request.on('data', onData).on('end', onEnd).on('aborted', onAborted).on('error', reject);
  });
}

class TooLarge extends Error {}

async function readAside(
  request: IncomingMessage,
  limit: number,
  before: Buffer[],
  layAside: LayAside,
): Promise<KeptBody> {
  const beginning = Buffer.from(Buffer.concat(before).subarray(0, KEPT_OF_LARGE));
  const hash = createHash('sha256');
  let size = 0;
  const source = request[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  async function* all(): AsyncGenerator<Buffer> {
    const first = before.splice(0);
    for (const chunk of first) yield taken(chunk);
    for (let next = await source.next(); !next.done; next = await source.next()) yield taken(next.value);
  }
  const taken = (chunk: Buffer) => {
    size += chunk.length;
    if (size > limit) throw new TooLarge();
    hash.update(chunk);
    return chunk;
  };
  try {
    await layAside(all());
    return { bytes: beginning, size, cut: false, aside: hash.digest('base64url') };
  } catch (error) {
    if (!(error instanceof TooLarge)) throw error;
    for (let next = await source.next(); !next.done && size <= limit + MOST_DRAINED; next = await source.next())
      size += next.value.length;
    return { bytes: beginning, size, cut: true, aside: null };
  }
}
