import type { ArrivalRow, Arrivals } from '../store';

interface Pending {
  row: ArrivalRow;
  done: () => void;
  failed: (error: unknown) => void;
}

/**
 * Stores arrivals durably, those of the same turn of the event loop in one transaction: under load, many share the
 * cost of one flush to disk.
 */
export class Recorder {
  #pending: Pending[] = [];

  constructor(private readonly arrivals: Arrivals) {}

  /** Resolves when the arrival is on disk. */
  record(row: ArrivalRow): Promise<void> {
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
