import type { Settlement, DueDeliveries } from '../due';
import type { StorageHealth } from '../storage';
import type { Timers } from '../timing';

/** ms between tries to store an outcome while the disk is full. */
const PAUSE = 2000;

interface Pending {
  settlement: Settlement;
  done: () => void;
  failed: (error: unknown) => void;
}

/**
 * Stores outcomes durably, those of the same turn of the event loop together: under load, many share the cost of one flush
 * to disk. While the disk is full they are kept here and tried again: what a target took must not be forgotten.
 */
export class Settlements {
  #pending: Pending[] = [];
  #isFlushing = false;
  #isStopped = false;

  constructor(
    private readonly parts: { due: DueDeliveries; health: StorageHealth; timers: Timers },
    private readonly owner: string,
  ) {}

  /** Resolves when it is on disk. Rejects where it can't be stored for another reason than the disk, or at the end. */
  settle(settlement: Settlement): Promise<void> {
    return new Promise((done, failed) => {
      this.#pending.push({ settlement, done, failed });
      if (!this.#isFlushing) this.parts.timers.soon('storing outcomes', () => this.#flush());
      this.#isFlushing = true;
    });
  }

  /** What can't be stored any more is let go of: it is sent again at the next start, under the same key. */
  stop(): void {
    this.#isStopped = true;
  }

  async #flush(): Promise<void> {
    const { due, health, timers } = this.parts;
    while (this.#pending.length > 0) {
      const batch = this.#pending;
      this.#pending = [];
      try {
        await due.settle(
          this.owner,
          batch.map(each => each.settlement),
        );
        health.fine();
        batch.forEach(each => each.done());
      } catch (error) {
        if (health.failed(error)) {
          if (this.#isStopped) batch.forEach(each => each.failed(error));
          else {
            this.#pending = [...batch, ...this.#pending];
            await timers.pause(PAUSE);
          }
        } else if (batch.length === 1) batch[0]!.failed(error);
        else await this.#eachAlone(batch);
      }
    }
    this.#isFlushing = false;
  }

  /** What one of them fails for is no matter to the others. */
  async #eachAlone(batch: Pending[]): Promise<void> {
    for (const { settlement, done, failed } of batch)
      await this.parts.due.settle(this.owner, [settlement]).then(done, failed);
  }
}
