import type { VariantInput } from '@grammata/contract';
import type { FormSchema, Week } from '@grammata/core/schema';
import { and, asc, count, desc, eq, gt, gte, isNotNull, isNull, lt, or, sql, type SQL } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import type { FormRow, SubmissionRow } from './arrivals';
import type { Database } from './database';
import type { Questions } from './questions';
import { forms, intakes, submissions, variants } from './schema';
import { isOneOf, says, wordsIn } from './texts';

export type VariantRow = typeof variants.$inferSelect;

/** A form as lists show it: without what is known of its questions. */
export interface FormHead {
  form: FormRow;
  intakeName: string;
  submissions: number;
  /** Forms under other keys that are the same. */
  same: Pick<FormRow, 'id' | 'name'>[];
}

export interface FormWithCounts extends FormHead {
  schema: FormSchema;
}

/** The key of a form that says nothing of itself. */
export const UNNAMED_FORM = '';

/** Submissions of a form that repeat no other: they are counted and listed. */
export const unrepeated = (formId: string) => and(eq(submissions.formId, formId), isNull(submissions.repeatOf));

/** Submissions of the same millisecond are in the order of their identifiers. */
const earlierThan = ({ id, receivedAt }: Pick<SubmissionRow, 'id' | 'receivedAt'>) =>
  or(lt(submissions.receivedAt, receivedAt), and(eq(submissions.receivedAt, receivedAt), lt(submissions.id, id)));
const laterThan = ({ id, receivedAt }: Pick<SubmissionRow, 'id' | 'receivedAt'>) =>
  or(gt(submissions.receivedAt, receivedAt), and(eq(submissions.receivedAt, receivedAt), gt(submissions.id, id)));

/** Which recorded submissions are meant. Times are ms since the epoch. */
export interface Selection {
  sampleIds?: readonly string[];
  arrivalId?: string;
  search?: string;
  since?: number;
  until?: number;
}

const isMeant = ({ sampleIds, arrivalId, search, since, until }: Selection): SQL | undefined =>
  and(
    sampleIds && isOneOf(submissions.id, sampleIds),
    arrivalId === undefined ? undefined : eq(submissions.arrivalId, arrivalId),
    search === undefined || wordsIn(search).length === 0 ? undefined : says(submissions.id, search),
    since === undefined ? undefined : gte(submissions.receivedAt, since),
    until === undefined ? undefined : lt(submissions.receivedAt, until),
  );

/** What is looked for among a few is looked up by these, and not by the form (SQLite, “Disqualifying WHERE Clause Terms Using Unary +”). */
const meantOf = (formId: string, selection: Selection): SQL | undefined =>
  and(
    selection.sampleIds ? sql`+${submissions.formId} = ${formId}` : eq(submissions.formId, formId),
    isNull(submissions.repeatOf),
    isMeant(selection),
  );

/** Forms that were seen, and their samples. */
export class Forms {
  constructor(
    private readonly db: Database,
    readonly questions: Questions,
  ) {}

  /** All of them, or those of one intake, by name. */
  heads(intakeId?: string): FormHead[] {
    const rows = this.db
      .select({ form: forms, intakeName: intakes.name })
      .from(forms)
      .innerJoin(intakes, eq(intakes.id, forms.intakeId))
      .where(intakeId === undefined ? undefined : eq(forms.intakeId, intakeId))
      .orderBy(asc(forms.name))
      .all();
    const same = new Map<string, FormHead['same']>();
    for (const { form } of rows)
      if (form.sameAs !== null)
        same.set(form.sameAs, [...(same.get(form.sameAs) ?? []), { id: form.id, name: form.name }]);
    return rows.flatMap(row =>
      row.form.sameAs === null
        ? [{ ...row, submissions: row.form.submissions, same: same.get(row.form.id) ?? [] }]
        : [],
    );
  }

  /** The names of a form and its intake. */
  named(id: string): { name: string; intakeName: string } | undefined {
    return this.db
      .select({ name: forms.name, intakeName: intakes.name })
      .from(forms)
      .innerJoin(intakes, eq(intakes.id, forms.intakeId))
      .where(eq(forms.id, id))
      .get();
  }

  byId(id: string): FormWithCounts | undefined {
    const row = this.db
      .select({ form: forms, intakeName: intakes.name })
      .from(forms)
      .innerJoin(intakes, eq(intakes.id, forms.intakeId))
      .where(eq(forms.id, id))
      .get();
    return (
      row && {
        ...row,
        submissions: row.form.submissions,
        same: this.db
          .select({ id: forms.id, name: forms.name })
          .from(forms)
          .where(eq(forms.sameAs, id))
          .orderBy(asc(forms.name))
          .all(),
        schema: this.questions.schemaOf(id),
      }
    );
  }

  /** The newest samples, newest first, before another one. */
  samples(formId: string, limit: number, before?: Pick<SubmissionRow, 'id' | 'receivedAt'>): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(and(unrepeated(formId), before && earlierThan(before)))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .limit(limit)
      .all();
  }

  /** The same, oldest first, after another one. */
  samplesFromOldest(formId: string, limit: number, after?: Pick<SubmissionRow, 'id' | 'receivedAt'>): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(and(unrepeated(formId), after && laterThan(after)))
      .orderBy(asc(submissions.receivedAt), asc(submissions.id))
      .limit(limit)
      .all();
  }

  /** Recorded submissions that are meant, oldest first, after another one. */
  selected(
    formId: string,
    selection: Selection,
    limit: number,
    after?: Pick<SubmissionRow, 'id' | 'receivedAt'>,
  ): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(and(meantOf(formId, selection), after && laterThan(after)))
      .orderBy(asc(submissions.receivedAt), asc(submissions.id))
      .limit(limit)
      .all();
  }

  /** The newest of these submissions, with the names of their forms. */
  anywhere(ids: readonly string[], limit: number): (SubmissionRow & { formName: string })[] {
    return this.db
      .select({ row: submissions, formName: forms.name })
      .from(submissions)
      .innerJoin(forms, eq(forms.id, submissions.formId))
      .where(and(isNull(submissions.repeatOf), isOneOf(submissions.id, ids)))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .limit(limit)
      .all()
      .map(({ row, formName }) => ({ ...row, formName }));
  }

  /** How many submissions a form has, those that repeat others apart. */
  /** The first submissions of a form since a time of which a route made no delivery. */
  undelivered(formId: string, routeId: string, since: number, limit: number): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(
        and(
          eq(submissions.formId, formId),
          gte(submissions.receivedAt, since),
          sql`not exists (select 1 from deliveries d where d.route_id = ${routeId} and d.submission_id = ${submissions.id})`,
        ),
      )
      .orderBy(asc(submissions.receivedAt))
      .limit(limit)
      .all();
  }

  countOf(formId: string): number {
    return this.db.select({ n: forms.submissions }).from(forms).where(eq(forms.id, formId)).get()?.n ?? 0;
  }

  selectedCount(formId: string, selection: Selection): number {
    return this.db.select({ n: count() }).from(submissions).where(meantOf(formId, selection)).get()!.n;
  }

  /** The newest of those that are meant, newest first, before another one. */
  found(
    formId: string,
    selection: Selection,
    limit: number,
    before?: Pick<SubmissionRow, 'id' | 'receivedAt'>,
  ): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(and(meantOf(formId, selection), before && earlierThan(before)))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .limit(limit)
      .all();
  }

  /** What came in each week, oldest first, without gaps. */
  weeks(formId: string): Week[] {
    return this.questions.weeks(formId);
  }

  /** The form of a key at an intake; it is made where there is none, before anything came of it. */
  open(intakeId: string, { key, name }: Pick<FormRow, 'key' | 'name'>): FormRow {
    const isIt = and(eq(forms.intakeId, intakeId), eq(forms.key, key));
    this.db.insert(forms).values({ id: newId(), intakeId, key, name, state: 'adopted' }).onConflictDoNothing().run();
    return this.db.select().from(forms).where(isIt).get()!;
  }

  /** Recorded samples of a form that people gave a name, oldest first. */
  namedSamples(formId: string): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(and(unrepeated(formId), isNotNull(submissions.name)))
      .orderBy(asc(submissions.receivedAt), asc(submissions.id))
      .all();
  }

  update(id: string, values: Partial<Pick<FormRow, 'state' | 'name' | 'ownName'>>): void {
    if (Object.values(values).some(value => value !== undefined))
      this.db.update(forms).set(values).where(eq(forms.id, id)).run();
  }

  variant(id: string): VariantRow | undefined {
    return this.db.select().from(variants).where(eq(variants.id, id)).get();
  }

  variants(formId: string): VariantRow[] {
    return this.db.select().from(variants).where(eq(variants.formId, formId)).orderBy(desc(variants.createdAt)).all();
  }

  addVariant(formId: string, { name, submission }: VariantInput): VariantRow {
    return this.db
      .insert(variants)
      .values({ id: newId(), formId, name, data: submission, createdAt: now() })
      .returning()
      .get();
  }

  updateVariant(id: string, { name, submission }: VariantInput): VariantRow | undefined {
    return this.db.update(variants).set({ name, data: submission }).where(eq(variants.id, id)).returning().get();
  }

  /** False when there is no such variant. */
  removeVariant(id: string): boolean {
    return this.db.delete(variants).where(eq(variants.id, id)).returning().all().length > 0;
  }
}
