import { and, asc, count, desc, eq, isNull } from 'drizzle-orm';
import type { FormRow, SubmissionRow } from './arrivals';
import type { Database } from './database';
import { forms, intakes, submissions } from './schema';

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
}
