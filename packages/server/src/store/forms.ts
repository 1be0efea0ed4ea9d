import type { SampleInput, VariantInput } from '@grammata/contract';
import { emptySchema, mergeSchema } from '@grammata/core/schema';
import { and, asc, count, desc, eq, isNull, getTableColumns, sql } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import type { FormRow, SubmissionRow } from './arrivals';
import type { Database } from './database';
import { forms, intakes, routes, submissions, variants } from './schema';

export type VariantRow = typeof variants.$inferSelect;

export interface FormWithCounts {
  form: FormRow;
  intakeName: string;
  submissions: number;
}

const own = (formId: string) => and(eq(submissions.formId, formId), isNull(submissions.repeatOf));

/** Forms that were seen, and their samples. */
export class Forms {
  constructor(private readonly db: Database) {}

  all(): FormWithCounts[] {
    const counts = new Map(
      this.db
        .select({ id: submissions.formId, n: count() })
        .from(submissions)
        .where(isNull(submissions.repeatOf))
        .groupBy(submissions.formId)
        .all()
        .map(row => [row.id, row.n]),
    );
    const rows = this.db
      .select({ form: forms, intakeName: intakes.name })
      .from(forms)
      .innerJoin(intakes, eq(intakes.id, forms.intakeId))
      .orderBy(asc(forms.name))
      .all();
    return rows.map(row => ({ ...row, submissions: counts.get(row.form.id) ?? 0 }));
  }

  byId(id: string): FormWithCounts | undefined {
    const row = this.db
      .select({ form: forms, intakeName: intakes.name })
      .from(forms)
      .innerJoin(intakes, eq(intakes.id, forms.intakeId))
      .where(eq(forms.id, id))
      .get();
    return row && { ...row, submissions: this.db.select({ n: count() }).from(submissions).where(own(id)).get()!.n };
  }

  /** The newest samples, newest first. */
  samples(formId: string, limit: number): SubmissionRow[] {
    return this.db
      .select()
      .from(submissions)
      .where(own(formId))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .limit(limit)
      .all();
  }

  /** The same, with what was read as the JSON text it is stored as: to be handed on without reading it. */
  sampleTexts(formId: string, limit: number): (Omit<SubmissionRow, 'data'> & { data: string })[] {
    return this.db
      .select({ ...getTableColumns(submissions), data: sql<string>`${submissions.data}` })
      .from(submissions)
      .where(own(formId))
      .orderBy(desc(submissions.receivedAt), desc(submissions.id))
      .limit(limit)
      .all();
  }

  update(id: string, values: Partial<Pick<FormRow, 'state' | 'name'>>): void {
    if (Object.keys(values).length > 0) this.db.update(forms).set(values).where(eq(forms.id, id)).run();
  }

  /** Makes a form's schema anew out of its submissions; a form that nothing belongs to any more goes. */
  rebuild(id: string): void {
    this.db.transaction(tx => {
      let schema = emptySchema;
      let lastAt: number | null = null;
      for (const { data, receivedAt } of tx
        .select({ data: submissions.data, receivedAt: submissions.receivedAt })
        .from(submissions)
        .where(own(id))
        .orderBy(asc(submissions.receivedAt), asc(submissions.id))
        .all()) {
        schema = mergeSchema(schema, data);
        lastAt = receivedAt;
      }
      const isEmpty =
        lastAt === null &&
        [submissions, routes, variants].every(
          table => !tx.select({ id: table.id }).from(table).where(eq(table.formId, id)).get(),
        );
      if (isEmpty) tx.delete(forms).where(eq(forms.id, id)).run();
      else tx.update(forms).set({ schema, lastAt }).where(eq(forms.id, id)).run();
    });
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

  /** Names a recorded sample, or says that it is kept; false when there is none. */
  describeSample(id: string, { name, kept }: SampleInput): boolean {
    const values = {
      ...(name === undefined ? {} : { name: name.trim() || null }),
      ...(kept === undefined ? {} : { kept }),
    };
    return this.db.update(submissions).set(values).where(eq(submissions.id, id)).returning().all().length > 0;
  }
}
