import type { ArrivalRow, Arrivals } from '../store';

interface Pending {
  row: ArrivalRow;
  done: () => void;
  failed: (error: unknown) => void;
}

/** Arrivals within so many ms that count as many. */
const WINDOW = 200;
const MANY = 60;

/**
 * Stores arrivals durably, those of the same turn of the event loop in one transaction: under load, many share the
 * cost of one flush to disk.
 */
export class Recorder {
  #pending: Pending[] = [];
  #since = 0;
  #recent = 0;

  constructor(private readonly arrivals: Arrivals) {}

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
      if (this.#pending.length === 1) setImmediate(() => this.#flush());
    });
  }

  #flush(): void {
    const batch = this.#pending;
    this.#pending = [];
    try {
      this.arrivals.record(batch.map(each => each.row));
      batch.forEach(each => each.done());
    } catch (error) {
      batch.forEach(each => each.failed(error));
    }
  }
}
