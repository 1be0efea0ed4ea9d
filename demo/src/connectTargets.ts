import type { Services } from '@grammata/server';
import { readTarget } from '@grammata/server';

/** Reads the tables and columns of targets that were never read. */
export async function connectTargets(services: Services): Promise<void> {
  for (const target of services.store.targets.all()) if (target.readAt === null) await readTarget(services, target);
}
