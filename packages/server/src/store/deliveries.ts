import type { DeliveryState } from '@grammata/contract';
import type { Done } from '@grammata/core/perform';
import type { Submission } from '@grammata/core/submission';
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
  isNotNull,
  lt,
  max,
  ne,
  or,
  sql,
  type SQL,
  lte,
} from 'drizzle-orm';
import { iso } from '../clock';
import type { Database } from './database';
import { attempts, callsDone, deliveries, submissions, versions } from './schema';
import { isOneOf, likePattern, MOST_SEARCHED, says, wordsIn } from './texts';

export type { StoredDone } from './schema';

export type DeliveryRow = typeof deliveries.$inferSelect;
export type AttemptRow = typeof attempts.$inferSelect;

export type HeldDelivery = Pick<DeliveryRow, 'id' | 'versionId' | 'reason'> & { data: Submission };
export type DeliveredDelivery = Pick<DeliveryRow, 'id' | 'versionId' | 'about'> & { data: Submission };

const DAY = 86_400_000;
/** Submissions of one arrival whose deliveries are shown with it. */
const MOST_OF_ARRIVAL = 2000;
/** Deliveries that a list finds by what keeps them, as many as submissions that hold the words. */
const MOST_KEPT = MOST_SEARCHED;

export interface DeliveryFilter {
  state?: DeliveryState;
  routeId?: string;
  /** Of versions that call it. */
  targetId?: string;
  arrivalId?: string;
  /** Begun from the one on, and before the other; ISO 8601. */
  since?: string;
  until?: string;
  search?: string;
  /** Only among these. */
  ids?: readonly string[];
  /** None that began after this one; or none that began before it, and not itself. */
  upTo?: string;
  after?: string;
}

/** What is to be sent, was sent, or could not be. */
export class Deliveries {
  constructor(private readonly db: Database) {}

  byId(id: string): DeliveryRow | undefined {
    return this.db.select().from(deliveries).where(eq(deliveries.id, id)).get();
  }

  /** The deliveries of an arrival's first submissions, so many at most. */
  ofArrival(arrivalId: string, limit: number): DeliveryRow[] {
    return this.db
      .select(getTableColumns(deliveries))
      .from(submissions)
      .innerJoin(deliveries, eq(deliveries.submissionId, submissions.id))
      .where(and(eq(submissions.arrivalId, arrivalId), lt(submissions.position, MOST_OF_ARRIVAL)))
      .orderBy(asc(submissions.position), asc(deliveries.createdAt))
      .limit(limit)
      .all();
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

  /** The calls of a delivery that are done. */
  doneOf(deliveryId: string): Done[] {
    const rows = this.db
      .select({ done: callsDone.done })
      .from(callsDone)
      .where(eq(callsDone.deliveryId, deliveryId))
      .orderBy(sql`rowid`)
      .all();
    return rows.map(({ done: { sealed: _, ...done } }) => done);
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

  /** What a call of a route was answered with a success status where it wrote, the newest first, as it is recorded. */
  responses(routeId: string, callId: string, limit: number): string[] {
    return this.db
      .select({ response: attempts.response })
      .from(attempts)
      .innerJoin(deliveries, eq(deliveries.id, attempts.deliveryId))
      .where(
        and(
          eq(deliveries.routeId, routeId),
          eq(attempts.callId, callId),
          inArray(attempts.purpose, ['create', 'update']),
          gte(attempts.status, 200),
          lt(attempts.status, 300),
          isNotNull(attempts.response),
        ),
      )
      .orderBy(desc(deliveries.createdAt))
      .limit(limit)
      .all()
      .flatMap(({ response }) => response ?? []);
  }

  attemptsOf(deliveryId: string): AttemptRow[] {
    return this.db
      .select()
      .from(attempts)
      .where(eq(attempts.deliveryId, deliveryId))
      .orderBy(asc(attempts.number), asc(attempts.id))
      .all();
  }

  /** The last delivery of each of these submissions on a route. */
  lastOf(routeId: string, submissionIds: readonly string[]): Map<string, DeliveryRow> {
    const rows = this.db
      .select()
      .from(deliveries)
      .where(and(eq(deliveries.routeId, routeId), inArray(deliveries.submissionId, [...submissionIds])))
      .orderBy(asc(deliveries.run))
      .all();
    return new Map(rows.map(row => [row.submissionId, row]));
  }

  /** Those that match, oldest first, after another one. */
  alike(filter: DeliveryFilter, limit: number, after?: Pick<DeliveryRow, 'createdAt' | 'id'>): DeliveryRow[] {
    const isLater =
      after &&
      or(
        gt(deliveries.createdAt, after.createdAt),
        and(eq(deliveries.createdAt, after.createdAt), gt(deliveries.id, after.id)),
      );
    return this.db
      .select()
      .from(deliveries)
      .where(and(matching(filter), isLater))
      .orderBy(asc(deliveries.createdAt), asc(deliveries.id))
      .limit(limit)
      .all();
  }

  /** The identifier of the newest; null where there is none. */
  newest(): string | null {
    return (
      this.db
        .select({ id: max(deliveries.id) })
        .from(deliveries)
        .get()?.id ?? null
    );
  }

  /** How many of a route wait to be sent. */
  waitingOn(routeId: string): number {
    return this.db
      .select({ n: count() })
      .from(deliveries)
      .where(and(eq(deliveries.routeId, routeId), eq(deliveries.state, 'waiting')))
      .get()!.n;
  }

  /** Deliveries of these submissions, and the newest that are kept by what holds the words of a search; for lists. */
  holding(submissionIds: readonly string[], search: string): { ids: string[]; isAll: boolean } {
    const among = (where: SQL) => this.db.select({ id: deliveries.id }).from(deliveries).where(where);
    const bySubmission = among(isOneOf(deliveries.submissionId, submissionIds)).all();
    const kept = among(isKept(wordsIn(search)))
      .orderBy(desc(deliveries.createdAt))
      .limit(MOST_KEPT + 1)
      .all();
    const ids = [...bySubmission, ...kept.slice(0, MOST_KEPT)].map(each => each.id);
    return { ids: [...new Set(ids)], isAll: kept.length <= MOST_KEPT };
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
      total: this.countOf(filter),
    };
  }

  /** How many match. */
  countOf(filter: DeliveryFilter): number {
    return this.db.select({ n: count() }).from(deliveries).where(matching(filter)).get()!.n;
  }

  /** How many that match otherwise are in each state. */
  counts(filter: DeliveryFilter = {}): Record<DeliveryState, number> {
    const rows = this.db
      .select({ state: deliveries.state, n: count() })
      .from(deliveries)
      .where(matching({ ...filter, state: undefined }))
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

  /** How many are in some states, of which few are: those that are done are not counted one by one. */
  countIn(states: readonly DeliveryState[]): number {
    return this.db
      .select({ n: count() })
      .from(deliveries)
      .where(inArray(deliveries.state, [...states]))
      .get()!.n;
  }

  /** The newest held ones of a route since a time, with what was to be sent. */
  heldSince(routeId: string, since: number, limit: number): HeldDelivery[] {
    return this.db
      .select({ id: deliveries.id, versionId: deliveries.versionId, reason: deliveries.reason, data: submissions.data })
      .from(deliveries)
      .innerJoin(submissions, eq(submissions.id, deliveries.submissionId))
      .where(matching({ state: 'held', routeId, since: iso(since) }))
      .orderBy(desc(deliveries.createdAt))
      .limit(limit)
      .all();
  }

  /** The first of a route that were delivered since a time, each submission by its newest, with what was to be sent. */
  deliveredSince(routeId: string, since: number, limit: number): DeliveredDelivery[] {
    return this.db
      .select({ id: deliveries.id, versionId: deliveries.versionId, about: deliveries.about, data: submissions.data })
      .from(deliveries)
      .innerJoin(submissions, eq(submissions.id, deliveries.submissionId))
      .where(
        and(
          matching({ state: 'delivered', routeId, since: iso(since) }),
          sql`not exists (select 1 from deliveries o where o.route_id = ${deliveries.routeId}
            and o.submission_id = ${deliveries.submissionId} and o.run > ${deliveries.run} and o.state = 'delivered')`,
        ),
      )
      .orderBy(asc(deliveries.createdAt))
      .limit(limit)
      .all();
  }

  /** A route's deliveries held for one reason that began before a time, the oldest first, with what was to be sent; those behind one of them. */
  heldWith(routeId: string, reason: string, until: number, after: string | null, limit: number): HeldDelivery[] {
    const held = matching({ state: 'held', routeId, until: iso(until), ...(after !== null && { after }) });
    return this.db
      .select({ id: deliveries.id, versionId: deliveries.versionId, reason: deliveries.reason, data: submissions.data })
      .from(deliveries)
      .innerJoin(submissions, eq(submissions.id, deliveries.submissionId))
      .where(and(held, eq(deliveries.reason, reason)))
      .orderBy(asc(deliveries.id))
      .limit(limit)
      .all();
  }

  /** How long a route's newest delivered ones took that began from one time on and before another, in ms. */
  durations(routeId: string, from: number, before: number, limit: number): number[] {
    return this.db
      .select({ ms: sql<number>`${deliveries.finishedAt} - ${deliveries.createdAt}` })
      .from(deliveries)
      .where(
        and(
          eq(deliveries.routeId, routeId),
          gte(deliveries.createdAt, from),
          lt(deliveries.createdAt, before),
          sql`+${deliveries.state} = 'delivered'`,
        ),
      )
      .orderBy(desc(deliveries.createdAt))
      .limit(limit)
      .all()
      .map(each => each.ms);
  }

  /** Why deliveries are held or dead: what most are for first. */
  reasons(limit: number): { routeId: string; state: 'held' | 'dead'; reason: string; count: number }[] {
    const rows = this.db
      .select({ routeId: deliveries.routeId, state: deliveries.state, reason: deliveries.reason, count: count() })
      .from(deliveries)
      .where(inArray(deliveries.state, ['held', 'dead']))
      .groupBy(deliveries.routeId, deliveries.state, deliveries.reason)
      .orderBy(desc(count()), asc(deliveries.reason))
      .limit(limit)
      .all();
    return rows.map(row => ({ ...row, state: row.state as 'held' | 'dead', reason: row.reason ?? '' }));
  }

  /** Delivered and troubled by UTC day since a time. */
  perDay(since: number): { day: string; delivered: number; held: number; failed: number }[] {
    // Whole days since the epoch: quicker to tell than dates, row by row.
    const day = sql<number>`${deliveries.createdAt} / ${sql.raw(String(DAY))}`;
    return this.db
      .select({
        day,
        delivered: sql<number>`sum(${deliveries.state} = 'delivered')`,
        held: sql<number>`sum(${deliveries.state} = 'held')`,
        failed: sql<number>`sum(${deliveries.state} = 'dead')`,
      })
      .from(deliveries)
      .where(gte(deliveries.createdAt, since))
      .groupBy(day)
      .orderBy(day)
      .all()
      .map(row => ({ ...row, day: iso(row.day * DAY).slice(0, 10) }));
  }
}

function matching({
  state,
  routeId,
  targetId,
  arrivalId,
  since,
  until,
  search,
  ids,
  upTo,
  after,
}: DeliveryFilter): SQL | undefined {
  const words = wordsIn(search);
  return and(
    ids && isOneOf(deliveries.id, ids),
    state ? eq(deliveries.state, state) : undefined,
    routeId ? eq(deliveries.routeId, routeId) : undefined,
    targetId ? inArray(deliveries.versionId, callingVersions(targetId)) : undefined,
    arrivalId
      ? sql`${deliveries.submissionId} in (select id from submissions where arrival_id = ${arrivalId})`
      : undefined,
    since ? gte(deliveries.createdAt, Date.parse(since)) : undefined,
    until ? lt(deliveries.createdAt, Date.parse(until)) : undefined,
    // Identifiers are in the order in which deliveries began.
    upTo ? lte(deliveries.id, upTo) : undefined,
    after ? gt(deliveries.id, after) : undefined,
    words.length === 0 ? undefined : or(says(deliveries.submissionId, search!), isKept(words)),
  );
}

/** What keeps a delivery says all of the words. */
const isKept = (words: readonly string[]): SQL =>
  and(
    sql`${deliveries.reason} is not null`,
    sql`+${deliveries.state} in ('held', 'dead', 'waiting')`,
    ...words.map(word => sql`${deliveries.reason} like ${likePattern(word)} escape '\\'`),
  )!;

/** Versions one of whose calls goes to a target. */
const callingVersions = (targetId: string) =>
  sql`(select ${versions.id} from ${versions}, json_each(${versions.definition}, '$.calls') as call
    where json_extract(call.value, '$.targetId') = ${targetId})`;
