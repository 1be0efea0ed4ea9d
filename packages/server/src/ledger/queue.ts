import { now } from '../clock';
import { newId } from '../ids';
import type { QueuedDelivery } from './commands';
import type { Statements } from './statements';

/** A delivery to be made. */
export interface Enqueued {
  routeId: string;
  versionId: string;
  submissionId: string;
  /** A few answers, to be known by. */
  about: string;
  /** 1 unless it is a deliberate second one. */
  run?: number;
  createdAt?: number;
  /** The arrival that it is of, where that is asked for. */
  arrivalId?: string;
}

/** The key that requests of a delivery begin with: it follows from what is delivered, where to, and the how-manieth time. */
export const deliveryKey = (submissionId: string, routeId: string, run: number): string =>
  `${submissionId}-${routeId}-${run}`;

/** Queues deliveries, each once: what is there already is left out. Gives those that are new. */
export function enqueue(sql: Statements, wanted: readonly Enqueued[]): (QueuedDelivery & { arrivalId?: string })[] {
  if (wanted.length === 0) return [];
  const at = now();
  const rows = wanted.map(({ run = 1, createdAt = at, ...each }) => ({
    ...each,
    id: newId(),
    run,
    createdAt,
    key: deliveryKey(each.submissionId, each.routeId, run),
  }));
  const added = sql.rows<{ id: string }>(
    `INSERT INTO deliveries (id, route_id, version_id, submission_id, state, run, idempotency_key, created_at, next_attempt_at,
       attempts, about)`,
    rows.map(each => [
      each.id,
      each.routeId,
      each.versionId,
      each.submissionId,
      'waiting',
      each.run,
      each.key,
      each.createdAt,
      each.createdAt,
      0,
      each.about,
    ]),
    'ON CONFLICT DO NOTHING RETURNING id',
  );
  const isNew = new Set(added.map(each => each.id));
  return rows
    .filter(each => isNew.has(each.id))
    .map(({ id, routeId, arrivalId }) => ({ id, routeId, ...(arrivalId !== undefined && { arrivalId }) }));
}
