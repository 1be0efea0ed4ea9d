import { createHash } from 'node:crypto';
import { asText, type Submission } from '@grammata/core/submission';
import { emptySchema, mergeSchema, MOST_QUESTIONS, weeklyFill, type Week } from '@grammata/core/schema';
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
import { newId } from '../ids';
import { arrivalStatements } from './arrivalStatements';
import type { Database } from './database';
import { arrivals, deliveries, forms, intakes, submissions } from './schema';

export type ArrivalRow = typeof arrivals.$inferSelect;
export type SubmissionRow = typeof submissions.$inferSelect;
export type FormRow = typeof forms.$inferSelect;

/** An arrival as lists show it: without its body and headers. */
export type ArrivalHead = Omit<
  ArrivalRow,
  'body' | 'headers' | 'url' | 'digest' | 'checked' | 'sender' | 'cut' | 'aside' | 'tries'
>;

/** A few answers in a line, to tell submissions apart in lists. */
export function aboutSubmission({ fields }: Submission): string {
  const short = fields.map(field => asText(field.value)).filter(text => text.length > 0 && text.length <= 40);
  return short.slice(0, 3).join(' · ') || 'no answers';
}

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

/** Forms that are told apart at one intake; submissions of further ones share one. */
const MOST_FORMS = 500;
const moreForms = { key: 'more-forms', name: 'More forms than are told apart' };

const head = {
  id: arrivals.id,
  intakeId: arrivals.intakeId,
  receivedAt: arrivals.receivedAt,
  method: arrivals.method,
  contentType: arrivals.contentType,
  size: arrivals.size,
  state: arrivals.state,
  trouble: arrivals.trouble,
  found: arrivals.found,
  repeats: arrivals.repeats,
  formId: arrivals.formId,
  about: arrivals.about,
};

/** Arrivals of the same millisecond are in the order of their identifiers. */
const earlierThan = ({ id, receivedAt }: Pick<ArrivalRow, 'id' | 'receivedAt'>) =>
  or(lt(arrivals.receivedAt, receivedAt), and(eq(arrivals.receivedAt, receivedAt), lt(arrivals.id, id)));

/** Two countings of one week together. */
export function addedUp(
  a: Pick<Week, 'submissions' | 'filled'>,
  b: Pick<Week, 'submissions' | 'filled'>,
): Pick<Week, 'submissions' | 'filled'> {
  const filled = new Map(Object.entries(a.filled));
  for (const [key, times] of Object.entries(b.filled))
    if (filled.has(key) || filled.size < MOST_QUESTIONS) filled.set(key, (filled.get(key) ?? 0) + times);
  return { submissions: a.submissions + b.submissions, filled: Object.fromEntries(filled) };
}

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
  unread(limit: number): ArrivalRow[] {
    return this.#prepared.unread.all({ limit });
  }

  /** One that the server ended over before: it is read alone, after all others. */
  suspect(): ArrivalRow | undefined {
    return this.#prepared.suspect.get();
  }

  /** Marks arrivals as being read: whatever ends the server now shows at its next start. */
  markReading(ids: string[]): void {
    this.#unhurried(() => ids.forEach(id => this.#prepared.setState.run({ id, state: 'reading' })));
  }

  /** Has everything wait again that is being read, since the server ends as it should. */
  releaseReading(): void {
    this.db.update(arrivals).set({ state: 'waiting' }).where(eq(arrivals.state, 'reading')).run();
  }

  /** Has arrivals wait again that could not be stored. */
  markWaiting(ids: string[]): void {
    this.#unhurried(() => ids.forEach(id => this.#prepared.setState.run({ id, state: 'waiting' })));
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
        .set({ state: 'unread', trouble })
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

  /** Has an arrival read once more because a person asks; false when there is none that could not be read. */
  readAgain(id: string): boolean {
    const unread = and(eq(arrivals.id, id), eq(arrivals.state, 'unread'));
    const rows = this.db
      .update(arrivals)
      .set({ state: 'waiting', tries: 0, trouble: null })
      .where(unread)
      .returning({ id: arrivals.id })
      .all();
    return rows.length > 0;
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
    const grown = new Map<string, Submission[]>();
    const rows: SubmissionRow[] = [];
    const since = this.#sameSince(tx, arrival);
    let room: number | null = null;
    list.forEach((data, index) => {
      const position = from + index;
      const key = data.form?.key ?? UNNAMED_FORM;
      let form = touched.get(key);
      if (!form) {
        room ??= MOST_FORMS - this.#formCount(tx, arrival.intakeId);
        const known = this.#prepared.formByKey.get({ intakeId: arrival.intakeId, key });
        form = known ?? this.#formFor(tx, arrival, room > 0 ? data : { ...data, form: moreForms });
        if (!known) room -= 1;
        touched.set(key, form);
      }
      const builderId = data.id ?? (arrival.method === FEED ? contentId(data) : null);
      const first =
        builderId === null
          ? since === null
            ? undefined
            : this.#firstOf(tx, arrival, since, form.id, position)
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
        const added = grown.get(key);
        if (added) added.push(data);
        else grown.set(key, [data]);
      }
      rows.push(row);
    });
    for (const [key, added] of grown) {
      const { id, schema, lastAt } = touched.get(key)!;
      this.#prepared.setSchema.run({ id, schema: JSON.stringify(schema), lastAt });
      this.#addToWeek(id, arrival.receivedAt, added);
    }
    this.#summarize(arrival.id, rows, from);
    return rows;
  }

  /** Keeps in short what an arrival was read as: lists show it without reading a submission. */
  #summarize(id: string, rows: SubmissionRow[], from: number): void {
    const repeats = rows.filter(row => row.repeatOf !== null).length;
    const [first] = rows;
    if (from === 0 && first)
      this.#prepared.setSummary.run({
        id,
        found: rows.length,
        repeats,
        formId: first.formId,
        about: aboutSubmission(first.data),
      });
    else if (rows.length > 0) this.#prepared.addToSummary.run({ id, found: rows.length, repeats });
  }

  /** Counts submissions of a form into their week. */
  #addToWeek(formId: string, receivedAt: number, added: Submission[]): void {
    const [week] = weeklyFill(added.map(submission => ({ receivedAt, submission })));
    const { monday } = week!;
    const before = this.#prepared.week.get({ formId, monday }) ?? { submissions: 0, filled: {} };
    const both = addedUp(before, week!);
    this.#prepared.setWeek.run({ formId, monday, submissions: both.submissions, filled: both.filled });
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
        .select({
          id: submissions.id,
          formId: submissions.formId,
          position: submissions.position,
          kept: submissions.kept,
        })
        .from(submissions)
        .where(eq(submissions.arrivalId, arrival.id))
        .all();
      const byPosition = new Map(before.map(each => [each.position, each]));
      const formOf = new Map<string, FormRow>();
      const touched = new Set(before.map(each => each.formId));
      reading.submissions.forEach((data, position) => {
        const old = byPosition.get(position);
        if (old) {
          const key = data.form?.key ?? UNNAMED_FORM;
          const form = formOf.get(key) ?? this.#formFor(tx, arrival, data);
          formOf.set(key, form);
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
      this.#summarizeAnew(tx, arrival.id, reading.submissions[0]);
      return [...touched];
    });
  }

  #summarizeAnew(tx: Pick<Database, 'select'>, id: string, first: Submission | undefined): void {
    const of = eq(submissions.arrivalId, id);
    const counted = tx
      .select({ found: count(), repeats: sql<number>`coalesce(sum(repeat_of IS NOT NULL), 0)` })
      .from(submissions)
      .where(of)
      .get()!;
    const formId = tx
      .select({ id: submissions.formId })
      .from(submissions)
      .where(of)
      .orderBy(asc(submissions.position))
      .get()?.id;
    this.#prepared.setSummary.run({
      id,
      ...counted,
      formId: formId ?? null,
      about: first ? aboutSubmission(first) : null,
    });
  }

  /** Since when the same bytes are the same submission; null where they never are. */
  #sameSince(tx: Pick<Database, 'select'>, arrival: ArrivalRow): number | null {
    const within =
      tx.select({ seconds: intakes.sameWithin }).from(intakes).where(eq(intakes.id, arrival.intakeId)).get()?.seconds ??
      0;
    return within === 0 || arrival.digest === null ? null : arrival.receivedAt - within * 1000;
  }

  /** The first submission at this place of another arrival of the same bytes. */
  #firstOf(tx: Pick<Database, 'select'>, arrival: ArrivalRow, since: number, formId: string, position: number) {
    return tx
      .select({ id: submissions.id })
      .from(arrivals)
      .innerJoin(submissions, and(eq(submissions.arrivalId, arrivals.id), eq(submissions.position, position)))
      .where(
        and(
          sql`${arrivals.found} > ${arrivals.repeats}`,
          eq(arrivals.intakeId, arrival.intakeId),
          eq(arrivals.digest, arrival.digest!),
          gte(arrivals.receivedAt, since),
          ne(arrivals.id, arrival.id),
          eq(submissions.formId, formId),
          isNull(submissions.repeatOf),
        ),
      )
      .limit(1)
      .get();
  }

  #formCount(tx: Pick<Database, 'select'>, intakeId: string): number {
    return tx.select({ n: count() }).from(forms).where(eq(forms.intakeId, intakeId)).get()!.n;
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
    return this.db.select().from(submissions).where(eq(submissions.id, id)).get();
  }
}
