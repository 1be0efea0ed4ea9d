import { foresee, perform, usualPace, type Ask, type Done, type Ending } from '@grammata/core/perform';
import type { Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import type { RouteDefinition } from '@grammata/core/route';
import type { Logger } from 'pino';
import { now } from '../clock';
import type { Ledger, LeasedDelivery, Next, Settlement, Want } from '../ledger';
import { newId } from '../ids';
import type { Vault } from '../access';
import type { LiveHub } from '../live';
import type { OutwardFault } from '../outward';
import type { StorageHealth } from '../storage';
import type { DeliveryRow, RunningRoute, Store } from '../store';
import type { Timer, Timers } from '../timing';
import { askTarget } from './asking';
import { afterTry, pauseBefore } from './backoff';
import { storedDone, keptDone } from './storedDone';
import type { Courier } from './courier';
import type { Breakers } from './layers';
import { Preparation, sideOf, type PreparedRoute } from './prepare';

/** Longest sleep, in ms: a clock that was set back does not stop it for long. */
const LONGEST_SLEEP = 30_000;
/** ms by which the clock may be off the machine's own before what waits is moved with it. */
const DRIFT = 2000;
/** ms before what is due is looked for again where that failed. */
const PAUSE = 2000;
/** ms before it is looked again while deliveries are under way, whose end wakes it anyhow. */
const WHILE_BUSY = 1000;
/** ms for which a delivery is leased, and after which that is renewed. */
const LEASE = 60_000;
const RENEWAL = 20_000;
/** Deliveries of a target taken up for each request that it takes at once: the next ones are at hand. */
const AHEAD = 6;
/** Deliveries whose answer is there and not yet on disk, for each that is under way: with more, nothing new is taken up. */
const UNSETTLED = 8;

export interface DriverParts {
  store: Store;
  ledger: Ledger;
  vault: Pick<Vault, 'mask' | 'wrap' | 'unwrap'>;
  courier: Courier;
  breakers: Breakers;
  live: LiveHub;
  health: StorageHealth;
  timers: Timers;
  log: Logger;
  /** Deliveries under way at once. */
  concurrency: number;
  /** A target answered, or did not. */
  heard(targetId: string): void;
  /** A submission's delivery has ended, or waits. */
  settled(submissionId: string): void;
  /** Why a delivery is held for a change of its form; null where it goes. */
  heldForChange(delivery: DeliveryRow, definition: RouteDefinition, data: Submission): Promise<Problem | null>;
}

/** Sends what is due. At least once: what a crash interrupted is sent again under its idempotency key. */
export class DeliveryDriver {
  readonly preparation: Preparation;
  readonly #owner = newId();
  /** What is under way until its outcome is on disk. */
  readonly #underWay = new Map<string, Promise<void>>();
  /** What waits for a target's answer, with the target that it counts for. */
  readonly #asking = new Map<string, string>();
  #timer: Timer | null = null;
  #renewal: Timer | null = null;
  #isLooking = false;
  #isWoken = false;
  #isStopped = false;
  /** The clock and the machine's own, which nobody sets, when they were last looked at. */
  #clocks = { wall: now(), own: performance.now() };

  constructor(private readonly parts: DriverParts) {
    this.preparation = new Preparation(parts.store);
  }

  start(): void {
    const { store, ledger, timers } = this.parts;
    this.#renewal = timers.every('renewing leases', RENEWAL, () => this.#renew());
    void timers.run('starting to send', async () => {
      await this.#stored(() => ledger.reclaim(this.#owner));
      await this.#followClock(store.deliveries.latestTime() - now());
      this.wake();
    });
  }

  /** Looks for due deliveries soon. Never throws. */
  wake(): void {
    this.#isWoken = true;
    if (this.#isLooking || this.#isStopped) return;
    this.#isLooking = true;
    this.parts.timers.soon('looking for what is due', async () => {
      while (this.#isWoken && !this.#isStopped) {
        this.#isWoken = false;
        await this.#takeUp();
      }
      this.#isLooking = false;
    });
  }

  /** Ends after the deliveries under way; nothing new is begun. */
  async stop(): Promise<void> {
    this.#isStopped = true;
    this.#timer?.stop();
    await Promise.all(this.#underWay.values());
    this.#renewal?.stop();
  }

  async #takeUp(): Promise<void> {
    const { store, ledger, health, breakers, log } = this.parts;
    try {
      await this.#followClock(this.#clocks.wall + (performance.now() - this.#clocks.own) - now());
      const routes = store.routes.running().filter(each => each.state === 'live');
      const wants = this.#wants(routes);
      const open = routes.filter(each => breakers.room(firstTarget(each)) > 0);
      const { deliveries, nextAt } = await ledger.lease({
        owner: this.#owner,
        wants,
        most: wants.length > 0 ? this.#free() : 0,
        until: now() + LEASE,
        routeIds: open.map(each => each.id),
      });
      for (const delivery of deliveries) if (!this.#underWay.has(delivery.id)) this.#begin(delivery);
      health.fine();
      this.#sleepUntil(nextAt);
    } catch (error) {
      if (this.#isStopped) return;
      if (!health.failed(error)) log.error({ err: error }, 'what is due could not be fetched');
      this.#sleepFor(PAUSE);
    }
  }

  /** How many more may be under way. */
  #free(): number {
    const { concurrency } = this.parts;
    return this.#underWay.size > UNSETTLED * concurrency ? 0 : concurrency - this.#asking.size;
  }

  /** For each target how many deliveries are wanted, and of which routes. */
  #wants(routes: readonly RunningRoute[]): Want[] {
    const { store, breakers, concurrency } = this.parts;
    const byTarget = new Map<string, string[]>();
    for (const route of routes) {
      const targetId = firstTarget(route);
      byTarget.set(targetId, [...(byTarget.get(targetId) ?? []), route.id]);
    }
    const free = this.#free();
    const busyAt = new Map<string, number>();
    for (const targetId of this.#asking.values()) busyAt.set(targetId, (busyAt.get(targetId) ?? 0) + 1);
    return [...byTarget].flatMap(([targetId, routeIds]): Want[] => {
      const pace = store.targets.byId(targetId)?.pace ?? usualPace;
      const busy = busyAt.get(targetId) ?? 0;
      const most = Math.min(breakers.room(targetId), AHEAD * pace.concurrency, concurrency);
      const room = Math.min(free, most - busy);
      // A few at a time: not one by one as each of the others ends.
      if (room <= 0 || (busy > 0 && room < most / 2)) return [];
      return [{ routeIds, room }];
    });
  }

  #begin(delivery: LeasedDelivery): void {
    const version = this.parts.store.routes.version(delivery.versionId);
    this.#asking.set(delivery.id, version?.definition.calls[0]?.targetId ?? '');
    const ended = this.parts.timers
      .run('a delivery', () => this.#deliver(delivery))
      .then(() => {
        this.#answered(delivery.id);
        this.#underWay.delete(delivery.id);
      });
    this.#underWay.set(delivery.id, ended);
  }

  /** Its lane is free as its last answer is there; what came of it is stored while the next goes out. */
  #answered(id: string): void {
    if (this.#asking.delete(id)) this.wake();
  }

  /** A clock that was set back by so many ms takes what waits along: it is due as long from now as it was. */
  async #followClock(back: number): Promise<void> {
    this.#clocks = { wall: now(), own: performance.now() };
    if (back <= DRIFT) return;
    this.parts.log.warn({ seconds: Math.round(back / 1000) }, 'the clock was set back; what waits is moved with it');
    await this.parts.ledger.shiftWaiting(-Math.round(back));
  }

  /**
   * Until something falls due that may be sent, or a parked target is to be probed. What is due and has no room yet is taken
   * up as room is made: then whatever else falls due is looked for once in a while.
   */
  #sleepUntil(nextAt: number | null): void {
    const times = [nextAt, this.parts.breakers.nextProbe()].filter(each => each !== null);
    if (times.length === 0) return this.#timer?.stop();
    const least = this.#asking.size > 0 ? WHILE_BUSY : 0;
    this.#sleepFor(Math.min(LONGEST_SLEEP, Math.max(least, Math.min(...times) - now())));
  }

  #sleepFor(milliseconds: number): void {
    this.#timer?.stop();
    this.#timer = this.parts.timers.later('looking for what is due', milliseconds, () => this.wake());
  }

  async #renew(): Promise<void> {
    if (this.#underWay.size === 0) return;
    try {
      await this.parts.ledger.renew({ owner: this.#owner, until: now() + LEASE });
    } catch (error) {
      if (!this.parts.health.failed(error)) throw error;
    }
  }

  /** Stores something, again and again while the disk is full. */
  async #stored(write: () => Promise<void>): Promise<void> {
    for (;;) {
      try {
        await write();
        return this.parts.health.fine();
      } catch (error) {
        if (this.#isStopped || !this.parts.health.failed(error)) throw error;
        await this.parts.timers.pause(PAUSE);
      }
    }
  }

  async #deliver(delivery: LeasedDelivery): Promise<void> {
    const { live, log, health, ledger } = this.parts;
    const { id, routeId, submissionId } = delivery;
    let state: Next['state'] = 'sending';
    const settle: Settle = async outcome => {
      if (outcome.next.state !== 'sending') this.#answered(id);
      const settlement: Settlement = { id, owner: this.#owner, ...this.#kept(outcome) };
      await this.#stored(async () => void (await ledger.settle([settlement])));
      state = outcome.next.state;
    };
    try {
      const submission = JSON.parse(delivery.data) as Submission;
      const { route, data, problems } = this.preparation.prepare(delivery, submission);
      const changed = delivery.attempts === 0 ? await this.#changedFor(delivery, submission) : null;
      if (problems.length > 0 || changed || !route || !data)
        await settle({ attempt: null, done: [], next: ended(delivery, 'held', changed ? [changed] : problems) });
      else await this.#attempt(delivery, route, data, settle);
    } catch (error) {
      // What can't be stored when the server stops is sent again at its next start, under the same key.
      if (this.#isStopped && health.failed(error)) return;
      log.error({ err: error, delivery: id }, 'a delivery failed inside');
      const reason = `Internal error: ${(error as Error).message}`;
      await settle({ attempt: null, done: [], next: { ...ended(delivery, 'dead', []), reason } }).catch(
        (fault: unknown) => log.error({ err: fault, delivery: id }, 'the end of a delivery could not be stored'),
      );
    }
    live.publish({ type: 'delivery', routeId, deliveryId: id, state });
    this.parts.settled(submissionId);
  }

  /** What came of a try, as it is kept: without secrets; what later calls use is sealed. */
  #kept({ attempt, done, next }: Outcome): Omit<Settlement, 'id' | 'owner'> {
    const { vault } = this.parts;
    const reason = next.reason === null ? null : vault.mask(next.reason);
    return { attempt, done: done.map(each => keptDone(each, vault)), next: { ...next, reason } };
  }

  async #changedFor(delivery: DeliveryRow, submission: Submission): Promise<Problem | null> {
    const version = this.parts.store.routes.version(delivery.versionId);
    return version ? this.parts.heldForChange(delivery, version.definition, submission) : null;
  }

  /** What files of later calls lack, before the first is made: half a delivery is worse than none. */
  async #lacking(
    { submissionId }: DeliveryRow,
    { stages, context, others }: PreparedRoute,
    data: Submission,
  ): Promise<OutwardFault | null> {
    if (stages.length < 2) return null;
    const [first] = stages;
    const later = stages
      .filter(each => each !== first && each.call.whenFailed !== 'passOver')
      .map(each => each.call.id);
    const sideOfTarget = (id: string) => {
      const row = others(id);
      return row ? { ...sideOf(row, 'live'), name: row.name } : null;
    };
    for (const { callId, planned } of foresee(stages, data, context).requests) {
      if (!later.includes(callId) || planned.request.files.length === 0) continue;
      const fault = await this.parts.courier.filesFault(planned.request, { submissionId, data, sideOf: sideOfTarget });
      // What may pass is seen when its turn has come.
      if (fault?.code === 'file') return fault;
    }
    return null;
  }

  /** One try: every call that is not done yet, in order, until one of them fails. */
  async #attempt(delivery: LeasedDelivery, route: PreparedRoute, data: Submission, settle: Settle): Promise<void> {
    const { store, courier } = this.parts;
    const { stages, context } = route;
    const { hours } = store.routes.version(delivery.versionId)!.definition.terms;
    const fresh: Done[] = [];
    const taken = () => fresh.splice(0);
    const earlier = delivery.done.map(each => storedDone(each, this.parts.vault));
    const lacking = delivery.attempts === 0 && earlier.length === 0 ? await this.#lacking(delivery, route, data) : null;
    if (lacking)
      return settle({
        attempt: null,
        done: [],
        next: ended(delivery, 'held', [new Problem('file.lost', lacking.message, null)]),
      });
    const conversation = perform(stages, data, context, earlier, each => fresh.push(each));
    let at: Progress = { ...delivery };
    let next = conversation.next();
    if (next.done) return settle({ attempt: null, done: taken(), next: atEnd(at, next.value) });
    while (!next.done) {
      const ask: Ask = next.value;
      const { verdict, told, record, retry, passesOver } = await askTarget(courier, route, ask, {
        submissionId: delivery.submissionId,
        data,
        idempotencyKey: delivery.idempotencyKey,
        side: 'live',
      });
      this.parts.heard(ask.targetId);
      // It was not made, and counts as no try.
      if (verdict.notBefore !== null)
        return settle({ attempt: null, done: taken(), next: waiting(at, verdict.message, verdict.notBefore) });
      const number = delivery.attempts + 1;
      // Whoever asks is not known, or its target is parked: it says nothing of this request, and counts as no try.
      const isParked = this.parts.breakers.parked(ask.targetId) !== null;
      if (verdict.isUnknown || (record.status === 403 && isParked && ask.purpose !== 'readBack')) {
        const pause = pauseBefore(number, null);
        const then = waiting({ ...at, attempts: number }, verdict.message, now() + pause);
        return settle({ attempt: { ...record, deliveryId: delivery.id, number }, done: taken(), next: then });
      }
      const attempt = { ...record, deliveryId: delivery.id, number };
      const tries = at.tries + 1;
      const { left, spentBy } = afterTry(at.spent, record.milliseconds, hours);
      const again = verdict.outcome === 'retry' && left > 0 && (retry.tries === null || tries < retry.tries);
      const goesOn = verdict.outcome === 'delivered' || ask.purpose === 'readBack' || (passesOver && !again);
      if (!goesOn) {
        // However long the target asks to be left alone, there is a last try when the time is over.
        const pause = Math.min(left, pauseBefore(tries, verdict.retryAfter));
        at = { attempts: number, tries, spent: spentBy(pause) };
        const reason =
          verdict.outcome === 'retry'
            ? `Failed after ${tries} ${tries === 1 ? 'attempt' : 'attempts'}. ${verdict.message}`
            : verdict.message;
        const then = again ? waiting(at, verdict.message, now() + pause) : { ...ended(at, 'dead', []), reason };
        return settle({ attempt, done: taken(), next: then });
      }
      // The next request has tries and time of its own.
      at = { attempts: number, tries: 0, spent: 0 };
      next = conversation.next(told);
      const then: Next = next.done
        ? atEnd(at, next.value)
        : { ...at, state: 'sending', reason: null, nextAttemptAt: null, finishedAt: null };
      await settle({ attempt, done: taken(), next: then });
    }
  }
}

/** The target that a route's deliveries count for. */
const firstTarget = ({ version }: Pick<RunningRoute, 'version'>): string => version.definition.calls[0]!.targetId;

/** How far a delivery is. */
type Progress = Pick<Next, 'attempts' | 'tries' | 'spent'>;

/** Stores what became of a delivery. */
type Settle = (outcome: Outcome) => Promise<void>;

/** What became of a try, before secrets are taken out of it. */
interface Outcome extends Pick<Settlement, 'attempt' | 'next'> {
  done: Done[];
}

const progressOf = ({ attempts, tries, spent }: Progress): Progress => ({ attempts, tries, spent });

const ended = (at: Progress, state: Next['state'], problems: readonly Problem[]): Next => ({
  ...progressOf(at),
  state,
  reason: problems.length === 0 ? null : problems.map(problem => problem.message).join(' '),
  nextAttemptAt: null,
  finishedAt: now(),
});

const waiting = (at: Progress, reason: string, nextAttemptAt: number): Next => ({
  ...progressOf(at),
  state: 'waiting',
  reason,
  nextAttemptAt,
  finishedAt: null,
});

/** Delivered, or held where a call could not be made. */
function atEnd(at: Progress, ending: Ending): Next {
  if ('held' in ending) return ended(at, 'held', ending.held);
  const failed = ending.done.filter(each => each.what === 'failed').map(each => each.note);
  return { ...ended(at, 'delivered', []), reason: failed.length === 0 ? null : `Skipped: ${failed.join(' ')}` };
}
