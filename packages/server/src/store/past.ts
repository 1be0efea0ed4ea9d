import { eq, sql } from 'drizzle-orm';
import type { Database } from './database';
import { attempts, deliveries, submissions } from './schema';

/** Puts what is set up at once on the days on which it would have happened: a demo has a past. */
export class Past {
  constructor(private readonly db: Database) {}

  /** Moves a submission, and what was made of it, to the time at which it came; ms since the epoch. */
  putBack(submissionId: string, receivedAt: number): void {
    this.db.transaction(tx => {
      tx.update(submissions).set({ receivedAt }).where(eq(submissions.id, submissionId)).run();
      const own = tx.select().from(deliveries).where(eq(deliveries.submissionId, submissionId)).all();
      for (const { id, finishedAt } of own) {
        const begun = receivedAt + 1000;
        tx.update(deliveries)
          .set({ createdAt: begun, finishedAt: finishedAt && begun + 400 })
          .where(eq(deliveries.id, id))
          .run();
        // Each try stays as long after the first as it was.
        tx.update(attempts)
          .set({
            startedAt: sql`${begun} + ${attempts.startedAt} - (select min(a.started_at) from attempts a where a.delivery_id = ${id})`,
          })
          .where(eq(attempts.deliveryId, id))
          .run();
      }
    });
  }
}
