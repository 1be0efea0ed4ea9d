import type { IncomingMessage } from 'node:http';

export interface KeptBody {
  bytes: Buffer;
  /** Bytes that came, as far as they were read. */
  size: number;
  /** True when it was over the limit: only the beginning is kept. */
  cut: boolean;
}

/** How much of a body that is too large is kept for people to look at. */
const KEPT_OF_TOO_LARGE = 65536;
/** How much of a body that is too large is still read, so that the sender gets to see the answer. */
const MOST_DRAINED = 128_000_000;

/** Reads a request's body, keeping at most `limit` bytes of it in memory. Rejects when the sender breaks off. */
export function readBody(request: IncomingMessage, limit: number): Promise<KeptBody> {
  return new Promise((resolve, reject) => {
    let chunks: Buffer[] = [];
    let size = 0;
    request.on('data', (chunk: Buffer) => {
      size += chunk.length;
      const wasOver = size - chunk.length > limit;
      if (!wasOver) chunks.push(chunk);
      if (size > limit && !wasOver) chunks = [Buffer.concat(chunks).subarray(0, KEPT_OF_TOO_LARGE)];
      if (size > MOST_DRAINED) request.destroy();
    });
    request.on('end', () => resolve({ bytes: Buffer.concat(chunks), size, cut: size > limit }));
    request.on('aborted', () => reject(new Error('The sender broke off.')));
    request.on('error', reject);
  });
}
