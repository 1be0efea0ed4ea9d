import { and, asc, count, desc, eq, gte, inArray, lt, lte, or, sql } from 'drizzle-orm';
import { now } from '../clock';
import { causeOf, reasonOf } from '@grammata/core/drift';
import { asText } from '@grammata/core/submission';
import { newId } from '../ids';
import { changes, isOfAnswers, isTraffic, type ChangeState, type HoldDecision } from './changesSchema';
import type { Database } from './database';
import { arrivals, attempts, callsDone, deliveries, submissions } from './schema';
import { unrepeated } from './forms';
import type { SubmissionRow } from './arrivals';
import { isOneOf } from './texts';

export { isOfAnswers, isTraffic, type ChangeState, type TrafficChange } from './changesSchema';
export type ChangeRow = typeof changes.$inferSelect;
export type SeenChange = Pick<ChangeRow, 'subject' | 'subjectId' | 'what' | 'before' | 'after'> & {
  at: number;
  asBeforeAt?: number | null;
};

/** A submission with how the message that it came in was built. */
export interface BuiltRow extends Pick<SubmissionRow, 'id' | 'receivedAt'> {
  /** The submission as JSON. */
  data: string;
  contentType: string | null;
  way: (typeof arrivals.$inferSelect)['way'];
}

/** One request that was made for a delivery, with what became of its call. */
export interface AnsweredRow extends Pick<
  typeof attempts.$inferSelect,
  'deliveryId' | 'callId' | 'purpose' | 'startedAt' | 'outcome' | 'status' | 'message' | 'complaints' | 'response'
> {
  versionId: string;
  done: (typeof callsDone.$inferSelect)['done'] | null;
}

/** A delivery that failed, with what was to be sent and what was answered last. */
export interface FailedRow extends Pick<
  typeof attempts.$inferSelect,
  'callId' | 'purpose' | 'outcome' | 'status' | 'message' | 'complaints'
> {
  id: string;
  versionId: string;
  data: SubmissionRow['data'];
}

/** Who settled a change that is over without anybody. */
const ITSELF = 'itself';

/** Newest requests of all routes among which those of some are looked for. */
const MOST_SCANNED = 4000;

/** ms before a time in which what failed after it may have been made. */
const LONGEST_TRIED = 14 * 86_400_000;

/** Changes seen in forms and targets. */
export class Changes {
  constructor(private readonly db: Database) {}

  /** Those that are told, the newest first. */
  list(limit: number): ChangeRow[] {
    return this.db.select().from(changes).orderBy(desc(changes.firstAt), desc(changes.id)).limit(limit).all();
  }

  byId(id: string): ChangeRow | undefined {
    return this.db.select().from(changes).where(eq(changes.id, id)).get();
  }

  /** Open ones of a form or a target, the oldest first. */
  openOf(subject: ChangeRow['subject'], subjectId: string): ChangeRow[] {
    return this.db
      .select()
      .from(changes)
      .where(and(eq(changes.subject, subject), eq(changes.subjectId, subjectId), eq(changes.state, 'open')))
      .orderBy(changes.firstAt)
      .all();
  }

  /** Open ones of a submission's form that began with it or before. */
  openFor(submissionId: string): ChangeRow[] {
    return this.db
      .select({ change: changes })
      .from(submissions)
      .innerJoin(
        changes,
        and(
          eq(changes.subject, 'form'),
          eq(changes.subjectId, submissions.formId),
          eq(changes.state, 'open'),
          lte(changes.firstAt, submissions.receivedAt),
        ),
      )
      .where(eq(submissions.id, submissionId))
      .all()
      .map(each => each.change);
  }

  /** All of a form or a target, whatever was decided. */
  of(subject: ChangeRow['subject'], subjectId: string): ChangeRow[] {
    return this.db
      .select()
      .from(changes)
      .where(and(eq(changes.subject, subject), eq(changes.subjectId, subjectId)))
      .all();
  }

  /** How many are open; those that are one cause count once. */
  openCount(): number {
    const { id, subject, subjectId, what, state, firstAt } = changes;
    const told = this.db.select({ id, subject, subjectId, what, state, firstAt }).from(changes);
    return new Set(told.where(eq(state, 'open')).all().map(causeOf)).size;
  }

  /**
   * Keeps what was seen; gives those that were not known, or that were over by themselves and began again since. One that somebody settled or
   * declined stays so.
   */
  keep(seen: readonly SeenChange[]): ChangeRow[] {
    return this.db.transaction(tx =>
      seen.flatMap(({ subject, subjectId, what, before, after, at, asBeforeAt = null }) => {
        const print = printOf(what);
        const is = and(eq(changes.subject, subject), eq(changes.subjectId, subjectId), eq(changes.print, print));
        const known = tx.select().from(changes).where(is).get();
        if (known) {
          const again = known.state === 'settled' && known.by === ITSELF && at > (known.settledAt ?? 0);
          const anew = {
            state: 'open' as const,
            by: null,
            settledAt: null,
            firstAt: at,
            asBeforeAt,
            before,
            after,
            decided: {},
          };
          const set = { lastAt: now(), ...(again && anew) };
          const row = tx.update(changes).set(set).where(eq(changes.id, known.id)).returning().get();
          return again ? [row!] : [];
        }
        return [
          tx
            .insert(changes)
            .values({
              ...{ id: newId(), subject, subjectId, print, what, before, after },
              ...{ firstAt: at, asBeforeAt, lastAt: now() },
            })
            .returning()
            .get(),
        ];
      }),
    );
  }

  settle(id: string, state: ChangeState, by: string): ChangeRow | undefined {
    const at = state === 'open' ? null : now();
    return this.db
      .update(changes)
      .set({ state, by: at === null ? null : by, settledAt: at })
      .where(eq(changes.id, id))
      .returning()
      .get();
  }

  /** Settles those that are open: they are over by themselves. */
  over(ids: readonly string[]): ChangeRow[] {
    return this.db
      .update(changes)
      .set({ state: 'settled', by: ITSELF, settledAt: now() })
      .where(and(inArray(changes.id, [...ids]), eq(changes.state, 'open')))
      .returning()
      .all();
  }

  /** Changes of forms that hold nothing any more for a route at least: decided so while they are open, or over by themselves since a time. */
  letGo(since: number): ChangeRow[] {
    const isDecided = and(eq(changes.state, 'open'), sql`${changes.decided} like '%"deliver"%'`);
    const isOver = and(eq(changes.state, 'settled'), eq(changes.by, ITSELF), gte(changes.settledAt, since));
    return this.db
      .select()
      .from(changes)
      .where(and(eq(changes.subject, 'form'), or(isDecided, isOver)))
      .all();
  }

  /** Says what a change does to what one route sends; undefined where it is not open any more. */
  decide(id: string, routeId: string, decision: HoldDecision): ChangeRow | undefined {
    return this.db.transaction(tx => {
      const isOpen = and(eq(changes.id, id), eq(changes.state, 'open'));
      const row = tx.select().from(changes).where(isOpen).get();
      if (!row) return undefined;
      const decided = { ...row.decided, [routeId]: decision };
      return tx.update(changes).set({ decided }).where(eq(changes.id, id)).returning().get();
    });
  }

  /** The newest submissions of a form, newest first, with how their messages were built; no more than so many bytes of them. */
  built(formId: string, limit: number, most: number): BuiltRow[] {
    // How long a text is in bytes stands in its row: none is read for it, however long it is.
    const newest = this.db
      .select({ id: submissions.id, size: sql<number>`octet_length(${submissions.data})` })
      .from(submissions)
      .where(unrepeated(formId))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .limit(limit)
      .all();
    let [rows, sum] = [0, 0];
    while (rows < newest.length && (rows === 0 || sum + newest[rows]!.size <= most)) sum += newest[rows++]!.size;
    return this.db
      .select({
        id: submissions.id,
        data: sql<string>`${submissions.data}`,
        receivedAt: submissions.receivedAt,
        contentType: arrivals.contentType,
        way: arrivals.way,
      })
      .from(submissions)
      .innerJoin(arrivals, eq(arrivals.id, submissions.arrivalId))
      .where(
        isOneOf(
          submissions.id,
          newest.slice(0, rows).map(each => each.id),
        ),
      )
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .all();
  }

  /** The newest requests that were made for some routes, the newest first. */
  answered(routeIds: readonly string[], limit: number): AnsweredRow[] {
    const newest = this.db.select({ id: attempts.id }).from(attempts).orderBy(desc(attempts.id)).limit(MOST_SCANNED);
    return this.db
      .select({
        deliveryId: attempts.deliveryId,
        callId: attempts.callId,
        purpose: attempts.purpose,
        startedAt: attempts.startedAt,
        outcome: attempts.outcome,
        status: attempts.status,
        message: attempts.message,
        complaints: attempts.complaints,
        response: attempts.response,
        versionId: deliveries.versionId,
        done: callsDone.done,
      })
      .from(attempts)
      .innerJoin(deliveries, eq(deliveries.id, attempts.deliveryId))
      .leftJoin(
        callsDone,
        and(
          eq(callsDone.deliveryId, attempts.deliveryId),
          eq(callsDone.callId, attempts.callId),
          eq(callsDone.item, attempts.item),
        ),
      )
      .where(and(inArray(attempts.id, newest), inArray(deliveries.routeId, [...routeIds])))
      .orderBy(desc(attempts.id))
      .limit(limit)
      .all();
  }

  /** A route's deliveries that failed between two times by what a target answered, the newest first. */
  failedOf(routeId: string, since: number, until: number, limit: number): FailedRow[] {
    return this.db
      .select({
        id: deliveries.id,
        versionId: deliveries.versionId,
        data: submissions.data,
        callId: attempts.callId,
        purpose: attempts.purpose,
        outcome: attempts.outcome,
        status: attempts.status,
        message: attempts.message,
        complaints: attempts.complaints,
      })
      .from(deliveries)
      .innerJoin(submissions, eq(submissions.id, deliveries.submissionId))
      .innerJoin(
        attempts,
        sql`${attempts.id} = (select a.id from attempts a where a.delivery_id = ${deliveries.id} order by a.number desc limit 1)`,
      )
      .where(
        and(
          eq(deliveries.state, 'dead'),
          eq(deliveries.routeId, routeId),
          gte(deliveries.createdAt, since - LONGEST_TRIED),
          gte(deliveries.finishedAt, since),
          lte(deliveries.finishedAt, until),
        ),
      )
      .orderBy(desc(deliveries.createdAt))
      .limit(limit)
      .all();
  }

  /** When the newest submissions of a form came, the newest first; ms since the epoch. */
  times(formId: string, limit: number): number[] {
    return this.db
      .select({ at: submissions.receivedAt })
      .from(submissions)
      .where(eq(submissions.formId, formId))
      .orderBy(desc(submissions.receivedAt))
      .limit(limit)
      .all()
      .map(each => each.at);
  }

  /** The messages with the last submission of a form before a time and the first since, by the arrivals' identifiers. */
  around(formId: string, at: number): { before: string; after: string } | null {
    const one = (when: ReturnType<typeof lt>, order: ReturnType<typeof asc>) =>
      this.db
        .select({ id: submissions.arrivalId })
        .from(submissions)
        .where(and(eq(submissions.formId, formId), when))
        .orderBy(order)
        .limit(1)
        .get()?.id;
    const before = one(lt(submissions.receivedAt, at), desc(submissions.receivedAt));
    const after = one(gte(submissions.receivedAt, at), asc(submissions.receivedAt));
    return before !== undefined && after !== undefined ? { before, after } : null;
  }

  /** How many submissions of a form came since a time. */
  since(formId: string, at: number): number {
    return this.db
      .select({ n: count() })
      .from(submissions)
      .where(and(eq(submissions.formId, formId), gte(submissions.receivedAt, at)))
      .get()!.n;
  }

  /** Forgets the changes of what is removed. */
  forget(subject: ChangeRow['subject'], ids: readonly string[]): void {
    this.db
      .delete(changes)
      .where(and(eq(changes.subject, subject), inArray(changes.subjectId, [...ids])))
      .run();
  }
}

/** The same for the same change. */
const printOf = (what: ChangeRow['what']): string => {
  const { change, was, now: is } = what;
  const about = 'operation' in what ? [what.operation, what.field ?? null] : [what.question];
  const tellsApart =
    change.startsWith('option') ||
    change === 'replaced' ||
    change.includes('renamed') ||
    change.includes('moved') ||
    change === 'scheme';
  // Each silence, each flood and each loss of credentials is one of its own, however long it lasts.
  const episode = isTraffic(what) || change === 'credentials';
  return JSON.stringify([
    ...(episode ? [was ?? null] : []),
    change,
    ...about,
    ...(isOfAnswers(what) && change === 'refused' ? [reasonOf(asText(is ?? null))] : []),
    ...(tellsApart || change === 'reworded' ? [was ?? null, is ?? null] : []),
  ]);
};
