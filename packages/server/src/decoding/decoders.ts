import { availableParallelism } from 'node:os';
import { MessageChannel } from 'node:worker_threads';
import PQueue from 'p-queue';
import { Piscina } from 'piscina';
import type { Pins } from '@grammata/core/decode';
import type { FileRef, Submission } from '@grammata/core/submission';
import type { HowToRead, Offer, OfferKind } from '../targets/offer';
import type { DecodeResult, DecodeTask, PortionMessage, ReadMessage, StoredMessage } from './tasks';

/** Reading a message was ended because it took too long or too much memory; the message says which. */
export class DecodeFault extends Error {}

/** Bytes up to which a message is read beside others; larger ones wait for one another in a thread of their own. */
const SMALL = 256_000;
/** Seconds that any message may take, and those for each megabyte more. */
const SECONDS = 10;
const SECONDS_PER_MEGABYTE = 3;
/** Megabytes of memory that a thread for small messages, and the one for large ones, may use. */
const MEMORY = { small: 320, large: 1600 };
/** Threads that had nothing to do for so many ms end. */
const IDLE = 120_000;

export interface PortionListener {
  found(total: number): void;
  /** Called for each portion in turn; false stops the reading. */
  portion(submissions: Submission[], from: number): boolean;
}

export interface DecodeLimits {
  /** Seconds that any message may take. */
  seconds: number;
  /** Megabytes of memory for small messages, and for large ones. */
  memory: { small: number; large: number };
}

/** A pool of threads, and the queue before it: the clock of a task runs only from when a thread takes it up. */
class Lane {
  readonly #pool: Piscina;
  readonly #queue: PQueue;

  constructor(
    file: string,
    threads: number,
    private readonly memory: number,
    private readonly limits: DecodeLimits,
  ) {
    this.#pool = new Piscina({
      filename: file,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: IDLE,
      concurrentTasksPerWorker: 1,
      resourceLimits: { maxOldGenerationSizeMb: memory, maxYoungGenerationSizeMb: 64 },
    });
    // A thread that was ended goes with an event of its own; whoever waits for its task hears of it too.
    this.#pool.on('error', () => undefined);
    this.#queue = new PQueue({ concurrency: threads });
  }

  async run(task: DecodeTask, bytes: number, transfer: never[] = []): Promise<unknown> {
    const seconds = this.limits.seconds + (SECONDS_PER_MEGABYTE * bytes) / 1e6;
    return this.#queue.add(async () => {
      const ending = AbortSignal.timeout(Math.ceil(seconds * 1000));
      try {
        return await this.#pool.run(task, { signal: ending, transferList: transfer });
      } catch (error) {
        if (ending.aborted)
          throw new DecodeFault(`Reading it took longer than ${Math.round(seconds)} seconds and was ended.`);
        if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new DecodeFault(`Reading it took more than ${this.memory} MB of memory and was ended.`);
        throw error;
      }
    });
  }

  async close(): Promise<void> {
    this.#queue.clear();
    await this.#pool.destroy();
  }
}

/**
 * Decodes messages in threads of their own, within limits of time and memory: whatever a message does to its reader, only
 * the thread ends, and whoever asked hears why. Rejects with a DecodeFault where a limit was reached.
 */
export class Decoders {
  readonly #small: Lane;
  readonly #large: Lane;

  /** @param file the program of a thread */
  constructor(file: string, limits: DecodeLimits = { seconds: SECONDS, memory: MEMORY }) {
    this.#small = new Lane(file, Math.max(1, Math.min(4, availableParallelism() - 1)), limits.memory.small, limits);
    this.#large = new Lane(file, 1, limits.memory.large, limits);
  }

  /** Reads small messages together; the readings stand in the messages' order. */
  async read(messages: StoredMessage[], pins: Pins[]): Promise<DecodeResult['read']> {
    return (await this.#run({ task: 'read', messages, pins }, sizeOf(messages))) as DecodeResult['read'];
  }

  /** Reads a message of any size, its submissions portion by portion; null where the listener stopped it. */
  async portions(
    message: StoredMessage,
    bytes: number,
    pins: Pins,
    listener: PortionListener,
  ): Promise<DecodeResult['portions'] | null> {
    const { port1, port2 } = new MessageChannel();
    let isStopped = false;
    let fault: unknown = null;
    port1.on('message', (said: PortionMessage) => {
      try {
        if (said.type === 'found') return listener.found(said.total);
        isStopped ||= !listener.portion(said.submissions, said.from);
      } catch (error) {
        [fault, isStopped] = [error, true];
      }
      port1.postMessage(isStopped ? 'stop' : 'taken');
    });
    try {
      const end = await this.#large.run({ task: 'portions', message, pins, port: port2 }, bytes, [port2 as never]);
      if (fault !== null) throw fault;
      return isStopped ? null : (end as DecodeResult['portions']);
    } finally {
      port1.close();
    }
  }

  /** Reads a message of any size, all of its submissions at the end; they come portion by portion. */
  async whole(message: StoredMessage, bytes: number, pins: Pins): Promise<ReadMessage> {
    const submissions: Submission[] = [];
    const end = await this.portions(message, bytes, pins, {
      found: () => undefined,
      portion: portion => (submissions.push(...portion), true),
    });
    return { ...end!, submissions };
  }

  /** How a message is read, for people. `most` is how many characters of its document are shown. */
  async look(message: StoredMessage, bytes: number, pins: Pins, most: number): Promise<DecodeResult['look']> {
    return (await this.#run({ task: 'look', message, pins, most }, bytes)) as DecodeResult['look'];
  }

  /** What other pins would make of messages, in their order. */
  async compare(messages: StoredMessage[], before: Pins, after: Pins): Promise<DecodeResult['compare']> {
    return (await this.#run(
      { task: 'compare', messages, before, after },
      2 * sizeOf(messages),
    )) as DecodeResult['compare'];
  }

  /** The content of a file that came along in a message; null where it is not in it. */
  async content(body: Uint8Array, contentType: string | null, files: readonly FileRef[], index: number) {
    const task: DecodeTask = { task: 'content', body, contentType, files: [...files], index };
    return (await this.#run(task, body.length)) as DecodeResult['content'];
  }

  /** What a text says that a target offers. */
  async offer(kind: OfferKind, text: string, how: HowToRead = {}): Promise<Offer> {
    return (await this.#run({ task: 'offer', kind, text, how }, text.length)) as Offer;
  }

  #run(task: DecodeTask, bytes: number): Promise<unknown> {
    return (bytes <= SMALL ? this.#small : this.#large).run(task, bytes);
  }

  async close(): Promise<void> {
    await Promise.all([this.#small.close(), this.#large.close()]);
  }
}

const sizeOf = (messages: StoredMessage[]): number => messages.reduce((sum, { body }) => sum + body.length, 0);
