import type { DeliveryState } from '@grammata/contract';
import type { Done } from '@grammata/core/perform';
import {
  and,
  asc,
  count,
  desc,
  eq,
  getTableColumns,
  gt,
  gte,
  inArray,
  lte,
  max,
  min,
  ne,
  or,
  sql,
  type SQL,
} from 'drizzle-orm';
import { iso, now } from '../clock';
import { newId } from '../ids';
import type { Database } from './database';
import { attempts, callsDone, deliveries, routes, submissions, versions } from './schema';

export type DeliveryRow = typeof deliveries.$inferSelect;
export type AttemptRow = typeof attempts.$inferSelect;

const DAY = 86_400_000;

export interface DeliveryFilter {
  state?: DeliveryState;
  routeId?: string;
  search?: string;
}

/** The statements that run for every delivery, made once. */
const deliveryStatements = (db: Database) => ({
  live: db.select({ id: routes.id }).from(routes).where(eq(routes.state, 'live')).prepare(),
  due: db
    .select({ id: deliveries.id, at: deliveries.nextAttemptAt })
    .from(deliveries)
    .where(
      and(
        eq(deliveries.routeId, sql.placeholder('routeId')),
        eq(deliveries.state, 'waiting'),
        lte(deliveries.nextAttemptAt, sql.placeholder('at')),
      ),
    )
    .orderBy(asc(deliveries.nextAttemptAt))
    .limit(sql.placeholder('limit'))
    .prepare(),
  next: db
    .select({ at: min(deliveries.nextAttemptAt) })
    .from(deliveries)
    .where(and(eq(deliveries.routeId, sql.placeholder('routeId')), eq(deliveries.state, 'waiting')))
    .prepare(),
});

/** What is to be sent, was sent, or could not be. */
export class Deliveries {
  readonly #prepared: ReturnType<typeof deliveryStatements>;

  constructor(private readonly db: Database) {
    this.#prepared = deliveryStatements(db);
  }

  /** Queues a submission on a route; null when that was done before. */
  queue(
    values: Pick<DeliveryRow, 'routeId' | 'versionId' | 'submissionId' | 'about'> & {
      run?: number;
      createdAt?: number;
    },
  ): DeliveryRow | null {
    const { run = 1, createdAt = now(), ...rest } = values;
    const id = newId();
    const row = {
      ...rest,
      run,
      id,
      state: 'waiting' as const,
      idempotencyKey: `${values.submissionId}-${values.routeId}-${run}`,
      createdAt,
      nextAttemptAt: createdAt,
      attempts: 0,
      attemptsBefore: 0,
      tryUntil: null,
    };
    return this.db.insert(deliveries).values(row).onConflictDoNothing().returning().get() ?? null;
  }

  byId(id: string): DeliveryRow | undefined {
    return this.db.select().from(deliveries).where(eq(deliveries.id, id)).get();
  }

  /** The deliveries of an arrival's submissions, so many at most. */
  ofArrival(arrivalId: string, limit: number): DeliveryRow[] {
    return this.db
      .select(getTableColumns(deliveries))
      .from(submissions)
      .innerJoin(deliveries, eq(deliveries.submissionId, submissions.id))
      .where(eq(submissions.arrivalId, arrivalId))
      .orderBy(asc(submissions.position), asc(deliveries.createdAt))
      .limit(limit)
      .all();
  }

  /** Takes due deliveries of live routes, the longest due first, and marks them as being sent. */
  claim(limit: number): DeliveryRow[] {
    const due = this.#live()
      .flatMap(routeId => this.#prepared.due.all({ routeId, at: now(), limit }))
      .sort((a, b) => a.at! - b.at!)
      .slice(0, limit);
    if (due.length === 0) return [];
    return this.db.transaction(tx =>
      due.map(({ id }) =>
        tx.update(deliveries).set({ state: 'sending' }).where(eq(deliveries.id, id)).returning().get(),
      ),
    );
  }

  /** When the next delivery of a live route is due; null when none waits. */
  nextDue(): number | null {
    const times = this.#live().flatMap(routeId => this.#prepared.next.get({ routeId })?.at ?? []);
    return times.length === 0 ? null : Math.min(...times);
  }

  /** Routes whose deliveries are sent: what waits on others is not looked at, however much it is. */
  #live(): string[] {
    return this.#prepared.live.all().map(each => each.id);
  }

  /** What a crash left as being sent waits again; its idempotency key stays. */
  recover(): void {
    this.db
      .update(deliveries)
      .set({ state: 'waiting', nextAttemptAt: now() })
      .where(eq(deliveries.state, 'sending'))
      .run();
  }

  /** The latest time that anything here was begun at: a clock that says earlier was set back. */
  latestTime(): number {
    return (
      this.db
        .select({
          at: sql<number>`max(coalesce((SELECT max(created_at) FROM deliveries), 0), coalesce((SELECT max(started_at) FROM attempts WHERE id = (SELECT max(id) FROM attempts)), 0))`,
        })
        .from(sql`(SELECT 1)`)
        .get()?.at ?? 0
    );
  }

  /** Moves everything that waits by so many ms, as the clock was moved. */
  shiftWaiting(by: number): void {
    const moved = (column: typeof deliveries.nextAttemptAt | typeof deliveries.tryUntil) => sql`${column} + ${by}`;
    this.db
      .update(deliveries)
      .set({ nextAttemptAt: moved(deliveries.nextAttemptAt), tryUntil: moved(deliveries.tryUntil) })
      .where(and(eq(deliveries.state, 'waiting'), gt(deliveries.nextAttemptAt, now())))
      .run();
  }

  update(id: string, values: Partial<DeliveryRow>): DeliveryRow | undefined {
    return this.db.update(deliveries).set(values).where(eq(deliveries.id, id)).returning().get();
  }

  /** Stores an attempt together with what it did to its delivery, and the calls that are done with it. */
  recordAttempt(attempt: Omit<AttemptRow, 'id'>, delivery: Partial<DeliveryRow>, done: Done[]): void {
    this.db.transaction(tx => {
      tx.insert(attempts)
        .values({ id: newId(attempt.startedAt), ...attempt })
        .run();
      keepDone(tx, attempt.deliveryId, done);
      tx.update(deliveries)
        .set({ ...delivery, attempts: attempt.number })
        .where(eq(deliveries.id, attempt.deliveryId))
        .run();
    });
  }

  /** Ends a delivery for which no request was made. */
  finish(id: string, values: Partial<DeliveryRow>, done: Done[]): void {
    this.db.transaction(tx => {
      keepDone(tx, id, done);
      tx.update(deliveries).set(values).where(eq(deliveries.id, id)).run();
    });
  }

  /** The calls of a delivery that are done. */
  doneOf(deliveryId: string): Done[] {
    const rows = this.db
      .select({ done: callsDone.done })
      .from(callsDone)
      .where(eq(callsDone.deliveryId, deliveryId))
      .orderBy(sql`rowid`)
      .all();
    return rows.map(row => row.done);
  }

  /** What targets had against single values of a route's submissions, the newest first. */
  refusals(routeId: string, limit: number): (Pick<AttemptRow, 'callId' | 'complaints' | 'startedAt'> & DeliveryRow)[] {
    return this.db
      .select({ delivery: deliveries, attempt: attempts })
      .from(attempts)
      .innerJoin(deliveries, eq(deliveries.id, attempts.deliveryId))
      .where(and(eq(deliveries.routeId, routeId), eq(deliveries.state, 'dead'), ne(attempts.complaints, [])))
      .orderBy(desc(attempts.startedAt))
      .limit(limit)
      .all()
      .map(({ delivery, attempt }) => ({ ...attempt, ...delivery }));
  }

  attemptsOf(deliveryId: string): AttemptRow[] {
    return this.db
      .select()
      .from(attempts)
      .where(eq(attempts.deliveryId, deliveryId))
      .orderBy(asc(attempts.number), asc(attempts.id))
      .all();
  }

  /** Waits again at once. The tries start anew, the idempotency key stays. */
  again(row: DeliveryRow, versionId: string): void {
    this.update(row.id, {
      state: 'waiting',
      versionId,
      nextAttemptAt: now(),
      finishedAt: null,
      reason: null,
      attemptsBefore: row.attempts,
      tryUntil: null,
    });
  }

  lastRun(routeId: string, submissionId: string): number {
    return (
      this.db
        .select({ run: max(deliveries.run) })
        .from(deliveries)
        .where(and(eq(deliveries.routeId, routeId), eq(deliveries.submissionId, submissionId)))
        .get()?.run ?? 0
    );
  }

  page(
    filter: DeliveryFilter,
    offset: number,
    limit: number,
  ): { rows: (DeliveryRow & { version: number })[]; total: number } {
    const where = matching(filter);
    // The rows that are passed over are told from the index alone.
    const ids = this.db
      .select({ id: deliveries.id })
      .from(deliveries)
      .where(where)
      .orderBy(desc(deliveries.createdAt), desc(deliveries.id))
      .offset(offset)
      .limit(limit);
    const rows = this.db
      .select({ delivery: deliveries, version: versions.number })
      .from(deliveries)
      .innerJoin(versions, eq(versions.id, deliveries.versionId))
      .where(inArray(deliveries.id, ids))
      .orderBy(desc(deliveries.createdAt), desc(deliveries.id))
      .all();
    return {
      rows: rows.map(row => ({ ...row.delivery, version: row.version })),
      total: this.db.select({ n: count() }).from(deliveries).where(where).get()!.n,
    };
  }

  /** How many are in each state, for one route or all. */
  counts(filter: Omit<DeliveryFilter, 'state'> = {}): Record<DeliveryState, number> {
    const rows = this.db
      .select({ state: deliveries.state, n: count() })
      .from(deliveries)
      .where(matching(filter))
      .groupBy(deliveries.state)
      .all();
    return {
      waiting: 0,
      sending: 0,
      delivered: 0,
      held: 0,
      dead: 0,
      ...Object.fromEntries(rows.map(row => [row.state, row.n])),
    };
  }

  /** Delivered and troubled by UTC day since a time. */
  perDay(since: number): { day: string; delivered: number; troubled: number }[] {
    // Whole days since the epoch: quicker to tell than dates, row by row.
    const day = sql<number>`${deliveries.createdAt} / ${sql.raw(String(DAY))}`;
    return this.db
      .select({
        day,
        delivered: sql<number>`sum(${deliveries.state} = 'delivered')`,
        troubled: sql<number>`sum(${deliveries.state} in ('dead', 'held'))`,
      })
      .from(deliveries)
      .where(gte(deliveries.createdAt, since))
      .groupBy(day)
      .orderBy(day)
      .all()
      .map(row => ({ ...row, day: iso(row.day * DAY).slice(0, 10) }));
  }
}

/** Keeps what became of calls; what is known later of one, such as its reading back, takes the place of what was. */
function keepDone(db: Pick<Database, 'insert'>, deliveryId: string, all: Done[]): void {
  for (const done of all)
    db.insert(callsDone)
      .values({ deliveryId, callId: done.callId, item: done.item, done })
      .onConflictDoUpdate({ target: [callsDone.deliveryId, callsDone.callId, callsDone.item], set: { done } })
      .run();
}

function matching({ state, routeId, search }: DeliveryFilter): SQL | undefined {
  const text = search?.trim() ? `%${search.trim().replace(/[\\%_]/g, '\\$&')}%` : null;
  const contains = (column: typeof deliveries.about | typeof deliveries.reason) =>
    sql`${column} like ${text} escape '\\'`;
  return and(
    state ? eq(deliveries.state, state) : undefined,
    routeId ? eq(deliveries.routeId, routeId) : undefined,
    text ? or(contains(deliveries.about), contains(deliveries.reason)) : undefined,
  );
}
