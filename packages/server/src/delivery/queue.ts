import { bodyText } from '@grammata/core/request';
import { withQuery } from '@grammata/core/target';
import PQueue from 'p-queue';
import type { Logger } from 'pino';
import type { Vault } from '../access';
import { now } from '../clock';
import type { LiveHub } from '../live';
import { credentialsFor, isFault, maskedFor, type Outward } from '../outward';
import type { DeliveryRow, Store } from '../store';
import { pauseBefore } from './backoff';
import { verdictOn } from './outcome';
import { Preparation, recordedRequest, type Prepared } from './prepare';

/** How much of an answer is recorded, in characters. */
const RECORDED = 20_000;
/** Longest sleep, in ms: a clock that was set back does not stop the queue for long. */
const LONGEST_SLEEP = 60_000;

export interface QueueParts {
  store: Store;
  outward: Outward;
  vault: Vault;
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

  async #attempt(delivery: DeliveryRow, { planned, target }: Prepared): Promise<void> {
    const { store, outward, vault } = this.parts;
    const { request } = planned!;
    const credentials = credentialsFor(target!, vault);
    const headers = Object.fromEntries([
      ...request.headers,
      ['idempotency-key', delivery.idempotencyKey],
      ...credentials.headers,
    ]);
    const startedAt = now();
    const body = bodyText(request);
    const url = withQuery(request.url, credentials.query);
    const result = await outward.send({ method: request.method, url, headers, ...(body === '' ? {} : { body }) });
    const verdict = verdictOn(result, now());
    const number = delivery.attempts + 1;
    const tried = number - delivery.attemptsBefore;
    const tries = store.routes.version(delivery.versionId)!.definition.terms.tries;
    const again = verdict.outcome === 'retry' && tried < tries;
    const attempt = {
      deliveryId: delivery.id,
      number,
      startedAt,
      milliseconds: result.milliseconds,
      request: recordedRequest(planned!, delivery.idempotencyKey, maskedFor(target!)),
      status: isFault(result) ? null : result.status,
      response: isFault(result) ? null : result.body.slice(0, RECORDED),
      outcome: verdict.outcome,
      message: verdict.message,
    };
    store.deliveries.recordAttempt(
      attempt,
      stateAfter(verdict.outcome, again, verdict.message, tried, verdict.retryAfter),
    );
  }
}

function stateAfter(
  outcome: 'delivered' | 'retry' | 'final',
  again: boolean,
  message: string,
  tried: number,
  retryAfter: number | null,
): Partial<DeliveryRow> {
  if (outcome === 'delivered') return { state: 'delivered', reason: null, finishedAt: now(), nextAttemptAt: null };
  if (again) return { state: 'waiting', reason: message, nextAttemptAt: now() + pauseBefore(tried, retryAfter) };
  const reason = outcome === 'retry' ? `Given up after ${tried} ${tried === 1 ? 'try' : 'tries'}. ${message}` : message;
  return { state: 'dead', reason, finishedAt: now(), nextAttemptAt: null };
}
