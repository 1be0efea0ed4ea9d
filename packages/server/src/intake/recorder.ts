import type { ArrivalRow, Arrivals } from '../store';
import { causesOf, type StorageHealth } from '../storage';
import type { Timers } from '../timing';

interface Pending {
  row: ArrivalRow;
  done: () => void;
  failed: (error: unknown) => void;
}

/** The intake of an arrival went while it was on its way. */
export class IntakeGone extends Error {}

/** Arrivals within so many ms that count as many. */
const WINDOW = 200;
const MANY = 60;

/**
 * Stores arrivals durably, those of the same turn of the event loop in one transaction: under load, many share the
 * cost of one flush to disk. What one of them fails for is no matter to the others.
 */
export class Recorder {
  #pending: Pending[] = [];
  #since = 0;
  #recent = 0;

  constructor(
    private readonly arrivals: Arrivals,
    private readonly health: StorageHealth,
    private readonly timers: Timers,
  ) {}

  /** True while many come: what can wait does then. */
  get isPressed(): boolean {
    return performance.now() - this.#since < WINDOW && this.#recent > MANY;
  }

  /** Resolves when the arrival is on disk. */
  record(row: ArrivalRow): Promise<void> {
    if (performance.now() - this.#since > WINDOW) {
      this.#since = performance.now();
      this.#recent = 0;
    }
    this.#recent += 1;
    return new Promise((done, failed) => {
      this.#pending.push({ row, done, failed });
      if (this.#pending.length === 1) this.timers.soon('storing what arrived', () => this.#flush());
    });
  }

  #flush(): void {
    const batch = this.#pending;
    this.#pending = [];
    try {
      this.arrivals.record(batch.map(each => each.row));
      this.health.fine();
      batch.forEach(each => each.done());
    } catch (error) {
      if (this.health.failed(error) || batch.length === 1) return batch.forEach(each => each.failed(explained(error)));
      for (const each of batch)
        try {
          this.arrivals.record([each.row]);
          each.done();
        } catch (fault) {
          each.failed(explained(fault));
        }
    }
  }
}

const explained = (error: unknown): unknown =>
  [...causesOf(error)].some(each => /FOREIGN KEY/i.test(each.message)) ? new IntakeGone('This intake is gone.') : error;
