import type { BatchView } from '@grammata/contract';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { newId } from '../ids';
import type { Database } from './database';
import { batches, proofs } from './proofsSchema';

export type ProofRow = typeof proofs.$inferSelect;

/** Approved rehearsals of routes. */
export class Proofs {
  constructor(private readonly db: Database) {}

  /** Those of a route, in the order in which they were approved first. */
  of(routeId: string): ProofRow[] {
    return this.db.select().from(proofs).where(eq(proofs.routeId, routeId)).orderBy(asc(proofs.id)).all();
  }

  /** Keeps approved rehearsals, all of them or none. */
  add(rows: readonly Omit<ProofRow, 'id'>[]): void {
    this.db.transaction(tx => {
      for (const row of rows)
        tx.insert(proofs)
          .values({ ...row, id: newId() })
          .run();
    });
  }

  /** Approves some anew, all of them or none. */
  update(rows: readonly (Partial<ProofRow> & Pick<ProofRow, 'id'>)[]): void {
    this.db.transaction(tx => {
      for (const { id, ...values } of rows) tx.update(proofs).set(values).where(eq(proofs.id, id)).run();
    });
  }

  remove(routeId: string, ids: readonly string[]): number {
    const of = and(eq(proofs.routeId, routeId), inArray(proofs.id, [...ids]));
    return this.db.delete(proofs).where(of).returning({ id: proofs.id }).all().length;
  }

  /** Keeps how a batch of samples fared, in the place of the one before. */
  keepBatch(routeId: string, report: BatchView): void {
    this.db
      .insert(batches)
      .values({ routeId, report })
      .onConflictDoUpdate({ target: batches.routeId, set: { report } })
      .run();
  }

  /** How the last batch fared; null where none was tried. */
  batch(routeId: string): BatchView | null {
    return this.db.select().from(batches).where(eq(batches.routeId, routeId)).get()?.report ?? null;
  }
}
