import type { Way } from '@grammata/core/decode';
import { and, asc, count, desc, eq, gte, isNull, lt, min, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import type { Database } from './database';
import { arrivalBodies } from './ledgerSchema';
import { arrivals, submissions, type forms } from './schema';

/** Submissions of one arrival whose identifiers are held against those of others. */
const MOST_COMPARED = 500;

export type ArrivalRow = typeof arrivals.$inferSelect;
export type SubmissionRow = typeof submissions.$inferSelect;
export type FormRow = typeof forms.$inferSelect;

/** An arrival with its body, or the beginning of one that lies in a file of its own. */
export interface ReceivedArrival extends ArrivalRow {
  body: Buffer;
}

/** An arrival as lists show it: without its body and headers. */
export type ArrivalHead = Omit<
  ArrivalRow,
  'headers' | 'url' | 'digest' | 'checked' | 'sender' | 'cut' | 'aside' | 'tries' | 'ended' | 'lane' | 'readingRevision'
>;

/** What the index of those that are not read has to be asked with (SQLite, “Partial Indexes”). */
export const isOpen = `state IN ('waiting', 'reading', 'unread')`;

/** What stands for the method of an arrival that a person uploaded as a file, that was read from a feed, that came by mail. */
export const UPLOADED = 'FILE';
export const FEED = 'FEED';
export const MAIL = 'MAIL';

const head = {
  id: arrivals.id,
  intakeId: arrivals.intakeId,
  receivedAt: arrivals.receivedAt,
  method: arrivals.method,
  contentType: arrivals.contentType,
  size: arrivals.size,
  state: arrivals.state,
  trouble: arrivals.trouble,
  unsure: arrivals.unsure,
  way: arrivals.way,
  found: arrivals.found,
  repeats: arrivals.repeats,
  formId: arrivals.formId,
  about: arrivals.about,
};

/** Arrivals of the same millisecond are in the order of their identifiers. */
const earlierThan = ({ id, receivedAt }: Pick<ArrivalRow, 'id' | 'receivedAt'>) =>
  or(lt(arrivals.receivedAt, receivedAt), and(eq(arrivals.receivedAt, receivedAt), lt(arrivals.id, id)));

/** Arrivals by which it is known how those of an intake are read, and ways that are kept in mind. */
const [LATEST_WAYS, MOST_WAYS] = [50, 5];

const nameOf = ({ reader, answersAt, splitAt }: Way): string => JSON.stringify([reader, answersAt, splitAt]);

export const isSameWay = (one: Way, other: Way): boolean => nameOf(one) === nameOf(other);

/** The first of each way. */
export const differentWays = (ways: Way[]): Way[] =>
  [...new Map(ways.map(each => [nameOf(each), each] as const).reverse()).values()].reverse().slice(0, MOST_WAYS);

/** Requests as they came, and the submissions read out of them. */
export class Arrivals {
  constructor(private readonly db: Database) {}

  byId(id: string): ArrivalRow | undefined {
    return this.db.select().from(arrivals).where(eq(arrivals.id, id)).get();
  }

  /** The body of an arrival, or the beginning of one that lies in a file of its own. */
  bodyOf(id: string): Buffer {
    const row = this.db
      .select({ body: arrivalBodies.body })
      .from(arrivalBodies)
      .where(eq(arrivalBodies.arrivalId, id))
      .get();
    return row?.body ?? Buffer.alloc(0);
  }

  has(id: string): boolean {
    return this.db.select({ id: arrivals.id }).from(arrivals).where(eq(arrivals.id, id)).get() !== undefined;
  }

  /** The newest arrivals, of one intake or all, before another one; without their bodies. */
  list({ intakeId, before, limit }: { intakeId?: string; before?: string; limit: number }): ArrivalHead[] {
    const of = intakeId ? eq(arrivals.intakeId, intakeId) : undefined;
    const last = before === undefined ? undefined : this.#timeOf(before);
    return this.db
      .select(head)
      .from(arrivals)
      .where(and(of, last && earlierThan(last)))
      .orderBy(desc(arrivals.receivedAt), desc(arrivals.id))
      .limit(limit)
      .all();
  }

  #timeOf(id: string): Pick<ArrivalRow, 'id' | 'receivedAt'> | undefined {
    return this.db
      .select({ id: arrivals.id, receivedAt: arrivals.receivedAt })
      .from(arrivals)
      .where(eq(arrivals.id, id))
      .get();
  }

  headOf(id: string): ArrivalHead | undefined {
    return this.db.select(head).from(arrivals).where(eq(arrivals.id, id)).get();
  }

  /** Messages that nothing could be made of: how many, and the newest. */
  unreadable(): { count: number; newest: ArrivalHead | undefined } {
    const unread = and(eq(arrivals.state, 'unread'), sql.raw(isOpen));
    return {
      count: this.db.select({ n: count() }).from(arrivals).where(unread).get()!.n,
      newest: this.db.select(head).from(arrivals).where(unread).orderBy(desc(arrivals.receivedAt)).limit(1).get(),
    };
  }

  /** The requests of an intake that were taken, newest first, before a time and id. */
  recorded(intakeId: string, limit: number, before?: Pick<ArrivalRow, 'id' | 'receivedAt'>): ArrivalRow[] {
    const earlier = before && earlierThan(before);
    return this.db
      .select()
      .from(arrivals)
      .where(and(eq(arrivals.intakeId, intakeId), ne(arrivals.state, 'refused'), earlier))
      .orderBy(desc(arrivals.receivedAt), desc(arrivals.id))
      .limit(limit)
      .all();
  }

  recordedCount(intakeId: string): number {
    const kept = and(eq(arrivals.intakeId, intakeId), ne(arrivals.state, 'refused'));
    return this.db.select({ n: count() }).from(arrivals).where(kept).get()!.n;
  }

  countSince(time: number): number {
    return this.db.select({ n: count() }).from(arrivals).where(gte(arrivals.receivedAt, time)).get()!.n;
  }

  /** When the oldest message of an intake came, ms since the epoch; null where there is none. */
  firstAt(intakeId: string): number | null {
    return (
      this.db
        .select({ at: min(arrivals.receivedAt) })
        .from(arrivals)
        .where(eq(arrivals.intakeId, intakeId))
        .get()?.at ?? null
    );
  }

  /** How many an intake received from one time on and before another, ms since the epoch. */
  countBetween(intakeId: string, from: number, before: number): number {
    return this.db
      .select({ n: count() })
      .from(arrivals)
      .where(and(eq(arrivals.intakeId, intakeId), gte(arrivals.receivedAt, from), lt(arrivals.receivedAt, before)))
      .get()!.n;
  }

  /** The submissions of an arrival in their order, so many at most. */
  submissionsOf(arrivalId: string, limit: number): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(eq(submissions.arrivalId, arrivalId))
      .orderBy(asc(submissions.position))
      .limit(limit)
      .all();
  }

  /** How messages of an intake were read for sure, the latest first, each way once. */
  waysOf(intakeId: string, before = Infinity): Way[] {
    const rows = this.db
      .select({ way: arrivals.way })
      .from(arrivals)
      .where(
        and(
          eq(arrivals.intakeId, intakeId),
          sql`${arrivals.way} <> 'null'`,
          before === Infinity ? undefined : lt(arrivals.receivedAt, before),
        ),
      )
      .orderBy(desc(arrivals.receivedAt))
      .limit(LATEST_WAYS)
      .all();
    return differentWays(rows.flatMap(({ way }) => way ?? []));
  }

  /**
   * An identifier that submissions of an arrival share with others that say something else, and how many say so; null for none among the
   * first so many.
   */
  sharing(arrivalId: string): { id: string; submissions: number } | null {
    const others = alias(submissions, 'others');
    const row = this.db
      .select({ id: submissions.builderId, n: sql<number>`count(DISTINCT ${others.id})` })
      .from(submissions)
      .innerJoin(
        others,
        and(
          eq(others.formId, submissions.formId),
          eq(others.builderId, submissions.builderId),
          ne(others.id, submissions.id),
          isNull(others.repeatOf),
        ),
      )
      .where(
        and(
          eq(submissions.arrivalId, arrivalId),
          lt(submissions.position, MOST_COMPARED),
          isNull(submissions.repeatOf),
        ),
      )
      .groupBy(submissions.builderId)
      .limit(1)
      .get();
    return row?.id ? { id: row.id, submissions: row.n } : null;
  }

  /** The arrival that a submission came with; null where there is no such submission. */
  arrivalOf(submissionId: string): string | null {
    return (
      this.db.select({ id: submissions.arrivalId }).from(submissions).where(eq(submissions.id, submissionId)).get()
        ?.id ?? null
    );
  }

  submission(id: string): SubmissionRow | undefined {
    return this.db.select().from(submissions).where(eq(submissions.id, id)).get();
  }
}
