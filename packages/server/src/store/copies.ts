import { eq, inArray, lt } from 'drizzle-orm';
import type { Database } from './database';
import { copies } from './schema';

export type CopyRow = typeof copies.$inferSelect;

/** What is kept of files that are handed out by link. */
export class Copies {
  constructor(private readonly db: Database) {}

  /** Keeps a copy's row; one of the same identifier that has ended is replaced. */
  put(row: CopyRow): void {
    this.db.insert(copies).values(row).onConflictDoUpdate({ target: copies.id, set: row }).run();
  }

  byId(id: string): CopyRow | undefined {
    return this.db.select().from(copies).where(eq(copies.id, id)).get();
  }

  /** Forgets copies whose time is over, and gives back which. */
  takeEnded(at: number): string[] {
    const ended = this.db.select({ id: copies.id }).from(copies).where(lt(copies.expiresAt, at)).all();
    const ids = ended.map(row => row.id);
    if (ids.length > 0) this.db.delete(copies).where(inArray(copies.id, ids)).run();
    return ids;
  }
}
