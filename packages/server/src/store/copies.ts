import { eq, lt } from 'drizzle-orm';
import type { Database } from './database';
import { copies, submissions } from './schema';

export type CopyRow = typeof copies.$inferSelect;

/** What is kept of files that are handed out by link. */
export class Copies {
  constructor(private readonly db: Database) {}

  /** Keeps a copy's row; one of the same identifier that has ended is replaced. What is only tried out is of no recorded submission. */
  put({ submissionId, ...row }: CopyRow): void {
    const owner = this.db
      .select({ id: submissions.id })
      .from(submissions)
      .where(eq(submissions.id, submissionId ?? ''))
      .get();
    const values = { ...row, submissionId: owner?.id ?? null };
    this.db.insert(copies).values(values).onConflictDoUpdate({ target: copies.id, set: values }).run();
  }

  byId(id: string): CopyRow | undefined {
    return this.db.select().from(copies).where(eq(copies.id, id)).get();
  }

  /** Forgets copies whose time is over. */
  removeEnded(at: number): void {
    this.db.delete(copies).where(lt(copies.expiresAt, at)).run();
  }

  /** All there are. */
  ids(): Set<string> {
    return new Set(
      this.db
        .select({ id: copies.id })
        .from(copies)
        .all()
        .map(row => row.id),
    );
  }
}
