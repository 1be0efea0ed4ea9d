import { availableParallelism } from 'node:os';
import { MessageChannel } from 'node:worker_threads';
import PQueue from 'p-queue';
import { Piscina } from 'piscina';
import type { Pins } from '@grammata/core/decode';
import type { AnswerChangeSeen, AnswerPlace } from '@grammata/core/drift';
import type { FileRef } from '@grammata/core/submission';
import type { CheckedRoute, Workspace } from '@grammata/core/workspace';
import type { FormLook, ToldChange } from '../drift/formChanges';
import type { BuiltRow } from '../store';
import type { HowToRead, Offer, OfferKind } from '../targets/offer';
import { deadline, type Timer } from '../timing';
import { Meter } from './meter';
import type {
  AnsweredText,
  DecodeResult,
  DecodeTask,
  PortionMessage,
  ReadMessage,
  ReadSubmission,
  StoredMessage,
} from './tasks';

/** Reading a message was ended because it took too much work or memory; the message says which. */
export class DecodeFault extends Error {}

/** Reading a message was ended by the clock, which says nothing of the message: it is to be tried again. */
export class DecodeLate extends Error {}

/** Bytes up to which a message is read beside others; what is larger is read apart. */
const SMALL = 256_000;
/** Bytes from which on messages are read one at a time: each takes many times its size of memory. */
const HUGE = 8_000_000;
/** Seconds of processor time that any message may take, and those for each megabyte more. */
const SECONDS = 10;
const SECONDS_PER_MEGABYTE = 3;
/** Seconds that messages may take which are read together: with more, each is read alone. */
const SECONDS_TOGETHER = 1;
/** How many times as long as its processor time a reading may take by the clock, and seconds on top. */
const PATIENCE = { times: 20, seconds: 60 };
/** How many times as long a reading may take where its processor time can't be told. */
const UNTOLD = 4;
/** Threads for what is large or slow. */
const SLOW_THREADS = 2;
/** Megabytes of memory that a thread for small messages, and the one for large ones, may use. */
const MEMORY = { small: 320, large: 1600 };
/** Threads that had nothing to do for so many ms end. */
const IDLE = 120_000;

export interface PortionListener {
  found(total: number): void;
  /** Called for each portion in turn; false stops the reading. */
  portion(submissions: ReadSubmission[], from: number): boolean | Promise<boolean>;
}

export interface DecodeLimits {
  /** Seconds of processor time that any message may take. */
  seconds: number;
  /** Those of messages that are read together. */
  together?: number;
  /** Seconds by the clock without a sign of life; a multiple of the others where it is left out. */
  patience?: number;
  /** Megabytes of memory for small messages, and for large ones. */
  memory: { small: number; large: number };
}

/** A pool of threads, and the queue before it: the clock of a task runs only from when a thread takes it up. */
class Lane {
  readonly #pool: Piscina;
  readonly #queue: PQueue;
  #isClosed = false;

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

  /** @param sign when something was last heard of the task: the clock begins anew from then */
  async run(task: DecodeTask, seconds: number, transfer: never[] = [], sign?: SignOfLife): Promise<unknown> {
    return this.#queue.add(async () => {
      if (this.#isClosed) throw new Error('The threads have ended.');
      const meter = new Meter();
      const patience = this.limits.patience ?? PATIENCE.times * seconds + PATIENCE.seconds;
      const watch = watched(meter, seconds, patience, sign);
      try {
        return await this.#pool.run({ ...task, meter: meter.memory }, { signal: watch.signal, transferList: transfer });
      } catch (error) {
        if (watch.endedBy === 'work')
          throw new DecodeFault(
            `Reading took more than ${Math.round(seconds)} seconds of processor time and was stopped.`,
          );
        if (watch.endedBy === 'clock') throw new DecodeLate('Reading took too long and is retried.');
        if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new DecodeFault(`Reading took more than ${this.memory} MB of memory and was stopped.`);
        throw error;
      } finally {
        watch.stop();
      }
    });
  }

  async close(): Promise<void> {
    // What waits for a thread is told, too: whoever asked for it waits for an end.
    this.#isClosed = true;
    await this.#pool.destroy();
  }
}

/** When something was last heard of a reading, by the machine's own clock. */
interface SignOfLife {
  at: number;
}

/**
 * Ends a reading that has used up its processor time; one that uses none of it only when the clock says that something is wrong.
 * How much was used is looked at when it could have been used up at the earliest.
 */
function watched(meter: Meter, seconds: number, late: number, sign: SignOfLife = { at: performance.now() }) {
  const ending = new AbortController();
  const started = performance.now();
  let timer: Timer = { stop: () => undefined };
  const watch = {
    signal: ending.signal,
    endedBy: null as 'work' | 'clock' | null,
    isOver: false,
    stop() {
      watch.isOver = true;
      timer.stop();
    },
  };
  const end = (by: 'work' | 'clock') => {
    watch.endedBy = by;
    ending.abort();
  };
  const look = () => {
    if (watch.isOver) return;
    const spent = meter.seconds();
    const wall = (performance.now() - Math.max(started, sign.at)) / 1000;
    if (spent !== null && spent >= seconds) return end('work');
    // Where a thread's time can't be told, the clock's is taken, with much room.
    if (wall >= (spent === null ? Math.min(late, UNTOLD * seconds) : late)) return end('clock');
    lookIn(Math.max(0.05, Math.min(late, seconds - (spent ?? 0))));
  };
  const lookIn = (wait: number) => (timer = deadline(Math.ceil(wait * 1000), look));
  lookIn(Math.min(late, seconds));
  return watch;
}

/**
 * Decodes messages in threads of their own, within limits of time and memory: whatever a message does to its reader, only
 * the thread ends, and whoever asked hears why. Rejects with a DecodeFault where a limit was reached.
 */
export class Decoders {
  readonly #small: Lane;
  readonly #large: Lane;
  readonly #watching: Lane;
  readonly #huge = new PQueue({ concurrency: 1 });

  /** @param file the program of a thread */
  constructor(
    file: string,
    private readonly limits: DecodeLimits = { seconds: SECONDS, memory: MEMORY },
  ) {
    this.#small = new Lane(file, this.threads, limits.memory.small, limits);
    this.#large = new Lane(file, SLOW_THREADS, limits.memory.large, limits);
    this.#watching = new Lane(file, 1, limits.memory.large, limits);
  }

  /** Batches of small messages that are read at once: one that is slow does not hold up the others. */
  get threads(): number {
    return Math.max(2, Math.min(4, availableParallelism()));
  }

  get slowThreads(): number {
    return SLOW_THREADS;
  }

  /**
   * Reads small messages together; the readings stand in the messages' order, null for one that is to be read in portions. Rejects with a
   * DecodeFault where they take longer than small messages do: each is then to be read alone.
   */
  async read(messages: StoredMessage[], pins: Pins[]): Promise<DecodeResult['read']> {
    const { together = SECONDS_TOGETHER } = this.limits;
    return (await this.#small.run({ task: 'read', messages, pins }, together)) as DecodeResult['read'];
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
    const sign: SignOfLife = { at: performance.now() };
    const take = async (portion: PortionMessage) => {
      sign.at = performance.now();
      try {
        if (portion.type === 'found') return listener.found(portion.total);
        isStopped ||= !(await listener.portion(portion.submissions, portion.from));
      } catch (error) {
        [fault, isStopped] = [error, true];
      }
      sign.at = performance.now();
      port1.postMessage(isStopped ? 'stop' : 'taken');
    };
    port1.on('message', (portion: PortionMessage) => void take(portion));
    try {
      const task: DecodeTask = { task: 'portions', message, pins, port: port2 };
      const read = () => this.#large.run(task, this.#secondsFor(bytes), [port2 as never], sign);
      const end = await (bytes > HUGE ? this.#huge.add(read) : read());
      if (fault !== null) throw fault;
      return isStopped ? null : (end as DecodeResult['portions']);
    } finally {
      port1.close();
    }
  }

  #secondsFor(bytes: number): number {
    return this.limits.seconds + (SECONDS_PER_MEGABYTE * bytes) / 1e6;
  }

  /** Reads a message of any size, all of its submissions at the end; they come portion by portion. */
  async whole(message: StoredMessage, bytes: number, pins: Pins): Promise<ReadMessage> {
    const submissions: ReadSubmission[] = [];
    const end = await this.portions(message, bytes, pins, {
      found: () => undefined,
      portion: portion => {
        for (const each of portion) submissions.push(each);
        return true;
      },
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
  async content(
    message: Pick<StoredMessage, 'body' | 'file' | 'contentType'>,
    bytes: number,
    files: readonly FileRef[],
    index: number,
  ) {
    const task: DecodeTask = { task: 'content', ...message, files: [...files], index };
    return (await this.#run(task, bytes)) as DecodeResult['content'];
  }

  /** What a text says that a target offers. */
  async offer(kind: OfferKind, text: string, how: HowToRead = {}): Promise<Offer> {
    return (await this.#run({ task: 'offer', kind, text, how }, text.length)) as Offer;
  }

  /** What the newest submissions of a form show that those before them did not, after so many looks. Rejects as reading does. */
  async lookAtForm(rows: BuiltRow[], looks: number, told: ToldChange[]): Promise<FormLook> {
    return (await this.#watching.run({ task: 'lookAtForm', rows, looks, told }, this.limits.seconds)) as FormLook;
  }

  /** What a target's newest answers show that those before them did not. Rejects as reading does. */
  async answerChanges(answers: AnsweredText[], places: Map<string, AnswerPlace[]>): Promise<AnswerChangeSeen[]> {
    const task: DecodeTask = { task: 'answerChanges', answers, places };
    return (await this.#watching.run(task, this.limits.seconds)) as AnswerChangeSeen[];
  }

  /** Holds the proofs of a workspace against its routes. Rejects as reading does. */
  async checkProofs(workspace: Workspace): Promise<CheckedRoute[]> {
    return (await this.#large.run({ task: 'checkProofs', workspace }, this.limits.seconds)) as CheckedRoute[];
  }

  #run(task: DecodeTask, bytes: number): Promise<unknown> {
    return (bytes <= SMALL ? this.#small : this.#large).run(task, this.#secondsFor(bytes));
  }

  async close(): Promise<void> {
    await Promise.all([this.#small.close(), this.#large.close(), this.#watching.close()]);
  }
}

const sizeOf = (messages: StoredMessage[]): number => messages.reduce((sum, { body }) => sum + body.length, 0);
