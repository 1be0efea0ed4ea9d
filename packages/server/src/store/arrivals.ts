import { createHash } from 'node:crypto';
import type { Way } from '@grammata/core/decode';
import type { Submission } from '@grammata/core/submission';
import {
  and,
  asc,
  count,
  desc,
  eq,
  gte,
  inArray,
  isNotNull,
  isNull,
  lt,
  ne,
  notExists,
  notInArray,
  or,
  sql,
} from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import { arrivalStatements } from './arrivalStatements';
import { unhurried, type Database } from './database';
import { arrivals, deliveries, forms, submissions } from './schema';

export type ArrivalRow = typeof arrivals.$inferSelect;
export type SubmissionRow = typeof submissions.$inferSelect;
export type FormRow = typeof forms.$inferSelect;

/** An arrival as lists show it: without its body and headers. */
export type ArrivalHead = Omit<
  ArrivalRow,
  'body' | 'headers' | 'url' | 'digest' | 'checked' | 'sender' | 'cut' | 'aside' | 'tries' | 'ended'
>;

/** What an arrival was read as. */
export interface Reading {
  state: ArrivalRow['state'];
  trouble: string | null;
  /** False where the reading is to be looked at by a person. */
  isSure?: boolean;
  /** How it was read, where that is sure. */
  way?: Way | null;
  submissions: Submission[];
}

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

/** What stands for the identifier of a feed's item that has none: the same answers are the same item. */
export const contentId = ({ fields, files }: Submission): string =>
  `same:${createHash('sha256')
    .update(JSON.stringify([fields.map(each => [each.key, each.value]), files]))
    .digest('base64url')}`;

/** Arrivals by which it is known how those of an intake are read, and ways that are kept in mind. */
const [LATEST_WAYS, MOST_WAYS] = [50, 5];

const nameOf = ({ reader, answersAt, splitAt }: Way): string => JSON.stringify([reader, answersAt, splitAt]);

export const isSameWay = (one: Way, other: Way): boolean => nameOf(one) === nameOf(other);

/** The first of each way. */
export const differentWays = (ways: Way[]): Way[] =>
  [...new Map(ways.map(each => [nameOf(each), each] as const).reverse()).values()].reverse().slice(0, MOST_WAYS);

/** Requests as they came, and the submissions read out of them. */
export class Arrivals {
  readonly #prepared: ReturnType<typeof arrivalStatements>;

  constructor(private readonly db: Database) {
    this.#prepared = arrivalStatements(db);
  }

  /** Stores requests in one transaction; when this returns they are on disk. */
  record(rows: ArrivalRow[]): void {
    this.db.transaction(() => rows.forEach(row => this.#prepared.insertArrival.run({ ...row })));
  }

  byId(id: string): ArrivalRow | undefined {
    return this.db.select().from(arrivals).where(eq(arrivals.id, id)).get();
  }

  has(id: string): boolean {
    return this.db.select({ id: arrivals.id }).from(arrivals).where(eq(arrivals.id, id)).get() !== undefined;
  }

  /** Not read yet, oldest first: what a crash left behind, too. */
  unread(limit: number): ArrivalRow[] {
    return this.#prepared.unread.all({ limit });
  }

  /** One that the server ended over before: it is read alone, after all others. */
  suspect(): ArrivalRow | undefined {
    return this.#prepared.suspect.get();
  }

  /** Marks arrivals as being read: whatever ends the server now shows at its next start. */
  markReading(ids: string[]): void {
    unhurried(this.db, () => ids.forEach(id => this.#prepared.setState.run({ id, state: 'reading' })));
  }

  /** Has everything wait again that is being read, but for what is named: the server ends as it should, or had no room. */
  releaseReading(except: ReadonlySet<string>): void {
    this.db
      .update(arrivals)
      .set({ state: 'waiting' })
      .where(and(eq(arrivals.state, 'reading'), notInArray(arrivals.id, [...except])))
      .run();
  }

  /** Has arrivals wait again that could not be stored. */
  markWaiting(ids: string[]): void {
    unhurried(this.db, () => ids.forEach(id => this.#prepared.setState.run({ id, state: 'waiting' })));
  }

  /**
   * What was being read when the server ended waits again, to be read alone; what was being read at two ends is set
   * aside. Gives back how many were.
   */
  recover(): number {
    return this.db.transaction(tx => {
      const caught = eq(arrivals.state, 'reading');
      const trouble =
        'It was being read both times when Grammata ended, and may have ended it. It is read again only when you ask.';
      const aside = tx
        .update(arrivals)
        .set({ state: 'unread', trouble, ended: true })
        .where(and(caught, gte(arrivals.tries, 1)))
        .returning({ id: arrivals.id })
        .all();
      tx.update(arrivals)
        .set({ state: 'waiting', tries: sql`tries + 1` })
        .where(caught)
        .run();
      return aside.length;
    });
  }

  /** Sets an arrival aside whose reading had to be ended. */
  setAside(id: string, trouble: string): void {
    this.db.update(arrivals).set({ state: 'unread', trouble, ended: true }).where(eq(arrivals.id, id)).run();
  }

  /** Has an arrival read once more because a person asks; false when there is none that could not be read. */
  readAgain(id: string): boolean {
    const unread = and(eq(arrivals.id, id), eq(arrivals.state, 'unread'));
    const rows = this.db
      .update(arrivals)
      .set({ state: 'waiting', tries: 0, trouble: null, ended: false })
      .where(unread)
      .returning({ id: arrivals.id })
      .all();
    return rows.length > 0;
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
    const unread = eq(arrivals.state, 'unread');
    return {
      count: this.db.select({ n: count() }).from(arrivals).where(unread).get()!.n,
      newest: this.db.select(head).from(arrivals).where(unread).orderBy(desc(arrivals.receivedAt)).limit(1).get(),
    };
  }

  /** How many of a feed's submissions were not seen at this intake before. */
  unseenOf(intakeId: string, list: Submission[]): number {
    const ids = [...new Set(list.map(each => each.id ?? contentId(each)))];
    const seen = new Set<string>();
    for (let from = 0; from < ids.length; from += 500) {
      const portion = inArray(submissions.builderId, ids.slice(from, from + 500));
      this.db
        .select({ id: submissions.builderId })
        .from(submissions)
        .innerJoin(forms, eq(forms.id, submissions.formId))
        .where(and(eq(forms.intakeId, intakeId), portion))
        .all()
        .forEach(row => seen.add(row.id!));
    }
    return ids.filter(id => !seen.has(id)).length;
  }

  hasDigest(intakeId: string, digest: string): boolean {
    const same = and(eq(arrivals.intakeId, intakeId), eq(arrivals.digest, digest));
    return this.db.select({ id: arrivals.id }).from(arrivals).where(same).get() !== undefined;
  }

  /** The recorded requests of an intake that were not refused, newest first, before a time and id. */
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

  /**
   * Deletes what arrived before a time, but for what is kept, named, or not yet delivered; so many at most, so that others
   * get their turn. Gives back which went.
   */
  removeBefore(intakeId: string, time: number, most: number): string[] {
    const unfinished = this.db
      .select({ id: submissions.id })
      .from(submissions)
      .innerJoin(deliveries, eq(deliveries.submissionId, submissions.id))
      .where(
        and(eq(submissions.arrivalId, arrivals.id), inArray(deliveries.state, ['waiting', 'sending', 'held', 'dead'])),
      );
    const kept = this.db
      .select({ id: submissions.id })
      .from(submissions)
      .where(and(eq(submissions.arrivalId, arrivals.id), or(eq(submissions.kept, true), isNotNull(submissions.name))));
    const gone = this.db
      .select({ id: arrivals.id })
      .from(arrivals)
      .where(
        and(
          eq(arrivals.intakeId, intakeId),
          lt(arrivals.receivedAt, time),
          notInArray(arrivals.state, ['waiting', 'reading']),
          notExists(unfinished),
          notExists(kept),
        ),
      )
      .limit(most);
    return this.db
      .delete(arrivals)
      .where(inArray(arrivals.id, gone))
      .returning({ id: arrivals.id })
      .all()
      .map(each => each.id);
  }

  countSince(time: number): number {
    return this.db.select({ n: count() }).from(arrivals).where(gte(arrivals.receivedAt, time)).get()!.n;
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

  /** An identifier that submissions of an arrival share with others that say something else, and how many say so; null for none. */
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
      .where(and(eq(submissions.arrivalId, arrivalId), isNull(submissions.repeatOf)))
      .groupBy(submissions.builderId)
      .limit(1)
      .get();
    return row?.id ? { id: row.id, submissions: row.n } : null;
  }

  /** The places of the submissions of an arrival that are stored. */
  positionsOf(arrivalId: string): Set<number> {
    const rows = this.db
      .select({ position: submissions.position })
      .from(submissions)
      .where(eq(submissions.arrivalId, arrivalId))
      .all();
    return new Set(rows.map(each => each.position));
  }

  submission(id: string): SubmissionRow | undefined {
    return this.#prepared.submission.get({ id });
  }
}
