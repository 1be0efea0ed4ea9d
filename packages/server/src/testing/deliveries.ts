import { eq } from 'drizzle-orm';
import type { Database, DeliveryRow, Store } from '../store';
import { deliveries } from '../store/schema';

/** Puts a delivery into a state that it would take long to come to. */
export function changeDelivery({ deliveries: table }: Store, id: string, values: Partial<DeliveryRow>): void {
  const { db } = table as unknown as { db: Database };
  db.update(deliveries).set(values).where(eq(deliveries.id, id)).run();
}
