import { UNNAMED_FORM } from './forms';
import { aboutSubmission, canonical, upToFirst, type Submission } from '@grammata/core/submission';
import { and, asc, count, eq, gte, isNull, ne, sql } from 'drizzle-orm';
import { newId } from '../ids';
import { arrivalStatements } from './arrivalStatements';
import { contentId, FEED, type ArrivalRow, type FormRow, type Reading, type SubmissionRow } from './arrivals';
import { unhurried, type Database } from './database';
import type { Questions } from './questions';
import { arrivals, deliveries, forms, intakes, submissions } from './schema';
import { textOfSubmission } from './texts';

/** Forms that are told apart at one intake; submissions of further ones share one. */
const MOST_FORMS = 500;
const moreForms = { key: 'more-forms', name: 'More forms than are told apart' };

type Transaction = Pick<Database, 'select' | 'insert' | 'update' | 'delete'>;

/** What a submission says, its files too: the same text for those that say the same. */
const answersIn = ({ fields, files }: Submission): string =>
  canonical([
    [...fields].sort((a, b) => (a.key < b.key ? -1 : 1)).map(({ key, value }) => [key, value]),
    files.map(({ field, name, size, url }) => [field, name, size, url && upToFirst(url, '?')]),
  ]);

/** Submissions of one identifier that are judged together. */
const MOST_JUDGED = 500;

/** What arrivals are read as: submissions, taken into their forms. */
export class Readings {
  readonly #prepared: ReturnType<typeof arrivalStatements>;

  constructor(
    private readonly db: Database,
    private readonly questions: Questions,
  ) {
    this.#prepared = arrivalStatements(db);
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
    return unhurried(this.db, tx => {
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
    return unhurried(this.db, tx => {
      const rows = this.#take(tx, arrival, portion, from);
      within(rows);
      return rows;
    });
  }

  setReading(arrivalId: string, { state, trouble, isSure = true, way = null }: Omit<Reading, 'submissions'>): void {
    this.#prepared.setReading.run({
      id: arrivalId,
      state,
      trouble,
      unsure: isSure ? 0 : 1,
      way: way && JSON.stringify(way),
    });
  }

  /** Takes submissions into their forms. Of a feed only those not seen before: it shows the same ones at every reading. */
  #take(tx: Transaction, arrival: ArrivalRow, list: Submission[], from: number): SubmissionRow[] {
    const touched = new Map<string, FormRow>();
    const grown = new Map<string, string[]>();
    const rows: SubmissionRow[] = [];
    const since = this.#sameSince(tx, arrival);
    let room: number | null = null;
    list.forEach((data, index) => {
      const position = from + index;
      const key = data.form?.key ?? UNNAMED_FORM;
      let form = touched.get(key);
      if (!form) {
        room ??= MOST_FORMS - this.#formCount(tx, arrival.intakeId);
        const known = this.#formKnown(arrival.intakeId, key);
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
          : this.#firstBy(form.id, builderId, data, arrival);
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
      this.#prepared.setText.run({ submissionId: row.id, text: textOfSubmission(data) });
      if (!first) {
        const added = grown.get(key);
        if (added) added.push(row.id);
        else grown.set(key, [row.id]);
      }
      rows.push(row);
    });
    for (const [key, added] of grown) {
      const { id } = touched.get(key)!;
      this.#prepared.setLastAt.run({ id, lastAt: arrival.receivedAt });
      this.questions.learn(id, added);
    }
    this.#summarize(arrival.id, rows, from);
    return rows;
  }

  /**
   * The submission that came first under an identifier and says the same. One that says something else is another: an
   * identifier that does not tell them apart is none. A feed shows its entries again and again: there an entry that was
   * changed since is still that entry.
   */
  #firstBy(formId: string, builderId: string, data: Submission, arrival: Pick<ArrivalRow, 'id' | 'method'>) {
    const known = this.#prepared.firstByBuilderId.all({ formId, builderId });
    const said = answersIn(data);
    return (
      known.find(each => answersIn(each.data) === said) ??
      (arrival.method === FEED ? known.find(each => each.arrivalId !== arrival.id) : undefined)
    );
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

  /**
   * Puts a new reading in the place of the old one: submissions keep their identity by position, those found anew are
   * samples only, those no longer found go unless something hangs on them. Gives back the forms that are touched: their
   * schemas have to be made anew.
   */
  reread(arrival: ArrivalRow, reading: Reading): string[] {
    return unhurried(this.db, tx => {
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
          if (arrival.method !== FEED && data.id !== null) this.#judgeAnew(tx, form.id, data.id, data);
          this.#prepared.setText.run({ submissionId: old.id, text: textOfSubmission(data) });
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

  /** Who came first of those that have an identifier and say the same is found anew: another may have been pointed at. */
  #judgeAnew(tx: Transaction, formId: string, builderId: string, data: Submission): void {
    const said = answersIn(data);
    const [first, ...later] = tx
      .select({
        id: submissions.id,
        arrivalId: submissions.arrivalId,
        data: submissions.data,
        repeatOf: submissions.repeatOf,
      })
      .from(submissions)
      .where(and(eq(submissions.formId, formId), eq(submissions.builderId, builderId)))
      .orderBy(asc(submissions.receivedAt), asc(submissions.arrivalId), asc(submissions.position))
      .limit(MOST_JUDGED)
      .all()
      .filter(each => answersIn(each.data) === said);
    for (const each of first ? [first, ...later] : []) {
      const repeatOf = each === first ? null : first!.id;
      if (each.repeatOf === repeatOf) continue;
      tx.update(submissions).set({ repeatOf }).where(eq(submissions.id, each.id)).run();
      const [top] = tx
        .select({ data: submissions.data })
        .from(submissions)
        .where(eq(submissions.arrivalId, each.arrivalId))
        .orderBy(asc(submissions.position))
        .limit(1)
        .all();
      this.#summarizeAnew(tx, each.arrivalId, top?.data);
    }
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

  /** The form under a key, or the one that it is the same as. */
  #formKnown(intakeId: string, key: string): FormRow | undefined {
    const known = this.#prepared.formByKey.get({ intakeId, key });
    return known?.sameAs ? this.#prepared.formById.get({ id: known.sameAs }) : known;
  }

  #formFor(tx: Pick<Database, 'select' | 'insert'>, arrival: ArrivalRow, { form }: Submission): FormRow {
    const key = form?.key ?? UNNAMED_FORM;
    const known = this.#formKnown(arrival.intakeId, key);
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
        lastAt: arrival.receivedAt,
        state: isFirst ? 'adopted' : 'new',
      })
      .returning()
      .get();
  }
}
