import { decode, type Decoded } from '@grammata/core/decode';
import { isBlank } from '@grammata/core/submission';
import type { Logger } from 'pino';
import type { LiveHub } from '../live';
import type { Dispatcher } from '../delivery';
import type { ArrivalRow, Arrivals, DeliveryRow } from '../store';

/** What followed `?` in an address. */
export const queryOf = (url: string): string => (url.includes('?') ? url.slice(url.indexOf('?') + 1) : '');

/** What stands for the method of an arrival that a person uploaded as a file. */
export const UPLOADED = 'FILE';

/** The decoding of an arrival, made afresh from the bytes that came. */
export const decodeArrival = (arrival: Pick<ArrivalRow, 'body' | 'contentType' | 'url'>): Decoded =>
  decode(arrival.body, arrival.contentType, queryOf(arrival.url));

/** Reads stored arrivals into submissions, after the sender has had its answer. */
export class ArrivalReader {
  #running = false;

  constructor(
    private readonly arrivals: Arrivals,
    private readonly live: LiveHub,
    private readonly dispatch: Dispatcher,
    private readonly log: Logger,
  ) {}

  /** Reads all that waits, in portions, so that requests get their turn in between. */
  wake(): void {
    if (this.#running) return;
    this.#running = true;
    setImmediate(() => this.#portion());
  }

  #portion(): void {
    const waiting = this.arrivals.unread(20);
    for (const arrival of waiting) this.#read(arrival);
    if (waiting.length > 0) setImmediate(() => this.#portion());
    else this.#running = false;
  }

  #read(arrival: ArrivalRow): void {
    try {
      let queued: DeliveryRow[] = [];
      this.arrivals.store(arrival, readingOf(decodeArrival(arrival)), rows => {
        // A file holds past submissions: they are samples to try things on, and are not delivered.
        if (arrival.method !== UPLOADED) queued = this.dispatch.queue(rows.filter(row => row.repeatOf === null));
      });
      this.dispatch.announce(queued);
    } catch (error) {
      this.log.error({ err: error, arrival: arrival.id }, 'an arrival could not be read');
      this.arrivals.store(arrival, {
        state: 'unread',
        trouble: `It could not be read: ${(error as Error).message}`,
        submissions: [],
      });
    }
    this.live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id });
  }
}

/** What is stored of a decoding. A document without a single answer counts as unread. */
export function readingOf({ submissions, notes }: Decoded) {
  const answered = submissions.filter(each => each.fields.length + each.files.length > 0 || each.id !== null);
  const trouble = notes[0]?.message ?? (answered.length === 0 ? 'It holds no answers.' : null);
  const isRead =
    answered.length > 0 &&
    !answered.every(each => isBlank(each.fields.map(field => field.value)) && each.files.length === 0);
  return {
    state: isRead ? ('read' as const) : ('unread' as const),
    trouble: isRead ? trouble : (trouble ?? 'It holds no answers.'),
    submissions: isRead ? answered : [],
  };
}
