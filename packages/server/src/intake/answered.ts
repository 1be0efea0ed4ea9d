import { parseJson, type Json } from '@grammata/core/submission';
import type { LiveHub } from '../live';
import type { Store } from '../store';
import type { Timers } from '../timing';
import type { Refusal } from './reply';

/** Senders that may wait at once; whoever comes beside them gets the usual reply. */
const MOST_WAITING = 200;
/** Deliveries of one arrival that are looked at. */
const LOOKED = 50;

/** How the deliveries of an arrival ended: with an answer, or with why there is none. */
type Ending = { answer: Json } | { refusal: Refusal };

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
   * The answer of the last call that was made for an arrival, or why there is none, once all of its deliveries have ended; null
   * where nothing is delivered of it, or they did not end in so many ms.
   */
  wait(arrivalId: string, milliseconds: number): Promise<Ending | null> {
    if (this.#looks.size >= MOST_WAITING) return Promise.resolve(null);
    return new Promise<Ending | null>(resolve => {
      const done = (found: Ending | null) => {
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

  #answerOf(arrivalId: string): Ending | null | 'not yet' {
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
    if (last) return { answer: last.answer };
    const stopped = all.find(each => each.state === 'dead' || each.state === 'held');
    if (!stopped) return null;
    const response = deliveries.attemptsOf(stopped.id).at(-1)?.response ?? '';
    return { refusal: { message: stopped.reason ?? '', response: parseJson(response) ?? null } };
  }
}
