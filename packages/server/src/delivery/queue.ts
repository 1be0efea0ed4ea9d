import { perform, type Ask, type Done, type Ending } from '@grammata/core/perform';
import PQueue from 'p-queue';
import type { Logger } from 'pino';
import { now } from '../clock';
import type { LiveHub } from '../live';
import type { DeliveryRow, Store } from '../store';
import { askTarget } from './asking';
import { pauseBefore } from './backoff';
import type { Courier } from './courier';
import type { Verdict } from './outcome';
import { Preparation, type Prepared } from './prepare';

/** Longest sleep, in ms: a clock that was set back does not stop the queue for long. */
const LONGEST_SLEEP = 60_000;

export interface QueueParts {
  store: Store;
  courier: Courier;
  live: LiveHub;
  log: Logger;
  concurrency: number;
}

/** Sends what waits. At least once: what a crash interrupted is sent again under its idempotency key. */
export class DeliveryQueue {
  readonly #work: PQueue;
  readonly preparation: Preparation;
  #timer: NodeJS.Timeout | null = null;
  #stopped = false;

  constructor(private readonly parts: QueueParts) {
    this.#work = new PQueue({ concurrency: parts.concurrency });
    this.preparation = new Preparation(parts.store);
  }

  start(): void {
    this.parts.store.deliveries.recover();
    this.wake();
  }

  /** Looks for due deliveries now. */
  wake(): void {
    if (this.#stopped) return;
    const room = this.parts.concurrency * 2 - this.#work.size - this.#work.pending;
    if (room > 0) {
      for (const delivery of this.parts.store.deliveries.claim(room)) {
        void this.#work.add(() => this.#deliver(delivery)).then(() => this.wake());
      }
    }
    this.#sleep();
  }

  #sleep(): void {
    if (this.#timer) clearTimeout(this.#timer);
    const due = this.parts.store.deliveries.nextDue();
    if (due === null || this.#work.size + this.#work.pending > 0) return;
    this.#timer = setTimeout(() => this.wake(), Math.min(LONGEST_SLEEP, Math.max(0, due - now())));
  }

  /** Ends after the deliveries under way; nothing new is begun. */
  async stop(): Promise<void> {
    this.#stopped = true;
    if (this.#timer) clearTimeout(this.#timer);
    await this.#work.onIdle();
  }

  async #deliver(delivery: DeliveryRow): Promise<void> {
    const { store, live, log } = this.parts;
    try {
      const prepared = this.preparation.prepare(delivery);
      if (prepared.problems.length > 0) {
        const reason = prepared.problems.map(problem => problem.message).join(' ');
        store.deliveries.update(delivery.id, { state: 'held', reason, finishedAt: now(), nextAttemptAt: null });
      } else {
        await this.#attempt(delivery, prepared);
      }
    } catch (error) {
      log.error({ err: error, delivery: delivery.id }, 'a delivery failed inside');
      store.deliveries.update(delivery.id, {
        state: 'dead',
        reason: `It failed inside Grammata: ${(error as Error).message}`,
        finishedAt: now(),
        nextAttemptAt: null,
      });
    }
    const state = store.deliveries.byId(delivery.id)?.state;
    if (state) live.publish({ type: 'delivery', routeId: delivery.routeId, deliveryId: delivery.id, state });
  }

  /** One try: every call that is not done yet, in order, until one of them fails. */
  async #attempt(delivery: DeliveryRow, { route, data }: Prepared): Promise<void> {
    const { deliveries, routes } = this.parts.store;
    const { steps, context } = route!;
    const number = delivery.attempts + 1;
    const tried = number - delivery.attemptsBefore;
    const { tries } = routes.version(delivery.versionId)!.definition.terms;
    const fresh: Done[] = [];
    const taken = () => fresh.splice(0);
    const conversation = perform(steps, data!, context, deliveries.doneOf(delivery.id), each => fresh.push(each));
    const passesOver = ({ callId }: Ask) => steps.find(each => each.call.id === callId)?.call.whenFailed === 'passOver';
    let next = conversation.next();
    if (next.done) deliveries.finish(delivery.id, stateAtEnd(next.value), taken());
    while (!next.done) {
      const ask = next.value;
      const { verdict, told, record } = await askTarget(this.parts.courier, route!, ask, {
        submissionId: delivery.submissionId,
        data: data!,
        idempotencyKey: delivery.idempotencyKey,
        side: 'live',
      });
      const attempt = { ...record, deliveryId: delivery.id, number };
      const again = verdict.outcome === 'retry' && tried < tries;
      const goesOn = verdict.outcome === 'delivered' || ask.purpose === 'readBack' || (passesOver(ask) && !again);
      if (!goesOn) return deliveries.recordAttempt(attempt, stateAfterFailure(verdict, again, tried), taken());
      next = conversation.next(told);
      deliveries.recordAttempt(attempt, next.done ? stateAtEnd(next.value) : {}, taken());
    }
  }
}

/** Delivered, or held where a call could not be made. */
function stateAtEnd(ending: Ending): Partial<DeliveryRow> {
  const over = { finishedAt: now(), nextAttemptAt: null };
  if ('held' in ending)
    return { ...over, state: 'held', reason: ending.held.map(problem => problem.message).join(' ') };
  const failed = ending.done.filter(each => each.what === 'failed').map(each => each.note);
  const reason = failed.length === 0 ? null : `Passed over: ${failed.join(' ')}`;
  return { ...over, state: 'delivered', reason };
}

function stateAfterFailure(
  { outcome, message, retryAfter }: Verdict,
  again: boolean,
  tried: number,
): Partial<DeliveryRow> {
  if (again) return { state: 'waiting', reason: message, nextAttemptAt: now() + pauseBefore(tried, retryAfter) };
  const reason = outcome === 'retry' ? `Given up after ${tried} ${tried === 1 ? 'try' : 'tries'}. ${message}` : message;
  return { state: 'dead', reason, finishedAt: now(), nextAttemptAt: null };
}
