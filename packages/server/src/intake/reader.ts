import type { Logger } from 'pino';
import { DecodeFault, type Decoders, type DecodeResult, type StoredMessage } from '../decoding';
import type { Dispatcher } from '../delivery';
import type { LiveHub } from '../live';
import type { StorageHealth } from '../storage';
import type { Known, Way } from '@grammata/core/decode';
import { MASK } from '@grammata/core/target';
import { LRUCache } from 'lru-cache';
import { differentWays, UPLOADED, type ArrivalRow, type DeliveryRow, type Reading, type Store } from '../store';
import type { Timers } from '../timing';
import type { Work, Workshop } from '../work';
import type { Bodies } from './bodies';

/** Bytes up to which arrivals are read together, and those that are read so at once. */
const SMALL = 256_000;
const TOGETHER = 40;
const BYTES_TOGETHER = 256_000;
/** While many arrive, reading rests so many times as long as it took: it gets less than a tenth of the time. */
const REST = 12;
/** ms that it rests at most. */
const LONGEST_REST = 2000;
/** ms before reading is tried again when its outcome could not be stored. */
const PAUSE = 5000;

export interface ReaderParts {
  store: Store;
  live: LiveHub;
  dispatch: Dispatcher;
  /** Is told of which forms something came. */
  watch: { saw(formIds: Iterable<string>): void };
  workshop: Workshop;
  bodies: Bodies;
  decoders: Decoders;
  health: StorageHealth;
  timers: Timers;
  log: Logger;
  /** True while so many arrive that reading takes a back seat. */
  isPressed(): boolean;
}

/** The name of the uploaded file an arrival was made of. */
const fileNameOf = ({ headers }: ArrivalRow) =>
  /filename="([^"]*)"/.exec(headers.find(([name]) => name === 'content-disposition')?.[1] ?? '')?.[1] ?? 'a file';

/** An arrival as the threads that decode are given it. */
export const messageOf = (arrival: ArrivalRow, bodies: Bodies): StoredMessage => ({
  body: arrival.body,
  file: arrival.aside ? bodies.fileOf(arrival.id) : null,
  contentType: arrival.contentType,
  headers: arrival.headers.filter(([, value]) => !value.includes(MASK)),
  url: arrival.url,
});

/**
 * Reads stored arrivals into submissions, after the sender has had its answer; in threads that may be ended. What could
 * not be read is set aside with its reason, and read again only when a person asks.
 */
export class ArrivalReader {
  #underWay: Promise<void> | null = null;
  #isWoken = false;
  #isClosed = false;
  /** True when something could not be stored. */
  #isHindered = false;
  /** Large arrivals wait for one another; these are not done yet. */
  readonly #largeUnderWay = new Set<string>();
  readonly #ways = new LRUCache<string, Way[]>({ max: 500 });
  #large: Promise<void> = Promise.resolve();

  constructor(private readonly parts: ReaderParts) {}

  /** What was being read when the server ended last is read alone; what was so twice is set aside. */
  recover(): void {
    const aside = this.parts.store.arrivals.recover();
    if (aside > 0) this.parts.log.warn({ arrivals: aside }, 'arrivals that were being read at two ends are set aside');
  }

  /** Reads all that waits. */
  wake(): void {
    this.#isWoken = true;
    if (this.#underWay !== null || this.#isClosed) return;
    this.#underWay = this.parts.timers
      .run('reading what arrived', () => this.#allOrLater())
      .then(() => {
        this.#underWay = null;
        if (this.#isClosed) return;
        if (this.#isHindered) this.parts.timers.later('reading what arrived', PAUSE, () => this.wake());
        else if (this.#isWoken) this.wake();
      });
  }

  /** Reads all that waits; where what is read can't be stored, it is tried again a while later. */
  async #allOrLater(): Promise<void> {
    try {
      // What was being read when nothing could be stored is read once more.
      if (this.#isHindered) this.parts.store.arrivals.releaseReading(this.#largeUnderWay);
      this.#isHindered = false;
      await this.#all();
    } catch (error) {
      this.#isHindered = true;
      if (!this.parts.health.failed(error)) throw error;
    }
  }

  /** Takes up nothing more; what waits is read at the next start. */
  async close(): Promise<void> {
    this.#isClosed = true;
    await this.#underWay;
    await this.#large;
    await this.parts.timers.run('letting go of what is being read', () =>
      this.parts.store.arrivals.releaseReading(new Set()),
    );
  }

  async #all(): Promise<void> {
    const { arrivals } = this.parts.store;
    while (!this.#isClosed) {
      this.#isWoken = false;
      const started = performance.now();
      const waiting = arrivals.unread(TOGETHER);
      const suspect = waiting.length === 0 ? arrivals.suspect() : undefined;
      if (suspect) await (suspect.size <= SMALL ? this.#read([suspect]) : this.#setAside(suspect));
      else if (waiting.length === 0) {
        if (!this.#isWoken) return;
        continue;
      } else {
        const [large] = waiting;
        if (large!.size > SMALL) void this.#setAside(large!);
        else await this.#read(batchOf(waiting));
      }
      // While many come, requests have the machine to themselves for most of the time.
      if (this.parts.isPressed())
        await this.parts.timers.pause(Math.min(LONGEST_REST, REST * (performance.now() - started)));
    }
  }

  #pinsOf = (arrival: ArrivalRow) => this.parts.store.intakes.pinsOf(arrival.intakeId);

  /** Reads small ones together; where that fails, each by itself, to find the one at fault. */
  async #read(batch: ArrivalRow[]): Promise<void> {
    const { store, decoders, bodies } = this.parts;
    store.arrivals.markReading(batch.map(each => each.id));
    try {
      const readings = await decoders.read(
        batch.map(each => ({
          ...messageOf(each, bodies),
          known: this.#knownOf(each.intakeId),
          shapesOf: each.intakeId,
        })),
        batch.map(this.#pinsOf),
      );
      batch.forEach((arrival, at) => this.#taken(arrival, readings[at]!));
    } catch (error) {
      if (this.#isClosed) return;
      if (batch.length === 1) return this.#failed(batch[0]!, error as Error);
      for (const arrival of batch) if (!this.#isClosed) await this.#read([arrival]);
    }
  }

  /** How messages of an intake were read for sure: kept in mind, since it is asked for each. */
  #waysOf(intakeId: string): Way[] {
    let ways = this.#ways.get(intakeId);
    if (!ways) this.#ways.set(intakeId, (ways = this.parts.store.arrivals.waysOf(intakeId)));
    return ways;
  }

  #knownOf(intakeId: string): Known {
    return { ways: this.#waysOf(intakeId), files: this.parts.store.forms.questions.filesAsked(intakeId) };
  }

  #taken(arrival: ArrivalRow, reading: Reading): void {
    if (this.#isClosed) return;
    if (reading.way) this.#ways.set(arrival.intakeId, differentWays([reading.way, ...this.#waysOf(arrival.intakeId)]));
    let formIds: string[] = [];
    try {
      formIds = this.#take(arrival, reading);
    } catch (error) {
      this.#failed(arrival, error as Error);
    }
    this.parts.watch.saw(formIds);
    this.parts.live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id, formIds });
  }

  /** Stores what was read; gives the forms that it belongs to. */
  #take(arrival: ArrivalRow, reading: Reading): string[] {
    const { store, dispatch } = this.parts;
    let queued: DeliveryRow[] = [];
    const rows = store.readings.store(arrival, reading, taken => {
      // A file holds past submissions: they are samples to try things on, and are not delivered.
      if (arrival.method !== UPLOADED) queued = dispatch.queue(taken.filter(row => row.repeatOf === null));
    });
    dispatch.announce(queued);
    return [...new Set(rows.map(row => row.formId))];
  }

  /** Reads a large one apart, while small ones go on. */
  #setAside(arrival: ArrivalRow): Promise<void> {
    this.parts.store.arrivals.markReading([arrival.id]);
    this.#largeUnderWay.add(arrival.id);
    this.#large = this.#large
      .then(() => this.parts.timers.run('reading a large arrival', () => this.#readLarge(arrival)))
      .then(() => void this.#largeUnderWay.delete(arrival.id));
    return this.#large;
  }

  async #readLarge(arrival: ArrivalRow): Promise<void> {
    if (this.#isClosed) return;
    const { store, dispatch, live, workshop, decoders, bodies } = this.parts;
    const isFile = arrival.method === UPLOADED;
    const formIds = new Set<string>();
    const work = isFile
      ? workshop.start({ kind: 'upload', title: `Reading ${fileNameOf(arrival)}`, intakeId: arrival.intakeId }, null)
      : null;
    try {
      // What a reading that was cut short by a restart left behind is not taken twice.
      const stored = store.arrivals.positionsOf(arrival.id);
      const queued: DeliveryRow[] = [];
      let taken = 0;
      const message = { ...messageOf(arrival, bodies), known: this.#knownOf(arrival.intakeId) };
      const end = await decoders.portions(message, arrival.size, this.#pinsOf(arrival), {
        found: total => work?.at(0, total),
        portion: (submissions, from) => {
          if (this.#isClosed || work?.isStopped) return false;
          const isFresh = submissions.every((_, index) => !stored.has(from + index));
          if (isFresh) {
            const rows = store.readings.storePortion(arrival, submissions, from, each => {
              if (!isFile) queued.push(...dispatch.queue(each.filter(row => row.repeatOf === null)));
            });
            taken += rows.length;
            for (const row of rows) formIds.add(row.formId);
          }
          work?.at(from + submissions.length);
          return true;
        },
      });
      if (this.#isClosed && end === null) return;
      this.#endLarge(arrival, work, taken, end);
      dispatch.announce(queued);
    } catch (error) {
      if (this.#isClosed) return;
      work?.fail(`It could not be read: ${(error as Error).message}`);
      this.#failed(arrival, error as Error);
    }
    this.parts.watch.saw(formIds);
    live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id, formIds: [...formIds] });
  }

  #endLarge(arrival: ArrivalRow, work: Work | null, taken: number, end: DecodeResult['portions'] | null): void {
    const { store } = this.parts;
    if (end === null) {
      const trouble = `Reading it was stopped after ${taken} submissions.`;
      store.readings.setReading(arrival.id, { state: 'read', trouble });
      work?.finish(trouble);
      return;
    }
    store.readings.setReading(arrival.id, end);
    end.notes.forEach(note => work?.report(note));
    work?.finish(`${taken} submissions were read from ${fileNameOf(arrival)}.`);
  }

  /** Sets an arrival aside with its reason. What only could not be stored waits, and is read again by and by. */
  #failed(arrival: ArrivalRow, error: Error): void {
    const { store, log, health } = this.parts;
    if (health.failed(error)) {
      this.#isHindered = true;
      return store.arrivals.markWaiting([arrival.id]);
    }
    if (error instanceof DecodeFault) return store.arrivals.setAside(arrival.id, error.message);
    log.error({ err: error, arrival: arrival.id }, 'an arrival could not be read');
    store.readings.setReading(arrival.id, { state: 'unread', trouble: `It could not be read: ${error.message}` });
  }
}

/** The first ones that are read together: not more, nor larger together, than a thread does in a moment. */
function batchOf(waiting: ArrivalRow[]): ArrivalRow[] {
  let bytes = 0;
  const end = waiting.findIndex(({ size }, index) => (bytes += size) > BYTES_TOGETHER && index > 0);
  const small = end < 0 ? waiting : waiting.slice(0, end);
  const large = small.findIndex(({ size }) => size > SMALL);
  return large < 0 ? small : small.slice(0, large);
}
