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

/** Reads what targets offer again, each now and then: what is otherwise is told. */
export function rereading(services: Services): Schedule {
  return services.timers.schedule('reading targets again', EVERY, async () => {
    for (const row of services.store.targets.all())
      if (isRead(row) && now() - row.readAt! >= AGE) await readTarget(services, row);
  });
}
