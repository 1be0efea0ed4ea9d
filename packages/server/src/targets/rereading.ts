import { now } from '../clock';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import type { Schedule } from '../timing';
import { readTarget } from './readTarget';

/** ms after which what a target offers is read again. */
const AGE = 6 * 3600_000;
/** When it is looked which are due: at a minute when not everybody does. */
const EVERY = '17 * * * *';

/** True for a target whose offer is had from itself: a document that was given does not change by itself. */
const isRead = ({ reads, document, readAt }: TargetRow): boolean =>
  (reads === 'tables' || reads === 'openapi' || reads === 'graphql') && document === null && readAt !== null;

/** ms after a reading within which a target is not read again because it refuses something. */
const JUST_READ = 60_000;

/**
 * Reads again what a target offers that refuses what it took: where its description changed, that is told at once. One that could not be read
 * when it was read last waits for its turn.
 */
export async function rereadRefusing(services: Services, { id }: Pick<TargetRow, 'id'>): Promise<void> {
  const row = services.store.targets.byId(id);
  if (row && row.fault === null && isRead(row) && now() - row.readAt! >= JUST_READ) await readTarget(services, row);
}

/** Reads what targets offer again, each now and then: what is otherwise is told. */
export function rereading(services: Services): Schedule {
  return services.timers.schedule('reading targets again', EVERY, async () => {
    for (const row of services.store.targets.all())
      if (isRead(row) && now() - row.readAt! >= AGE) await readTarget(services, row);
  });
}
