import type { Submission } from '@grammata/core/submission';
import { emptySchema, mergeSchema } from '@grammata/core/schema';
import { and, asc, count, desc, eq, gte, isNull, lt } from 'drizzle-orm';
import { newId } from '../ids';
import type { Database } from './database';
import { arrivals, forms, intakes, submissions } from './schema';

export type ArrivalRow = typeof arrivals.$inferSelect;
export type SubmissionRow = typeof submissions.$inferSelect;
export type FormRow = typeof forms.$inferSelect;

/** What an arrival was read as. */
export interface Reading {
  state: ArrivalRow['state'];
  trouble: string | null;
  submissions: Submission[];
}

/** The form a submission belongs to when the payload names none. */
const UNNAMED_FORM = { key: '', name: 'Unnamed form' };

/** Requests as they came, and the submissions read out of them. */
export class Arrivals {
  constructor(private readonly db: Database) {}

  /** Stores requests in one transaction; when this returns they are on disk. */
  record(rows: ArrivalRow[]): void {
    this.db.transaction(tx => rows.forEach(row => tx.insert(arrivals).values(row).run()));
  }

  byId(id: string): ArrivalRow | undefined {
    return this.db.select().from(arrivals).where(eq(arrivals.id, id)).get();
  }

  /** Not read yet, oldest first: what a crash left behind, too. */
  unread(limit: number): ArrivalRow[] {
    return this.db
      .select()
      .from(arrivals)
      .where(eq(arrivals.state, 'waiting'))
      .orderBy(asc(arrivals.receivedAt))
      .limit(limit)
      .all();
  }

  /**
   * Stores what an arrival was read as, takes its submissions into their forms, and gives them back. What `within` writes
   * belongs to the same transaction: either all of it outlives a crash, or none.
   */
  store(
    arrival: ArrivalRow,
    reading: Reading,
    within: (rows: SubmissionRow[]) => void = () => undefined,
  ): SubmissionRow[] {
    return this.db.transaction(tx => {
      tx.update(arrivals)
        .set({ state: reading.state, trouble: reading.trouble })
        .where(eq(arrivals.id, arrival.id))
        .run();
      const touched = new Map<string, FormRow>();
      const rows = reading.submissions.map((data, position) => {
        const key = data.form?.key ?? UNNAMED_FORM.key;
        const form = touched.get(key) ?? this.#formFor(tx, arrival, data);
        const first =
          data.id === null ? this.#sameBytes(tx, arrival, form.id, position) : this.#sameId(tx, form.id, data.id);
        const row = {
          id: newId(arrival.receivedAt),
          arrivalId: arrival.id,
          formId: form.id,
          position,
          receivedAt: arrival.receivedAt,
          builderId: data.id,
          data,
          repeatOf: first?.id ?? null,
        };
        tx.insert(submissions).values(row).run();
        touched.set(
          key,
          first ? form : { ...form, schema: mergeSchema(form.schema, data), lastAt: arrival.receivedAt },
        );
        return row;
      });
      for (const { id, schema, lastAt } of touched.values())
        tx.update(forms).set({ schema, lastAt }).where(eq(forms.id, id)).run();
      within(rows);
      return rows;
    });
  }

  /** The first submission of a form with the builder's identifier. */
  #sameId(tx: Pick<Database, 'select'>, formId: string, id: string) {
    const same = and(eq(submissions.formId, formId), eq(submissions.builderId, id), isNull(submissions.repeatOf));
    return tx.select({ id: submissions.id }).from(submissions).where(same).get();
  }

  /** The first submission that came as the same bytes within the intake's window. */
  #sameBytes(tx: Pick<Database, 'select'>, arrival: ArrivalRow, formId: string, position: number) {
    const within =
      tx.select({ seconds: intakes.sameWithin }).from(intakes).where(eq(intakes.id, arrival.intakeId)).get()?.seconds ??
      0;
    if (within === 0 || arrival.digest === null) return undefined;
    return tx
      .select({ id: submissions.id })
      .from(submissions)
      .innerJoin(arrivals, eq(arrivals.id, submissions.arrivalId))
      .where(
        and(
          eq(arrivals.intakeId, arrival.intakeId),
          eq(arrivals.digest, arrival.digest),
          gte(arrivals.receivedAt, arrival.receivedAt - within * 1000),
          eq(submissions.formId, formId),
          eq(submissions.position, position),
          isNull(submissions.repeatOf),
        ),
      )
      .get();
  }

  #formFor(tx: Pick<Database, 'select' | 'insert'>, arrival: ArrivalRow, { form }: Submission): FormRow {
    const { key, name } = form ?? UNNAMED_FORM;
    const known = tx
      .select()
      .from(forms)
      .where(and(eq(forms.intakeId, arrival.intakeId), eq(forms.key, key)))
      .get();
    if (known) return known;
    return tx
      .insert(forms)
      .values({
        id: newId(),
        intakeId: arrival.intakeId,
        key,
        name: name ?? key,
        schema: emptySchema,
        lastAt: arrival.receivedAt,
      })
      .returning()
      .get();
  }

  /** The newest arrivals, of one intake or all, before a time. */
  list({ intakeId, before, limit }: { intakeId?: string; before?: number; limit: number }): ArrivalRow[] {
    const of = intakeId ? eq(arrivals.intakeId, intakeId) : undefined;
    const earlier = before === undefined ? undefined : lt(arrivals.receivedAt, before);
    return this.db
      .select()
      .from(arrivals)
      .where(and(of, earlier))
      .orderBy(desc(arrivals.receivedAt), desc(arrivals.id))
      .limit(limit)
      .all();
  }

  countSince(time: number): number {
    return this.db.select({ n: count() }).from(arrivals).where(gte(arrivals.receivedAt, time)).get()!.n;
  }

  submissionsOf(arrivalId: string): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(eq(submissions.arrivalId, arrivalId))
      .orderBy(asc(submissions.position))
      .all();
  }

  submission(id: string): SubmissionRow | undefined {
    return this.db.select().from(submissions).where(eq(submissions.id, id)).get();
  }
}
