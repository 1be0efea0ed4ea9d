import type { Json } from '@grammata/core/submission';
import type { LiveHub } from '../live';
import type { Store } from '../store';
import type { Timers } from '../timing';

/** Senders that may wait at once; whoever comes beside them gets the usual reply. */
const MOST_WAITING = 200;
/** Deliveries of one arrival that are looked at. */
const LOOKED = 50;

/** What targets answer to what an arrival holds, for senders that wait for it. */
export class TargetAnswers {
  /** What looks again, by the arrival that it waits for. */
  readonly #looks = new Map<string, () => void>();

  constructor(
    private readonly parts: { store: Pick<Store, 'arrivals' | 'deliveries'>; live: LiveHub; timers: Timers },
  ) {
    parts.live.subscribe(event => {
      if (event.type === 'arrival') this.look(event.arrivalId);
    });
  }

  /** Something became of an arrival: whoever waits for it looks again, and nobody else. */
  look(arrivalId: string): void {
    const look = this.#looks.get(arrivalId);
    if (look) void this.parts.timers.run('looking for a target’s answer', look);
  }

  /**
   * The answer of the last call that was made for an arrival, once all of its deliveries have ended; null where there is none, or
   * none came in so many ms.
   */
  wait(arrivalId: string, milliseconds: number): Promise<{ answer: Json } | null> {
    if (this.#looks.size >= MOST_WAITING) return Promise.resolve(null);
    return new Promise<{ answer: Json } | null>(resolve => {
      const done = (found: { answer: Json } | null) => {
        this.#looks.delete(arrivalId);
        timer.stop();
        resolve(found);
      };
      const timer = this.parts.timers.later('waiting for a target’s answer', milliseconds, () => done(null));
      this.#looks.set(arrivalId, () => {
        const found = this.#answerOf(arrivalId);
        if (found !== 'not yet') done(found);
      });
    });
  }

  #answerOf(arrivalId: string): { answer: Json } | null | 'not yet' {
    const { arrivals, deliveries } = this.parts.store;
    const state = arrivals.headOf(arrivalId)?.state;
    if (state === undefined || state === 'unread') return null;
    if (state !== 'read') return 'not yet';
    const all = deliveries.ofArrival(arrivalId, LOOKED);
    if (all.some(each => each.state === 'waiting' || each.state === 'sending')) return 'not yet';
    const answers = all
      .filter(each => each.state === 'delivered')
      .flatMap(each => deliveries.doneOf(each.id))
      .filter(each => each.what !== 'failed' && each.answer !== null);
    const last = answers.at(-1);
    return last ? { answer: last.answer } : null;
  }
}
