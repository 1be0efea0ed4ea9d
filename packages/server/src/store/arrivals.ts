import { createHash } from 'node:crypto';
import type { Submission } from '@grammata/core/submission';
import { emptySchema, mergeSchema } from '@grammata/core/schema';
import { and, asc, count, desc, eq, gte, inArray, isNull, lt, ne, notInArray, or, sql } from 'drizzle-orm';
import { newId } from '../ids';
import { arrivalStatements } from './arrivalStatements';
import type { Database } from './database';
import { arrivals, deliveries, forms, intakes, submissions } from './schema';

export type ArrivalRow = typeof arrivals.$inferSelect;
export type SubmissionRow = typeof submissions.$inferSelect;
export type FormRow = typeof forms.$inferSelect;

/** What an arrival was read as. */
export interface Reading {
  state: ArrivalRow['state'];
  trouble: string | null;
  submissions: Submission[];
}

/** What stands for the method of an arrival that a person uploaded as a file, that was read from a feed, that came by mail. */
export const UPLOADED = 'FILE';
export const FEED = 'FEED';
export const MAIL = 'MAIL';

/** The key of the form that a submission belongs to when the payload names none. */
const UNNAMED_FORM = '';

/** What stands for the identifier of a feed's item that has none: the same answers are the same item. */
const contentId = ({ fields, files }: Submission): string =>
  `same:${createHash('sha256')
    .update(JSON.stringify([fields.map(each => [each.key, each.value]), files]))
    .digest('base64url')}`;

type Transaction = Pick<Database, 'select' | 'insert' | 'update' | 'delete'>;

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

  /**
   * A transaction that need not be on disk when it returns. What it stores can be made again from what is: a crash of the
   * machine may take it back as a whole, and any later durable transaction makes it last.
   */
  #unhurried<T>(work: (tx: Transaction) => T): T {
    this.db.run(sql`PRAGMA synchronous = NORMAL`);
    try {
      return this.db.transaction(work);
    } finally {
      this.db.run(sql`PRAGMA synchronous = FULL`);
    }
  }

  byId(id: string): ArrivalRow | undefined {
    return this.db.select().from(arrivals).where(eq(arrivals.id, id)).get();
  }

  has(id: string): boolean {
    return this.db.select({ id: arrivals.id }).from(arrivals).where(eq(arrivals.id, id)).get() !== undefined;
  }

  /** Not read yet, oldest first: what a crash left behind, too. */
  unread(limit: number, except: string[] = []): ArrivalRow[] {
    const rows = this.#prepared.unread.all({ limit: limit + except.length });
    return except.length === 0 ? rows : rows.filter(row => !except.includes(row.id));
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
    return this.#unhurried(tx => {
      this.setReading(arrival.id, reading);
      const rows = this.#take(tx, arrival, reading.submissions, 0);
      within(rows);
      return rows;
    });
  }

  /** Stores a portion of a long reading, from a position on; `setReading` ends it. */
  storePortion(
    arrival: ArrivalRow,
    portion: Submission[],
    from: number,
    within: (rows: SubmissionRow[]) => void,
  ): SubmissionRow[] {
    return this.#unhurried(tx => {
      const rows = this.#take(tx, arrival, portion, from);
      within(rows);
      return rows;
    });
  }

  setReading(arrivalId: string, { state, trouble }: Pick<Reading, 'state' | 'trouble'>): void {
    this.#prepared.setReading.run({ id: arrivalId, state, trouble });
  }

  /** Takes submissions into their forms. Of a feed only those not seen before: it shows the same ones at every reading. */
  #take(tx: Transaction, arrival: ArrivalRow, list: Submission[], from: number): SubmissionRow[] {
    const touched = new Map<string, FormRow>();
    const grown = new Set<string>();
    const rows: SubmissionRow[] = [];
    const same = this.#sameBytes(tx, arrival);
    list.forEach((data, index) => {
      const position = from + index;
      const key = data.form?.key ?? UNNAMED_FORM;
      const form = touched.get(key) ?? this.#formFor(tx, arrival, data);
      touched.set(key, form);
      const builderId = data.id ?? (arrival.method === FEED ? contentId(data) : null);
      const first =
        builderId === null
          ? this.#firstOf(tx, same, form.id, position)
          : this.#prepared.firstByBuilderId.get({ formId: form.id, builderId });
      if (first && arrival.method === FEED) return;
      const row: SubmissionRow = {
        id: newId(arrival.receivedAt),
        arrivalId: arrival.id,
        formId: form.id,
        position,
        receivedAt: arrival.receivedAt,
        builderId,
        data,
        repeatOf: first?.id ?? null,
        name: null,
        kept: false,
      };
      this.#prepared.insertSubmission.run({ ...row });
      if (!first) {
        touched.set(key, { ...form, schema: mergeSchema(form.schema, data), lastAt: arrival.receivedAt });
        grown.add(key);
      }
      rows.push(row);
    });
    for (const key of grown) {
      const { id, schema, lastAt } = touched.get(key)!;
      this.#prepared.setSchema.run({ id, schema: JSON.stringify(schema), lastAt });
    }
    return rows;
  }

  /**
   * Puts a new reading in the place of the old one: submissions keep their identity by position, those found anew are
   * samples only, those no longer found go unless something hangs on them. Gives back the forms that are touched: their
   * schemas have to be made anew.
   */
  reread(arrival: ArrivalRow, reading: Reading): string[] {
    return this.#unhurried(tx => {
      this.setReading(arrival.id, reading);
      const before = tx
        .select()
        .from(submissions)
        .where(eq(submissions.arrivalId, arrival.id))
        .orderBy(asc(submissions.position))
        .all();
      const touched = new Set(before.map(each => each.formId));
      reading.submissions.forEach((data, position) => {
        const old = before.find(each => each.position === position);
        if (old) {
          const form = this.#formFor(tx, arrival, data);
          touched.add(form.id);
          tx.update(submissions)
            .set({ data, formId: form.id, builderId: data.id })
            .where(eq(submissions.id, old.id))
            .run();
        } else if (arrival.method !== FEED)
          for (const row of this.#take(tx, arrival, [data], position)) touched.add(row.formId);
      });
      const gone = before.filter(each => each.position >= reading.submissions.length && !each.kept);
      for (const { id } of gone) {
        const hangs = tx.select({ id: deliveries.id }).from(deliveries).where(eq(deliveries.submissionId, id)).get();
        if (!hangs) tx.delete(submissions).where(eq(submissions.id, id)).run();
      }
      return [...touched];
    });
  }

  /** Other arrivals of the same bytes within the intake's window. */
  #sameBytes(tx: Pick<Database, 'select'>, arrival: ArrivalRow): string[] {
    const within =
      tx.select({ seconds: intakes.sameWithin }).from(intakes).where(eq(intakes.id, arrival.intakeId)).get()?.seconds ??
      0;
    if (within === 0 || arrival.digest === null) return [];
    return tx
      .select({ id: arrivals.id })
      .from(arrivals)
      .where(
        and(
          eq(arrivals.intakeId, arrival.intakeId),
          eq(arrivals.digest, arrival.digest),
          gte(arrivals.receivedAt, arrival.receivedAt - within * 1000),
          ne(arrivals.id, arrival.id),
        ),
      )
      .all()
      .map(each => each.id);
  }

  /** The first submission at this place of arrivals that are the same. */
  #firstOf(tx: Pick<Database, 'select'>, same: string[], formId: string, position: number) {
    if (same.length === 0) return undefined;
    return tx
      .select({ id: submissions.id })
      .from(submissions)
      .where(
        and(
          inArray(submissions.arrivalId, same),
          eq(submissions.formId, formId),
          eq(submissions.position, position),
          isNull(submissions.repeatOf),
        ),
      )
      .get();
  }

  #formFor(tx: Pick<Database, 'select' | 'insert'>, arrival: ArrivalRow, { form }: Submission): FormRow {
    const key = form?.key ?? UNNAMED_FORM;
    const known = this.#prepared.formByKey.get({ intakeId: arrival.intakeId, key });
    if (known) return known;
    // The first form of an intake is what the intake was opened for; any other has to be looked at.
    const intake = tx.select({ name: intakes.name }).from(intakes).where(eq(intakes.id, arrival.intakeId)).get();
    const isFirst = !tx.select({ id: forms.id }).from(forms).where(eq(forms.intakeId, arrival.intakeId)).get();
    return tx
      .insert(forms)
      .values({
        id: newId(),
        intakeId: arrival.intakeId,
        key,
        // A form that says nothing of itself goes by the name of its intake.
        name: form?.name || key || (intake?.name ?? 'Unnamed form'),
        schema: emptySchema,
        lastAt: arrival.receivedAt,
        state: isFirst ? 'adopted' : 'new',
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
  recorded(intakeId: string, limit: number, before?: ArrivalRow): ArrivalRow[] {
    const earlier = before
      ? or(
          lt(arrivals.receivedAt, before.receivedAt),
          and(eq(arrivals.receivedAt, before.receivedAt), lt(arrivals.id, before.id)),
        )
      : undefined;
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

  /** Deletes what arrived before a time, but for what is kept, named, or not yet delivered. Gives back how many went. */
  removeBefore(intakeId: string, time: number): number {
    const unfinished = this.db
      .select({ id: submissions.arrivalId })
      .from(submissions)
      .innerJoin(deliveries, eq(deliveries.submissionId, submissions.id))
      .where(inArray(deliveries.state, ['waiting', 'sending', 'held', 'dead']));
    const kept = this.db.select({ id: submissions.arrivalId }).from(submissions).where(eq(submissions.kept, true));
    const gone = this.db
      .delete(arrivals)
      .where(
        and(
          eq(arrivals.intakeId, intakeId),
          lt(arrivals.receivedAt, time),
          ne(arrivals.state, 'waiting'),
          notInArray(arrivals.id, unfinished),
          notInArray(arrivals.id, kept),
        ),
      )
      .returning({ id: arrivals.id })
      .all();
    return gone.length;
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
