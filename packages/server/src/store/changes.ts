import { and, count, desc, eq, gte, inArray } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import { changes, isTraffic, type ChangeState } from './changesSchema';
import type { Database } from './database';
import { arrivals, submissions } from './schema';
import type { SubmissionRow } from './arrivals';

export { isTraffic, type ChangeState, type TrafficChange } from './changesSchema';
export type ChangeRow = typeof changes.$inferSelect;
export type SeenChange = Pick<ChangeRow, 'subject' | 'subjectId' | 'what' | 'before' | 'after'> & { at: number };

/** A submission with how the message that it came in was built. */
export interface BuiltRow extends Pick<SubmissionRow, 'id' | 'data' | 'receivedAt'> {
  contentType: string | null;
  way: (typeof arrivals.$inferSelect)['way'];
}

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

  openCount(): number {
    return this.db.select({ n: count() }).from(changes).where(eq(changes.state, 'open')).get()!.n;
  }

  /** Keeps what was seen; gives those that were not known. One that was settled or declined stays so. */
  keep(seen: readonly SeenChange[]): ChangeRow[] {
    return this.db.transaction(tx =>
      seen.flatMap(({ subject, subjectId, what, before, after, at }) => {
        const print = printOf(what);
        const is = and(eq(changes.subject, subject), eq(changes.subjectId, subjectId), eq(changes.print, print));
        const known = tx.select({ id: changes.id }).from(changes).where(is).get();
        if (known) {
          tx.update(changes).set({ lastAt: now() }).where(eq(changes.id, known.id)).run();
          return [];
        }
        return [
          tx
            .insert(changes)
            .values({ id: newId(), subject, subjectId, print, what, before, after, firstAt: at, lastAt: now() })
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

  /** The newest submissions of a form, newest first, with how their messages were built. */
  built(formId: string, limit: number): BuiltRow[] {
    return this.db
      .select({
        id: submissions.id,
        data: submissions.data,
        receivedAt: submissions.receivedAt,
        contentType: arrivals.contentType,
        way: arrivals.way,
      })
      .from(submissions)
      .innerJoin(arrivals, eq(arrivals.id, submissions.arrivalId))
      .where(eq(submissions.formId, formId))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
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
    change.startsWith('option') || change === 'replaced' || change.includes('renamed') || change.includes('moved');
  // Each silence, and each flood, is one of its own, however long it lasts.
  return JSON.stringify([
    ...(isTraffic(what) ? [was ?? null] : []),
    change,
    ...about,
    ...(tellsApart || change === 'reworded' ? [was ?? null, is ?? null] : []),
  ]);
};
