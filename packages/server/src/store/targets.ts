import { asc, eq } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import type { Database } from './database';
import { targets } from './schema';

export type TargetRow = typeof targets.$inferSelect;

/** Downstream systems. */
export class Targets {
  constructor(private readonly db: Database) {}

  all(): TargetRow[] {
    return this.db.select().from(targets).orderBy(asc(targets.name)).all();
  }

  byId(id: string): TargetRow | undefined {
    return this.db.select().from(targets).where(eq(targets.id, id)).get();
  }

  create(
    values: Pick<TargetRow, 'name' | 'baseUrl' | 'discoveryPath' | 'secret'> &
      Partial<Pick<TargetRow, 'reads' | 'auth' | 'document' | 'recipe' | 'patience' | 'trySide' | 'trySecret'>>,
  ): TargetRow {
    return this.db
      .insert(targets)
      .values({ ...values, id: newId(), operations: [], createdAt: now() })
      .returning()
      .get();
  }

  update(id: string, values: Partial<TargetRow>): TargetRow | undefined {
    return this.db.update(targets).set(values).where(eq(targets.id, id)).returning().get();
  }

  remove(id: string): void {
    this.db.delete(targets).where(eq(targets.id, id)).run();
  }
}
