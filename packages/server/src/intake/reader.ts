import type { Logger } from 'pino';
import type { Dispatcher } from '../delivery';
import type { LiveHub } from '../live';
import { UPLOADED, type ArrivalRow, type DeliveryRow, type Reading, type Store } from '../store';
import type { Work, Workshop } from '../work';
import { decodeApart } from './decoder';
import type { Bodies } from './bodies';
import { decodeMultipartFile } from './multipartFile';
import { decodeArrival, isStreamed, readingOf } from './reading';

/** Bytes from which an arrival is read in a thread of its own, so that requests do not wait for it. */
const LARGE = 256_000;
/** How long reading goes on before requests get their turn, in ms; one is always read. */
const AT_ONCE = 5;
const TAKEN_AT_ONCE = 40;
/** While many arrive, reading rests so many times as long as it took: it gets about a sixth of the time. */
const REST = 5;

export interface ReaderParts {
  store: Store;
  live: LiveHub;
  dispatch: Dispatcher;
  workshop: Workshop;
  bodies: Bodies;
  log: Logger;
  /** True while so many arrive that reading takes a back seat. */
  isPressed(): boolean;
  /** The program of the decoding thread. */
  decoderFile: string;
}

/** The name of the uploaded file an arrival was made of. */
const fileNameOf = ({ headers }: ArrivalRow) =>
  /filename="([^"]*)"/.exec(headers.find(([name]) => name === 'content-disposition')?.[1] ?? '')?.[1] ?? 'a file';

/** Reads stored arrivals into submissions, after the sender has had its answer. */
export class ArrivalReader {
  #running = false;
  #isClosed = false;
  /** Large arrivals wait for one another. */
  #large: Promise<void> = Promise.resolve();
  readonly #underWay = new Set<string>();
  /** Waiting ones that were fetched and come next. */
  #taken: ArrivalRow[] = [];

  constructor(private readonly parts: ReaderParts) {}

  /** Reads all that waits, in portions, so that requests get their turn in between. */
  wake(): void {
    if (this.#running || this.#isClosed) return;
    this.#running = true;
    setImmediate(() => this.#portion());
  }

  /** Takes up nothing more; what waits is read at the next start. */
  async close(): Promise<void> {
    this.#isClosed = true;
    this.#taken = [];
    await this.#large;
  }

  #portion(): void {
    if (this.#taken.length === 0 && !this.#isClosed)
      this.#taken = this.parts.store.arrivals.unread(TAKEN_AT_ONCE, [...this.#underWay]);
    const isPressed = this.parts.isPressed();
    const started = performance.now();
    for (let arrival = this.#taken.shift(); arrival !== undefined; arrival = this.#taken.shift()) {
      if (arrival.size <= LARGE) this.#read(arrival);
      else this.#setAside(arrival);
      if (isPressed || performance.now() - started > AT_ONCE) {
        const rest = isPressed ? REST * (performance.now() - started) : 0;
        setTimeout(() => this.#portion(), rest);
        return;
      }
    }
    if (this.#isClosed || this.parts.store.arrivals.unread(1, [...this.#underWay]).length === 0) this.#running = false;
    else setImmediate(() => this.#portion());
  }

  #setAside(arrival: ArrivalRow): void {
    this.#underWay.add(arrival.id);
    this.#large = this.#large.then(() => this.#readLarge(arrival)).finally(() => this.#underWay.delete(arrival.id));
  }

  #pinsOf = (arrival: ArrivalRow) => this.parts.store.intakes.pinsOf(arrival.intakeId);

  #read(arrival: ArrivalRow): void {
    try {
      this.#take(arrival, readingOf(decodeArrival(arrival, this.#pinsOf(arrival))));
    } catch (error) {
      this.#failed(arrival, error as Error);
    }
    this.parts.live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id });
  }

  #take(arrival: ArrivalRow, reading: Reading): void {
    const { store, dispatch } = this.parts;
    let queued: DeliveryRow[] = [];
    store.arrivals.store(arrival, reading, rows => {
      // A file holds past submissions: they are samples to try things on, and are not delivered.
      if (arrival.method !== UPLOADED) queued = dispatch.queue(rows.filter(row => row.repeatOf === null));
    });
    dispatch.announce(queued);
  }

  async #readLarge(arrival: ArrivalRow): Promise<void> {
    if (this.#isClosed) return;
    const { store, dispatch, live, workshop, decoderFile, bodies } = this.parts;
    const isFile = arrival.method === UPLOADED;
    const work = isFile
      ? workshop.start({ kind: 'upload', title: `Reading ${fileNameOf(arrival)}`, intakeId: arrival.intakeId }, null)
      : null;
    try {
      const { body, contentType, url } = arrival;
      const pins = this.#pinsOf(arrival);
      if (isStreamed(arrival)) {
        const decoded = await decodeMultipartFile(bodies.fileOf(arrival.id), contentType!, pins);
        if (this.#isClosed) return;
        this.#take(arrival, readingOf(decoded));
        return live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id });
      }
      const task = { body, file: arrival.aside ? bodies.fileOf(arrival.id) : null, contentType, url, pins };
      // What a reading that was cut short by a restart left behind is not taken twice.
      const stored = new Set(store.arrivals.submissionsOf(arrival.id).map(each => each.position));
      const queued: DeliveryRow[] = [];
      let taken = 0;
      const end = await decodeApart(decoderFile, task, {
        found: total => work?.at(0, total),
        portion: (submissions, from) => {
          if (this.#isClosed || work?.isStopped) return false;
          const fresh = submissions.filter((_, index) => !stored.has(from + index));
          if (fresh.length === submissions.length) {
            const rows = store.arrivals.storePortion(arrival, submissions, from, each => {
              if (!isFile) queued.push(...dispatch.queue(each.filter(row => row.repeatOf === null)));
            });
            taken += rows.length;
          }
          work?.at(from + submissions.length);
          return true;
        },
      });
      if (this.#isClosed && end === null) return;
      this.#endLarge(arrival, work, taken, end);
      dispatch.announce(queued);
    } catch (error) {
      work?.fail(`It could not be read: ${(error as Error).message}`);
      this.#failed(arrival, error as Error);
    }
    live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id });
  }

  #endLarge(arrival: ArrivalRow, work: Work | null, taken: number, end: Awaited<ReturnType<typeof decodeApart>>): void {
    const { store } = this.parts;
    if (end === null) {
      const trouble = `Reading it was stopped after ${taken} submissions.`;
      store.arrivals.setReading(arrival.id, { state: 'read', trouble });
      work?.finish(trouble);
      return;
    }
    store.arrivals.setReading(arrival.id, end);
    end.notes.forEach(note => work?.report(note));
    work?.finish(`${taken} submissions were read from ${fileNameOf(arrival)}.`);
  }

  #failed(arrival: ArrivalRow, error: Error): void {
    this.parts.log.error({ err: error, arrival: arrival.id }, 'an arrival could not be read');
    const trouble = `It could not be read: ${error.message}`;
    this.parts.store.arrivals.setReading(arrival.id, { state: 'unread', trouble });
  }
}
