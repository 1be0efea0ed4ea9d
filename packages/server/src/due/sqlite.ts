import { and, asc, eq, gt, inArray, isNotNull, lte, min, ne, or, sql } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import { unhurried, type Database, type DeliveryRow } from '../store';
import { allOf, given } from '../store/placeholders';
import { attempts, callsDone, deliveries } from '../store/schema';
import type { DueDeliveries, NewDelivery, Settlement, Want } from './port';

const isDue = and(
  eq(deliveries.routeId, sql.placeholder('routeId')),
  eq(deliveries.state, 'waiting'),
  lte(deliveries.nextAttemptAt, sql.placeholder('at')),
);
/** Leased by another who did not renew in time. What is one's own is under way, however long that takes. */
const isAbandoned = and(
  isNotNull(deliveries.leaseUntil),
  lte(deliveries.leaseUntil, sql.placeholder('at')),
  ne(deliveries.leaseOwner, sql.placeholder('owner')),
);

/** The statements that run for every delivery, made once. On one connection they belong to whatever transaction is open. */
function statementsOn(db: Database) {
  const due = db
    .select({ id: deliveries.id })
    .from(deliveries)
    .where(isDue)
    .orderBy(asc(deliveries.nextAttemptAt), sql`rowid`)
    .limit(sql.placeholder('room') as never);
  return {
    enqueue: db.insert(deliveries).values(allOf(deliveries)).onConflictDoNothing().returning().prepare(),
    lease: db
      .update(deliveries)
      .set({ state: 'sending', leaseOwner: given('owner'), leaseUntil: given('until') })
      .where(inArray(deliveries.id, due))
      .returning()
      .prepare(),
    abandoned: db
      .update(deliveries)
      .set({ state: 'waiting', leaseOwner: null, leaseUntil: null, nextAttemptAt: given('at') })
      .where(isAbandoned)
      .prepare(),
    renew: db
      .update(deliveries)
      .set({ leaseUntil: given('until') })
      .where(and(eq(deliveries.leaseOwner, sql.placeholder('owner')), eq(deliveries.state, 'sending')))
      .prepare(),
    attempt: db.insert(attempts).values(allOf(attempts)).prepare(),
    done: db
      .insert(callsDone)
      .values(allOf(callsDone))
      .onConflictDoUpdate({
        target: [callsDone.deliveryId, callsDone.callId, callsDone.item],
        set: { done: sql`excluded.done` },
      })
      .prepare(),
    settle: db
      .update(deliveries)
      .set({
        state: given('state'),
        reason: given('reason'),
        attempts: given('attempts'),
        tries: given('tries'),
        tryUntil: given('tryUntil'),
        nextAttemptAt: given('nextAttemptAt'),
        finishedAt: given('finishedAt'),
        leaseOwner: sql`CASE WHEN ${sql.placeholder('state')} = 'sending' THEN lease_owner END` as never,
        leaseUntil: sql`CASE WHEN ${sql.placeholder('state')} = 'sending' THEN lease_until END` as never,
      })
      .where(and(eq(deliveries.id, sql.placeholder('id')), eq(deliveries.leaseOwner, sql.placeholder('owner'))))
      .returning({ id: deliveries.id })
      .prepare(),
    next: db
      .select({ at: min(deliveries.nextAttemptAt) })
      .from(deliveries)
      .where(and(eq(deliveries.routeId, sql.placeholder('routeId')), eq(deliveries.state, 'waiting')))
      .prepare(),
  };
}

/** What is due, kept in the database of everything else: it is queued in the transaction that stores the submission. */
export class SqliteDue implements DueDeliveries {
  readonly #run: ReturnType<typeof statementsOn>;
  #turn = 0;

  constructor(private readonly db: Database) {
    this.#run = statementsOn(db);
  }

  enqueue(wanted: readonly NewDelivery[]): DeliveryRow[] {
    return wanted.flatMap(({ run = 1, createdAt = now(), routeId, versionId, submissionId, about }) => {
      const row: DeliveryRow = {
        id: newId(),
        routeId,
        versionId,
        submissionId,
        about,
        run,
        state: 'waiting',
        idempotencyKey: `${submissionId}-${routeId}-${run}`,
        createdAt,
        nextAttemptAt: createdAt,
        finishedAt: null,
        reason: null,
        attempts: 0,
        tries: 0,
        tryUntil: null,
        leaseOwner: null,
        leaseUntil: null,
      };
      return this.#run.enqueue.all(row);
    });
  }

  // A lease that is lost in a crash of the machine is no loss: what it held waits.
  async lease(owner: string, wants: readonly Want[], most: number, until: number): Promise<DeliveryRow[]> {
    const at = now();
    const leased: DeliveryRow[] = [];
    unhurried(this.db, () => {
      this.#run.abandoned.run({ at, owner });
      this.#turn += 1;
      for (const { routeIds, room } of this.#inTurn(wants)) {
        const end = Math.min(most, leased.length + room);
        for (const routeId of this.#inTurn(routeIds))
          if (leased.length < end)
            leased.push(...this.#run.lease.all({ routeId, room: end - leased.length, at, owner, until }));
      }
    });
    return leased.sort(byTheirTime);
  }

  /** None is always the first to be asked. */
  #inTurn<T>(all: readonly T[]): T[] {
    const from = all.length === 0 ? 0 : this.#turn % all.length;
    return [...all.slice(from), ...all.slice(0, from)];
  }

  async renew(owner: string, until: number): Promise<void> {
    unhurried(this.db, () => this.#run.renew.run({ owner, until }));
  }

  async settle(owner: string, settlements: readonly Settlement[]): Promise<void> {
    this.db.transaction(() => {
      for (const { id, attempt, done, next } of settlements) {
        const isOurs = this.#run.settle.all({ id, owner, ...next }).length > 0;
        if (!isOurs) continue;
        if (attempt) this.#run.attempt.run({ id: newId(attempt.startedAt), ...attempt });
        for (const each of done)
          this.#run.done.run({ deliveryId: id, callId: each.callId, item: each.item, done: each });
      }
    });
  }

  async nextDue(routeIds: readonly string[]): Promise<number | null> {
    const times = routeIds.flatMap(routeId => this.#run.next.get({ routeId })?.at ?? []);
    return times.length === 0 ? null : Math.min(...times);
  }

  async hasten(routeIds: readonly string[]): Promise<void> {
    const at = now();
    this.db
      .update(deliveries)
      .set({ nextAttemptAt: at })
      .where(
        and(
          inArray(deliveries.routeId, [...routeIds]),
          eq(deliveries.state, 'waiting'),
          gt(deliveries.nextAttemptAt, at),
        ),
      )
      .run();
  }

  async reclaim(owner: string): Promise<void> {
    this.db
      .update(deliveries)
      .set({ state: 'waiting', nextAttemptAt: now(), leaseOwner: null, leaseUntil: null })
      .where(
        and(
          eq(deliveries.state, 'sending'),
          or(sql`${deliveries.leaseOwner} IS NULL`, ne(deliveries.leaseOwner, owner)),
        ),
      )
      .run();
  }
}

const byTheirTime = (a: DeliveryRow, b: DeliveryRow): number =>
  (a.nextAttemptAt ?? 0) - (b.nextAttemptAt ?? 0) || (a.id < b.id ? -1 : 1);
