import type { Turnstile } from '../store';

/** ms that the ledger waits at most before it looks again. */
const LOOK = 50;

/**
 * Lets whoever writes settings go before the ledger: SQLite has one writer at a time, and the ledger writes without a pause under
 * load. Works on memory that both threads share.
 */
export class Gate {
  readonly #waiting: Int32Array;

  constructor(readonly memory: SharedArrayBuffer = new SharedArrayBuffer(4)) {
    this.#waiting = new Int32Array(memory);
  }

  /** For the main thread: the ledger begins nothing new until it has left. */
  get turnstile(): Turnstile {
    return {
      enter: () => void Atomics.add(this.#waiting, 0, 1),
      leave: () => {
        Atomics.sub(this.#waiting, 0, 1);
        Atomics.notify(this.#waiting, 0);
      },
    };
  }

  /** For the ledger: waits until nobody else wants to write. */
  pass(): void {
    for (let count = Atomics.load(this.#waiting, 0); count > 0; count = Atomics.load(this.#waiting, 0))
      Atomics.wait(this.#waiting, 0, count, LOOK);
  }
}
