import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';

export interface StoredBody {
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
export const KEPT_OF_LARGE = 65536;
/** How much more of a body that is too large is still read, so that the sender gets to see the answer. */
const MOST_DRAINED = 128_000_000;

/** The memory that all bodies on their way take together: with none left, each is laid aside from its first byte on. */
export class BodyMemory {
  #used = 0;

  /** @param most bytes */
  constructor(private readonly most = 48_000_000) {}

  get isFull(): boolean {
    return this.#used >= this.most;
  }

  take(bytes: number): void {
    this.#used += bytes;
  }

  giveBack(bytes: number): void {
    this.#used -= bytes;
  }
}

export interface BodyReading {
  /** Bytes. */
  limit: number;
  /** Writes the body somewhere else; null keeps it in memory. */
  layAside: LayAside | null;
  memory: BodyMemory;
  /** Hears of each chunk as it comes. */
  onChunk?: ((chunk: Buffer) => void) | undefined;
}

class TooLarge extends Error {}

/** The sender went away before all of it had come. */
export class BrokenOff extends Error {}

/**
 * Reads the body of a request or a mail, keeping at most `LARGE_BODY` bytes in memory where it can be laid aside, else at most `limit`.
 * Rejects with BrokenOff when the sender breaks off. Small bodies are taken as they come, without a step more.
 */
export function readBody(request: Readable, reading: BodyReading): Promise<StoredBody> {
  const { limit, layAside, memory, onChunk } = reading;
  let held: Buffer[] = [];
  let size = 0;
  let taken = 0;
  const body = new Promise<StoredBody>((resolve, reject) => {
    const listeners = {
      data(chunk: Buffer) {
        size += chunk.length;
        if (size > limit) {
          held.push(chunk);
          return goOn(next => drained(next, held, size, limit));
        }
        onChunk?.(chunk);
        held.push(chunk);
        taken += chunk.length;
        memory.take(chunk.length);
        if (!layAside || (size <= LARGE_BODY && !memory.isFull)) return;
        const before = held;
        held = [];
        goOn(next => readAside({ before, size, limit, layAside, next, onChunk }));
      },
      end: () => resolve({ bytes: held.length === 1 ? held[0]! : Buffer.concat(held), size, cut: false, aside: null }),
      error: (error: Error) => reject(new BrokenOff('The sender disconnected.', { cause: error })),
      close: () => reject(new BrokenOff('The sender disconnected.')),
    };
    const names = Object.keys(listeners) as (keyof typeof listeners)[];
    for (const name of names) request.on(name, listeners[name] as never);
    /** Reads the rest step by step, each when the one before was dealt with. */
    function goOn(rest: (next: Next) => Promise<StoredBody>): void {
      request.pause();
      for (const name of names) request.off(name, listeners[name] as never);
      const source = request[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
      const next: Next = () =>
        source.next().catch((error: unknown) => {
          throw new BrokenOff('The sender disconnected.', { cause: error });
        });
      rest(next).then(resolve, reject);
    }
  });
  return body.finally(() => memory.giveBack(taken));
}

type Next = () => Promise<IteratorResult<Buffer>>;

/** Lets through what is beyond the limit, up to a point, so that the sender gets to see the answer. */
async function drained(next: Next, held: Buffer[], sizeBefore: number, limit: number): Promise<StoredBody> {
  const bytes = Buffer.from(Buffer.concat(held).subarray(0, KEPT_OF_LARGE));
  let size = sizeBefore;
  for (let step = await next(); !step.done && size <= limit + MOST_DRAINED; step = await next())
    size += step.value.length;
  return { bytes, size, cut: true, aside: null };
}

async function readAside({
  before,
  size: sizeBefore,
  limit,
  layAside,
  next,
  onChunk,
}: {
  before: Buffer[];
  size: number;
  limit: number;
  layAside: LayAside;
  next: Next;
  onChunk: BodyReading['onChunk'];
}): Promise<StoredBody> {
  const beginning = Buffer.from(Buffer.concat(before).subarray(0, KEPT_OF_LARGE));
  const hash = createHash('sha256');
  let size = sizeBefore;
  async function* all(): AsyncGenerator<Buffer> {
    for (const chunk of before.splice(0)) {
      hash.update(chunk);
      yield chunk;
    }
    for (let step = await next(); !step.done; step = await next()) {
      size += step.value.length;
      if (size > limit) throw new TooLarge();
      onChunk?.(step.value);
      hash.update(step.value);
      yield step.value;
    }
  }
  try {
    await layAside(all());
    return { bytes: beginning, size, cut: false, aside: hash.digest('base64url') };
  } catch (error) {
    if (!(error instanceof TooLarge)) throw error;
    return drained(next, [beginning], size, limit);
  }
}
