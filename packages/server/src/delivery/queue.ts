import { perform, type Ask, type Done, type Ending } from '@grammata/core/perform';
import PQueue from 'p-queue';
import type { Logger } from 'pino';
import { now } from '../clock';
import type { LiveHub } from '../live';
import type { StorageHealth } from '../storage';
import type { DeliveryRow, Store } from '../store';
import type { Timer, Timers } from '../timing';
import { askTarget } from './asking';
import { pauseBefore } from './backoff';
import type { Courier } from './courier';
import type { Verdict } from './outcome';
import { Preparation, type Prepared } from './prepare';

/** Longest sleep, in ms: a clock that was set back does not stop the queue for long. */
const LONGEST_SLEEP = 30_000;
/** ms by which the clock may be off the machine's own before what waits is moved with it. */
const DRIFT = 2000;
/** ms between tries to store an outcome while the disk is full. */
const PAUSE = 2000;
const HOUR = 3_600_000;

export interface QueueParts {
  store: Store;
  courier: Courier;
  live: LiveHub;
  health: StorageHealth;
  timers: Timers;
  log: Logger;
  concurrency: number;
}

/** Sends what waits. At least once: what a crash interrupted is sent again under its idempotency key. */
export class DeliveryQueue {
  readonly #work: PQueue;
  readonly preparation: Preparation;
  #timer: Timer | null = null;
  #stopped = false;
  /** The clock and the machine's own, which nobody sets, when they were last looked at. */
  #clocks = { wall: now(), own: performance.now() };

  constructor(private readonly parts: QueueParts) {
    this.#work = new PQueue({ concurrency: parts.concurrency });
    this.preparation = new Preparation(parts.store);
  }

  start(): void {
    void this.parts.timers.run('starting to send', async () => {
      await this.#stored(() => this.parts.store.deliveries.recover());
      this.#followClock(this.parts.store.deliveries.latestTime() - now());
      this.wake();
    });
  }

  /** Looks for due deliveries now. Never throws. */
  wake(): void {
    if (this.#stopped) return;
    try {
      this.#followClock(this.#clocks.wall + (performance.now() - this.#clocks.own) - now());
      const room = this.parts.concurrency * 2 - this.#work.size - this.#work.pending;
      if (room > 0) {
        for (const delivery of this.parts.store.deliveries.claim(room)) {
          void this.#work.add(() => this.#deliver(delivery)).then(() => this.wake());
        }
        this.parts.health.fine();
      }
      this.#sleep();
    } catch (error) {
      if (!this.parts.health.failed(error)) this.parts.log.error({ err: error }, 'what is due could not be fetched');
      this.#sleepFor(PAUSE);
    }
  }

  /** A clock that was set back by so many ms takes what waits along: it is due as long from now as it was. */
  #followClock(back: number): void {
    this.#clocks = { wall: now(), own: performance.now() };
    if (back <= DRIFT) return;
    this.parts.log.warn({ seconds: Math.round(back / 1000) }, 'the clock was set back; what waits is moved with it');
    this.parts.store.deliveries.shiftWaiting(-Math.round(back));
  }

  #sleep(): void {
    if (this.#work.size + this.#work.pending > 0) return this.#timer?.stop();
    const due = this.parts.store.deliveries.nextDue();
    if (due === null) this.#timer?.stop();
    else this.#sleepFor(Math.min(LONGEST_SLEEP, Math.max(0, due - now())));
  }

  #sleepFor(milliseconds: number): void {
    this.#timer?.stop();
    this.#timer = this.parts.timers.later('looking for what is due', milliseconds, () => this.wake());
  }

  /** Ends after the deliveries under way; nothing new is begun. */
  async stop(): Promise<void> {
    this.#stopped = true;
    this.#timer?.stop();
    this.#work.clear();
    await this.#work.onIdle();
  }

  /**
   * Stores an outcome. While the disk is full it is kept here and tried again: what a target took must not be forgotten.
   * Where the server ends first, it is sent again under its key.
   */
  async #stored<T>(write: () => T): Promise<T> {
    for (;;) {
      try {
        const result = write();
        this.parts.health.fine();
        return result;
      } catch (error) {
        if (this.#stopped || !this.parts.health.failed(error)) throw error;
        await this.parts.timers.pause(PAUSE);
      }
    }
  }

  async #deliver(delivery: DeliveryRow): Promise<void> {
    const { store, live, log, health } = this.parts;
    try {
      const prepared = this.preparation.prepare(delivery);
      if (prepared.problems.length > 0) {
        const reason = prepared.problems.map(problem => problem.message).join(' ');
        const held = { state: 'held' as const, reason, finishedAt: now(), nextAttemptAt: null };
        await this.#stored(() => store.deliveries.update(delivery.id, held));
      } else {
        await this.#attempt(delivery, prepared);
      }
    } catch (error) {
      // What can't be stored when the server stops is sent again at its next start.
      if (this.#stopped && health.failed(error)) return;
      log.error({ err: error, delivery: delivery.id }, 'a delivery failed inside');
      const reason = `It failed inside Grammata: ${(error as Error).message}`;
      const dead = { state: 'dead' as const, reason, finishedAt: now(), nextAttemptAt: null };
      await this.#stored(() => store.deliveries.update(delivery.id, dead)).catch((fault: unknown) =>
        log.error({ err: fault, delivery: delivery.id }, 'the end of a delivery could not be stored'),
      );
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
    const { hours } = routes.version(delivery.versionId)!.definition.terms;
    // From the first failure since something was done, or since a person sent it again.
    let tryUntil = delivery.tryUntil;
    const fresh: Done[] = [];
    const taken = () => fresh.splice(0);
    const conversation = perform(steps, data!, context, deliveries.doneOf(delivery.id), each => fresh.push(each));
    const passesOver = ({ callId }: Ask) => steps.find(each => each.call.id === callId)?.call.whenFailed === 'passOver';
    let next = conversation.next();
    if (next.done) {
      const end = stateAtEnd(next.value);
      await this.#stored(() => deliveries.finish(delivery.id, end, fresh));
    }
    while (!next.done) {
      const ask = next.value;
      const { verdict, told, record } = await askTarget(this.parts.courier, route!, ask, {
        submissionId: delivery.submissionId,
        data: data!,
        idempotencyKey: delivery.idempotencyKey,
        side: 'live',
      });
      const attempt = { ...record, deliveryId: delivery.id, number };
      const until = tryUntil ?? record.startedAt + hours * HOUR;
      // However long the target asks to be left alone, there is a last try when the time is over.
      const left = until - now();
      const pause = Math.min(left, pauseBefore(tried, verdict.retryAfter));
      const again = verdict.outcome === 'retry' && left > 0;
      const goesOn = verdict.outcome === 'delivered' || ask.purpose === 'readBack' || (passesOver(ask) && !again);
      if (!goesOn) {
        const state = again ? waitingAgain(verdict, pause, until) : givenUp(verdict, tried);
        const done = taken();
        return void (await this.#stored(() => deliveries.recordAttempt(attempt, state, done)));
      }
      tryUntil = null;
      next = conversation.next(told);
      const state = next.done ? stateAtEnd(next.value) : {};
      const done = taken();
      await this.#stored(() => deliveries.recordAttempt(attempt, { tryUntil, ...state }, done));
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

/** To be tried again after so many ms, as long as that is before a time. */
const waitingAgain = ({ message }: Verdict, pause: number, tryUntil: number): Partial<DeliveryRow> => ({
  state: 'waiting',
  reason: message,
  nextAttemptAt: now() + pause,
  tryUntil,
});

function givenUp({ outcome, message }: Verdict, tried: number): Partial<DeliveryRow> {
  const reason = outcome === 'retry' ? `Given up after ${tried} ${tried === 1 ? 'try' : 'tries'}. ${message}` : message;
  return { state: 'dead', reason, finishedAt: now(), nextAttemptAt: null };
}
