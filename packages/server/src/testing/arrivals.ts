import { eq } from 'drizzle-orm';
import type { ArrivalRow, Database, Store } from '../store';
import { arrivals } from '../store/schema';

/** Puts an arrival into a state that it would take a crash to come to. */
export function beInState({ arrivals: table }: Store, id: string, state: ArrivalRow['state']): void {
  const { db } = table as unknown as { db: Database };
  db.update(arrivals).set({ state }).where(eq(arrivals.id, id)).run();
}
