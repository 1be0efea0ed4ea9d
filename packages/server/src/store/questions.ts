import {
  addedUp,
  mergeSchema,
  weeklyFill,
  withoutGaps,
  type FieldSchema,
  type FormSchema,
  type Learned,
  type Week,
} from '@grammata/core/schema';
import { asksForFiles, type FilesAsked } from '@grammata/core/decode';
import { setOwn } from '@grammata/core/submission';
import { and, asc, count, eq, sql } from 'drizzle-orm';
import type { Database } from './database';
import { allOf, eachOf, given } from './placeholders';
import {
  formOptions,
  formQuestions,
  forms,
  formUnlearned,
  formWeeks,
  questionNames,
  questionWeeks,
  submissions,
} from './schema';
import { likePattern } from './texts';

const ofForm = { formId: sql.placeholder('formId') };

const statements = (db: Database) => ({
  unlearn: db
    .insert(formUnlearned)
    .select(sql`select ${sql.placeholder('formId')}, value from json_each(${sql.placeholder('ids')}) where true`)
    .onConflictDoNothing()
    .prepare(),
  unlearnedSize: db
    .select({ n: count(), bytes: sql<number>`coalesce(sum(octet_length(${submissions.data})), 0)` })
    .from(formUnlearned)
    .innerJoin(submissions, eq(submissions.id, formUnlearned.submissionId))
    .where(eq(formUnlearned.formId, ofForm.formId))
    .prepare(),
  questionCount: db.select({ n: count() }).from(formQuestions).where(eq(formQuestions.formId, ofForm.formId)).prepare(),
  unlearned: db
    .select({ receivedAt: submissions.receivedAt, submission: submissions.data })
    .from(formUnlearned)
    .innerJoin(submissions, eq(submissions.id, formUnlearned.submissionId))
    .where(eq(formUnlearned.formId, ofForm.formId))
    .orderBy(asc(submissions.receivedAt), asc(submissions.position))
    .prepare(),
  allLearned: db.delete(formUnlearned).where(eq(formUnlearned.formId, ofForm.formId)).prepare(),
  learned: db.select({ count: forms.learned }).from(forms).where(eq(forms.id, ofForm.formId)).prepare(),
  setLearned: db
    .update(forms)
    .set({ learned: given('learned') })
    .where(eq(forms.id, ofForm.formId))
    .prepare(),
  questions: db
    .select()
    .from(formQuestions)
    .where(eq(formQuestions.formId, ofForm.formId))
    .orderBy(asc(formQuestions.position))
    .prepare(),
  options: db
    .select()
    .from(formOptions)
    .where(eq(formOptions.formId, ofForm.formId))
    .orderBy(asc(formOptions.position))
    .prepare(),
  names: db
    .select({ key: questionNames.key, name: questionNames.name })
    .from(questionNames)
    .where(eq(questionNames.formId, ofForm.formId))
    .prepare(),
  setName: db
    .insert(questionNames)
    .values(allOf(questionNames))
    .onConflictDoUpdate({
      target: [questionNames.formId, questionNames.key],
      set: { name: sql`excluded.name` },
    })
    .prepare(),
  unname: db
    .delete(questionNames)
    .where(and(eq(questionNames.formId, ofForm.formId), eq(questionNames.key, sql.placeholder('key'))))
    .prepare(),
  setQuestions: db
    .insert(formQuestions)
    .select(eachOf(formQuestions))
    .onConflictDoUpdate({
      target: [formQuestions.formId, formQuestions.key],
      set: {
        label: sql`excluded.label`,
        kind: sql`excluded.kind`,
        kinds: sql`excluded.kinds`,
        filled: sql`excluded.filled`,
        examples: sql`excluded.examples`,
        longest: sql`excluded.longest`,
        shortest: sql`excluded.shortest`,
        shapes: sql`excluded.shapes`,
        firstAt: sql`excluded.first_at`,
        lastAt: sql`excluded.last_at`,
      },
    })
    .prepare(),
  setOptions: db
    .insert(formOptions)
    .select(eachOf(formOptions))
    .onConflictDoUpdate({
      target: [formOptions.formId, formOptions.key, formOptions.value],
      set: { times: sql`excluded.times`, firstAt: sql`excluded.first_at`, lastAt: sql`excluded.last_at` },
    })
    .prepare(),
  addWeek: db
    .insert(formWeeks)
    .values(allOf(formWeeks))
    .onConflictDoUpdate({
      target: [formWeeks.formId, formWeeks.monday],
      set: { submissions: sql`${formWeeks.submissions} + excluded.submissions` },
    })
    .prepare(),
  addQuestionWeeks: db
    .insert(questionWeeks)
    .select(eachOf(questionWeeks))
    .onConflictDoUpdate({
      target: [questionWeeks.formId, questionWeeks.monday, questionWeeks.key],
      set: { filled: sql`${questionWeeks.filled} + excluded.filled` },
    })
    .prepare(),
});

/** Submissions whose telling may wait, and bytes of them: so many are taken in about as fast as one. */
const MOST_UNLEARNED = 40;
const BYTES_UNLEARNED = 500_000;
/** Questions that are looked at when they are: with each submission all that its form has, so that fewer of a wide form are gathered. */
const MOST_VISITED = 8000;

/**
 * What is known of the questions of forms, from all submissions of each: a row a question, an option, a question and week. The
 * newest submissions may still be on their own: they are counted in as they are asked for, and stored together.
 */
export class Questions {
  readonly #prepared: ReturnType<typeof statements>;

  constructor(private readonly db: Database) {
    this.#prepared = statements(db);
  }

  schemaOf(formId: string): FormSchema {
    const schema = mergeSchema(this.#stored(formId), this.#unlearned(formId));
    const names = new Map(this.#prepared.names.all({ formId }).map(each => [each.key, each.name]));
    if (names.size === 0) return schema;
    const named = (field: FieldSchema) => {
      const label = names.get(field.key);
      return label === undefined ? field : { ...field, label, asked: field.label };
    };
    return { ...schema, fields: schema.fields.map(named) };
  }

  /** Which questions of an intake's forms ask for files, by all that was answered. */
  filesAsked(intakeId: string): FilesAsked {
    const rows = this.db
      .select({ key: formQuestions.key, kinds: formQuestions.kinds })
      .from(formQuestions)
      .innerJoin(forms, eq(forms.id, formQuestions.formId))
      .where(and(eq(forms.intakeId, intakeId), sql`json_extract(${formQuestions.kinds}, '$.files') > 0`))
      .all();
    const asked: Record<string, boolean> = {};
    for (const { key, kinds } of rows) {
      const { files = 0, url: links = 0, ...rest } = kinds;
      const others = Object.values(rest).reduce((sum, each) => sum + each, 0);
      const verdict = asksForFiles({ files, links, others });
      if (verdict !== null) asked[key] = verdict;
    }
    return asked;
  }

  /** Gives a question another name; null gives it back its own. */
  name(formId: string, key: string, name: string | null): void {
    if (name === null) this.#prepared.unname.run({ formId, key });
    else this.#prepared.setName.run({ formId, key, name });
  }

  /** Questions whose name, wording or key holds all of the words. */
  called(words: readonly string[], limit: number) {
    const name = sql<string>`coalesce(${questionNames.name}, ${formQuestions.label})`;
    const all = sql`lower(${name} || ' ' || ${formQuestions.label} || ' ' || ${formQuestions.key})`;
    return this.db
      .select({ formId: formQuestions.formId, formName: forms.name, key: formQuestions.key, label: name })
      .from(formQuestions)
      .innerJoin(forms, eq(forms.id, formQuestions.formId))
      .leftJoin(
        questionNames,
        and(eq(questionNames.formId, formQuestions.formId), eq(questionNames.key, formQuestions.key)),
      )
      .where(and(...words.map(word => sql`${all} like ${likePattern(word)} escape '\\'`)))
      .orderBy(asc(forms.name), asc(formQuestions.position))
      .limit(limit)
      .all();
  }

  #stored(formId: string): FormSchema {
    const fields = this.#prepared.questions
      .all({ formId })
      .map(({ formId: _form, position: _place, ...known }): FieldSchema => ({ ...known, options: [] }));
    const byKey = new Map(fields.map(field => [field.key, field]));
    for (const { key, value, times, firstAt, lastAt } of this.#prepared.options.all({ formId }))
      byKey.get(key)?.options.push({ value, times, firstAt, lastAt });
    return { count: this.#prepared.learned.get({ formId })?.count ?? 0, fields };
  }

  /** Takes in what submissions of a form tell of its questions. */
  learn(formId: string, ids: readonly string[]): void {
    this.#prepared.unlearn.run({ formId, ids: JSON.stringify(ids) });
    // The first is counted in at once: a form that was just seen can be found by its questions.
    const isKnown = (this.#prepared.learned.get({ formId })?.count ?? 0) > 0;
    if (isKnown) {
      const questions = Math.max(1, this.#prepared.questionCount.get({ formId })!.n);
      const most = Math.max(1, Math.min(MOST_UNLEARNED, Math.floor(MOST_VISITED / questions)));
      const { n, bytes } = this.#prepared.unlearnedSize.get({ formId })!;
      if (n < most && bytes < BYTES_UNLEARNED) return;
    }
    const unlearnedRows = this.#unlearned(formId);
    const before = this.#stored(formId);
    const after = mergeSchema(before, unlearnedRows);
    this.#write(formId, before, after);
    this.#count(formId, weeklyFill(unlearnedRows), after);
    this.#prepared.allLearned.run({ formId });
  }

  #unlearned(formId: string): Learned[] {
    return this.#prepared.unlearned.all({ formId });
  }

  /** Puts what all submissions of a form tell in the place of what was known. */
  replace(formId: string, schema: FormSchema, weeks: readonly Week[]): void {
    for (const table of [formQuestions, formOptions, formWeeks, questionWeeks, formUnlearned])
      this.db.delete(table).where(eq(table.formId, formId)).run();
    this.#write(formId, { count: 0, fields: [] }, schema);
    this.#count(formId, weeks, schema);
  }

  /** What came in each week, oldest first, without gaps. */
  weeks(formId: string): Week[] {
    const rows = this.db
      .select({
        monday: formWeeks.monday,
        submissions: formWeeks.submissions,
        key: questionWeeks.key,
        filled: questionWeeks.filled,
      })
      .from(formWeeks)
      .leftJoin(
        questionWeeks,
        and(eq(questionWeeks.formId, formWeeks.formId), eq(questionWeeks.monday, formWeeks.monday)),
      )
      .where(eq(formWeeks.formId, formId))
      .orderBy(asc(formWeeks.monday))
      .all();
    const weeks = new Map<string, Week>();
    for (const { monday, submissions, key, filled } of rows) {
      const week = weeks.get(monday) ?? { monday, submissions, filled: {} };
      weeks.set(monday, week);
      if (key !== null) setOwn(week.filled, key, filled);
    }
    for (const week of weeklyFill(this.#unlearned(formId)))
      if (week.submissions > 0) weeks.set(week.monday, addedUp(weeks.get(week.monday), week));
    return withoutGaps([...weeks.values()].sort((a, b) => a.monday.localeCompare(b.monday)));
  }

  /** Stores what is new, what is as before is left alone. */
  #write(formId: string, before: FormSchema, after: FormSchema): void {
    const known = new Map(before.fields.map(field => [field.key, field]));
    const questions: (typeof formQuestions.$inferInsert)[] = [];
    const options: (typeof formOptions.$inferInsert)[] = [];
    after.fields.forEach((field, position) => {
      const old = known.get(field.key);
      if (old === field) return;
      const { options: chosen, ...question } = field;
      questions.push({ formId, position, ...question });
      chosen.forEach((option, place) => {
        if (old?.options[place] !== option) options.push({ formId, key: field.key, position: place, ...option });
      });
    });
    this.#prepared.setQuestions.run({ rows: JSON.stringify(questions) });
    if (options.length > 0) this.#prepared.setOptions.run({ rows: JSON.stringify(options) });
    this.#prepared.setLearned.run({ formId, learned: after.count });
  }

  /** Counts into weeks. Of questions only those that are kept: a form has not room for names without end. */
  #count(formId: string, weeks: readonly Week[], { fields }: FormSchema): void {
    const kept = new Set(fields.map(field => field.key));
    for (const { monday, submissions, filled } of weeks) {
      if (submissions === 0) continue;
      this.#prepared.addWeek.run({ formId, monday, submissions });
      const rows = Object.entries(filled)
        .filter(([key]) => kept.has(key))
        .map(([key, times]) => ({ formId, monday, key, filled: times }));
      this.#prepared.addQuestionWeeks.run({ rows: JSON.stringify(rows) });
    }
  }
}
