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
  #waiting = 0;

  constructor(
    private readonly parts: { store: Pick<Store, 'arrivals' | 'deliveries'>; live: LiveHub; timers: Timers },
  ) {}

  /**
   * The answer of the last call that was made for an arrival, once all of its deliveries have ended; null where there is none, or
   * none came in so many ms.
   */
  wait(arrivalId: string, milliseconds: number): Promise<{ answer: Json } | null> {
    const { live, timers } = this.parts;
    if (this.#waiting >= MOST_WAITING) return Promise.resolve(null);
    this.#waiting += 1;
    return new Promise<{ answer: Json } | null>(resolve => {
      const done = (found: { answer: Json } | null) => {
        stop();
        timer.stop();
        resolve(found);
      };
      const look = () => {
        const found = this.#look(arrivalId);
        if (found !== 'not yet') done(found);
      };
      const timer = timers.later('waiting for a target’s answer', milliseconds, () => done(null));
      const stop = live.subscribe(event => {
        if (event.type === 'delivery' || (event.type === 'arrival' && event.arrivalId === arrivalId))
          void timers.run('looking for a target’s answer', look);
      });
    }).finally(() => (this.#waiting -= 1));
  }

  #look(arrivalId: string): { answer: Json } | null | 'not yet' {
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
