import type { Logger } from 'pino';
import { DecodeFault, DecodeLate, type Decoders, type DecodeResult, type StoredMessage } from '../decoding';
import type { ArrivalReading, ClaimedArrival, Ledger, ReadingOutcome } from '../ledger';
import type { LiveHub } from '../live';
import type { StorageHealth } from '../storage';
import type { DecodeContext, Way } from '@grammata/core/decode';
import { MASK } from '@grammata/core/target';
import { LRUCache } from 'lru-cache';
import { differentWays, UPLOADED, type ArrivalRow, type Store } from '../store';
import type { Timers } from '../timing';
import type { Work, Workshop } from '../work';
import type { Bodies } from './bodies';

/** Arrivals, and bytes, that are read together. */
const TOGETHER = 24;
const BYTES_TOGETHER = 256_000;
/** While many senders wait, reading rests so many times as long as it took, and ms at most: it gets less than a tenth of the time. */
const REST = 12;
const LONGEST_REST = 1000;
/** ms before reading is tried again when its outcome could not be stored. */
const PAUSE = 5000;
/** ms before a message is read again whose reading the clock ended; each time as long again. */
const LATE = 30_000;
/** How often that is done. */
const MOST_LATE = 10;

type Lane = ArrivalRow['lane'];

export interface ReaderParts {
  store: Store;
  ledger: Ledger;
  live: LiveHub;
  /** Is told of what was queued. */
  wake(): void;
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
const fileNameOf = ({ headers }: Pick<ArrivalRow, 'headers'>) =>
  /filename="([^"]*)"/.exec(headers.find(([name]) => name === 'content-disposition')?.[1] ?? '')?.[1] ?? 'a file';

/** An arrival as the threads that decode are given it. */
export const messageOf = (
  arrival: Pick<ArrivalRow, 'id' | 'aside' | 'contentType' | 'headers' | 'receivedAt' | 'url'> & { body: Uint8Array },
  bodies: Bodies,
): StoredMessage => ({
  body: arrival.body,
  file: arrival.aside ? bodies.fileOf(arrival.id) : null,
  contentType: arrival.contentType,
  headers: arrival.headers.filter(([, value]) => !value.includes(MASK)),
  arrivedAt: arrival.receivedAt,
  url: arrival.url,
});

/**
 * Reads stored arrivals into submissions, after the sender has had its answer; in threads that may be ended. Small ones are read together,
 * several batches at once; what is large or slow is read apart. What could not be read is set aside with its reason, and read again only
 * when a person asks; what only the clock ended is read again by itself.
 */
export class ArrivalReader {
  readonly #underWay: Record<Lane, Set<Promise<void>>> = { quick: new Set(), slow: new Set() };
  readonly #looking: Record<Lane, Promise<void> | null> = { quick: null, slow: null };
  readonly #isWoken: Record<Lane, boolean> = { quick: false, slow: false };
  readonly #late = new Map<string, number>();
  /** The batch that was taken up last of an intake's small messages. */
  readonly #latest = new Map<string, Promise<void>>();
  readonly #ways = new LRUCache<string, Way[]>({ max: 500 });
  #isClosed = false;

  constructor(private readonly parts: ReaderParts) {}

  /** What was being read when the server ended last is read alone; what was so three times is set aside. */
  async recover(): Promise<void> {
    const aside = await this.parts.ledger.recover();
    if (aside > 0)
      this.parts.log.warn({ arrivals: aside }, 'arrivals that were being read at three ends are set aside');
  }

  /** Reads all that waits. */
  wake(): void {
    this.#wake('quick');
    this.#wake('slow');
  }

  #wake(lane: Lane): void {
    this.#isWoken[lane] = true;
    if (this.#looking[lane] || this.#isClosed) return;
    this.#looking[lane] = this.parts.timers
      .run('reading what arrived', () => this.#all(lane))
      .then(() => {
        this.#looking[lane] = null;
        if (this.#isWoken[lane]) this.#wake(lane);
      });
  }

  /** Takes up nothing more; what waits is read at the next start. */
  async close(): Promise<void> {
    this.#isClosed = true;
    const all = [...Object.values(this.#looking), ...Object.values(this.#underWay).flatMap(each => [...each])];
    await Promise.all(all);
  }

  async #all(lane: Lane): Promise<void> {
    const { ledger, decoders, health, timers } = this.parts;
    const most = lane === 'quick' ? TOGETHER : 1;
    const width = lane === 'quick' ? decoders.threads : decoders.slowThreads;
    const underWay = this.#underWay[lane];
    while (!this.#isClosed) {
      while (underWay.size >= width) await Promise.race(underWay);
      this.#isWoken[lane] = false;
      let claimed: ClaimedArrival[];
      try {
        claimed = await ledger.claim({ lane, most, bytes: BYTES_TOGETHER });
        health.fine();
      } catch (error) {
        if (!health.failed(error)) throw error;
        return void timers.later('reading what arrived', PAUSE, () => this.#wake(lane));
      }
      if (claimed.length === 0) {
        if (!this.#isWoken[lane]) return;
        continue;
      }
      const reading = lane === 'quick' ? this.#readInOrder(claimed) : this.#readOr(claimed, lane);
      underWay.add(reading);
      void reading.then(() => underWay.delete(reading));
      if (!this.parts.isPressed()) continue;
      const started = performance.now();
      await reading;
      await timers.pause(Math.min(LONGEST_REST, REST * (performance.now() - started)));
    }
  }

  /** Reads a batch; it is stored after the batches before it of the same intakes, so in the order in which it arrived. */
  #readInOrder(claimed: ClaimedArrival[]): Promise<void> {
    const intakeIds = [...new Set(claimed.map(each => each.intakeId))];
    const before = Promise.all(intakeIds.map(id => this.#latest.get(id)));
    const reading = this.#readOr(claimed, 'quick', before).then(() => {
      for (const id of intakeIds) if (this.#latest.get(id) === reading) this.#latest.delete(id);
    });
    for (const id of intakeIds) this.#latest.set(id, reading);
    return reading;
  }

  /** Reads what was taken up; where that can't be stored, it waits again. Never rejects. */
  #readOr(claimed: ClaimedArrival[], lane: Lane, before: Promise<unknown> = Promise.resolve()): Promise<void> {
    return this.parts.timers.run('reading what arrived', () => this.#tryToRead(claimed, lane, before));
  }

  async #tryToRead(claimed: ClaimedArrival[], lane: Lane, before: Promise<unknown>): Promise<void> {
    try {
      await (lane === 'quick' ? this.#readTogether(claimed, before) : this.#readApart(claimed[0]!));
    } catch (error) {
      const ids = claimed.map(each => each.id);
      if (this.#isClosed) return this.#letGo(ids);
      if (!this.parts.health.failed(error)) throw error;
      await this.parts.timers.pause(PAUSE);
      await this.#letGo(ids);
      this.#wake(lane);
    }
  }

  /** What is let go of is read at the next start where it can't be stored that it waits. */
  #letGo(ids: string[], lane?: Lane): Promise<void> {
    return this.parts.ledger.release({ ids, ...(lane && { lane }) }).catch((error: unknown) => {
      if (!this.parts.health.failed(error) && !this.#isClosed) throw error;
    });
  }

  /** Reads small ones together; where that fails, each by itself, to find the one at fault: that is read apart. */
  async #readTogether(claimed: ClaimedArrival[], before: Promise<unknown>): Promise<void> {
    const { decoders, bodies } = this.parts;
    let readings: DecodeResult['read'];
    const known = new Map([...new Set(claimed.map(each => each.intakeId))].map(id => [id, this.#knownOf(id)]));
    try {
      readings = await decoders.read(
        claimed.map(each => ({
          ...messageOf(each, bodies),
          known: known.get(each.intakeId)!,
          shapesOf: each.intakeId,
        })),
        claimed.map(each => each.pins),
      );
    } catch (error) {
      if (this.#isClosed) throw error;
      if (claimed.length > 1) return void (await Promise.all(claimed.map(each => this.#readTogether([each], before))));
      await this.#letGo([claimed[0]!.id], 'slow');
      return this.#wake('slow');
    }
    await before;
    const whole: ArrivalReading[] = [];
    const many: string[] = [];
    claimed.forEach((arrival, at) => {
      const reading = readings[at] ?? null;
      if (reading === null) return void many.push(arrival.id);
      if (reading.way) this.#learnWay(arrival.intakeId, reading.way);
      const { state, trouble, isSure, way, submissions } = reading;
      const end = { state, trouble, isSure, way };
      whole.push({ arrivalId: arrival.id, revision: arrival.revision, isAgain: false, from: 0, submissions, end });
    });
    if (many.length > 0) {
      await this.#letGo(many, 'slow');
      this.#wake('slow');
    }
    if (whole.length > 0) await this.#store(claimed, whole);
  }

  /** Stores readings, and tells of them. One that can't be stored is told on its own. */
  async #store(claimed: readonly ClaimedArrival[], readings: ArrivalReading[]): Promise<void> {
    const { ledger, health } = this.parts;
    let outcomes: ReadingOutcome[];
    try {
      outcomes = await ledger.read(readings);
      health.fine();
    } catch (error) {
      if (health.failed(error) || this.#isClosed) throw error;
      if (readings.length > 1) {
        for (const each of readings) await this.#store(claimed, [each]);
        return;
      }
      return this.#unstored(
        claimed.find(each => each.id === readings[0]!.arrivalId)!,
        error as Error,
      );
    }
    this.#tell(claimed, outcomes);
    // Read with pins that changed meanwhile, it waits again.
    if (outcomes.some(each => !each.isStored)) this.wake();
  }

  #tell(claimed: readonly ClaimedArrival[], outcomes: readonly ReadingOutcome[]): void {
    const { live, watch, wake } = this.parts;
    const intakeOf = new Map(claimed.map(each => [each.id, each.intakeId]));
    for (const { arrivalId, formIds, queued } of outcomes) {
      watch.saw(formIds);
      live.publish({ type: 'arrival', intakeId: intakeOf.get(arrivalId)!, arrivalId, formIds });
      for (const { id, routeId } of queued)
        live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
    }
    if (outcomes.some(each => each.queued.length > 0)) wake();
  }

  async #unstored(arrival: ClaimedArrival, error: Error): Promise<void> {
    this.parts.log.error({ err: error, arrival: arrival.id }, 'a reading could not be stored');
    await this.parts.ledger.setAside({ id: arrival.id, trouble: `It could not be read: ${error.message}` });
    this.#tell([arrival], [{ arrivalId: arrival.id, isStored: true, formIds: [], stored: 0, queued: [] }]);
  }

  /** How messages of an intake were read for sure: kept in mind, since it is asked for each. */
  #waysOf(intakeId: string): Way[] {
    let ways = this.#ways.get(intakeId);
    if (!ways) this.#ways.set(intakeId, (ways = this.parts.store.arrivals.waysOf(intakeId)));
    return ways;
  }

  #learnWay(intakeId: string, way: Way): void {
    this.#ways.set(intakeId, differentWays([way, ...this.#waysOf(intakeId)]));
  }

  #knownOf(intakeId: string): DecodeContext {
    return { ways: this.#waysOf(intakeId), files: this.parts.store.forms.questions.filesAsked(intakeId) };
  }

  /** Reads one that is large or slow, portion by portion. */
  async #readApart(arrival: ClaimedArrival): Promise<void> {
    const { workshop, decoders, bodies, live } = this.parts;
    const isFile = arrival.method === UPLOADED;
    const work = isFile
      ? workshop.start({ kind: 'upload', title: `Reading ${fileNameOf(arrival)}`, intakeId: arrival.intakeId }, null)
      : null;
    let [next, isHeld] = [0, true];
    const store = async (submissions: ArrivalReading['submissions'], end: ArrivalReading['end']) => {
      const { id: arrivalId, revision } = arrival;
      const [outcome] = await this.parts.ledger.read([
        { arrivalId, revision, isAgain: false, from: next, submissions, end },
      ]);
      this.parts.health.fine();
      isHeld = outcome!.isStored;
      next += submissions.length;
      if (end || outcome!.queued.length > 0) this.#tell([arrival], [outcome!]);
      else if (outcome!.formIds.length > 0) this.parts.watch.saw(outcome!.formIds);
      return isHeld;
    };
    try {
      const message = { ...messageOf(arrival, bodies), known: this.#knownOf(arrival.intakeId) };
      const end = await decoders.portions(message, arrival.size, arrival.pins, {
        found: total => work?.at(0, total),
        portion: async submissions => {
          if (this.#isClosed || work?.isStopped) return false;
          const goesOn = await store(submissions, null);
          work?.at(next);
          return goesOn;
        },
      });
      this.#late.delete(arrival.id);
      if (this.#isClosed && end === null) return this.#letGo([arrival.id]);
      if (!isHeld) {
        work?.finish('It is read again because the reading was corrected.');
        return this.wake();
      }
      await store([], this.#endOf(arrival, work, next, end));
    } catch (error) {
      if (this.#isClosed) return this.#letGo([arrival.id]);
      work?.fail(`It could not be read: ${(error as Error).message}`);
      await this.#failed(arrival, error as Error);
      live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id });
    }
  }

  #endOf(
    arrival: ClaimedArrival,
    work: Work | null,
    taken: number,
    end: DecodeResult['portions'] | null,
  ): ArrivalReading['end'] {
    if (end === null) {
      const trouble = `Reading it was stopped after ${taken} submissions.`;
      work?.finish(trouble);
      return { state: 'read', trouble, isSure: true, way: null };
    }
    end.notes.forEach(note => work?.report(note));
    work?.finish(`${taken} submissions were read from ${fileNameOf(arrival)}.`);
    const { state, trouble, isSure, way } = end;
    return { state, trouble, isSure, way };
  }

  /** Sets an arrival aside with its reason. What only could not be stored, or was late, waits, and is read again by and by. */
  async #failed(arrival: ClaimedArrival, error: Error): Promise<void> {
    const { log, health, ledger, timers } = this.parts;
    if (health.failed(error)) throw error;
    if (error instanceof DecodeFault) return ledger.setAside({ id: arrival.id, trouble: error.message });
    const times = (this.#late.get(arrival.id) ?? 0) + 1;
    if (error instanceof DecodeLate && times <= MOST_LATE) {
      this.#late.set(arrival.id, times);
      return void timers.later('reading a message again', LATE * times, async () => {
        await this.#letGo([arrival.id]);
        this.#wake('slow');
      });
    }
    log.error({ err: error, arrival: arrival.id }, 'an arrival could not be read');
    await ledger.setAside({ id: arrival.id, trouble: `It could not be read: ${error.message}` });
  }
}
