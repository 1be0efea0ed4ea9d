import { aboutSubmission } from '@grammata/core/submission';
import { compileCondition } from '@grammata/core/condition';
import { scopeOf } from '@grammata/core/scope';
import type { DueDeliveries } from '../due';
import type { LiveHub } from '../live';
import { type DeliveryRow, type Store, type SubmissionRow, type VersionRow } from '../store';

/** Puts submissions on the routes of their form. */
export interface Dispatcher {
  /** Queues deliveries: live routes send at once, paused ones gather. To be called in the transaction that stores the submissions. */
  queue(submissions: SubmissionRow[]): DeliveryRow[];
  /** Tells of what was queued and has it sent. To be called once it is committed. */
  announce(queued: DeliveryRow[]): void;
}

/** Conditions of versions, compiled: a version never changes. */
const compiled = new WeakMap<VersionRow, ReturnType<typeof compileCondition>>();

/** Whether a submission passes the condition of a version. */
export function passes(version: VersionRow, { data }: Pick<SubmissionRow, 'data'>): boolean {
  const known = compiled.get(version) ?? compileCondition(version.definition.condition);
  compiled.set(version, known);
  return known(scopeOf(data));
}

export const dispatcher = (store: Store, due: DueDeliveries, live: LiveHub, wake: () => void): Dispatcher => ({
  queue: submissions =>
    due.enqueue(
      submissions.flatMap(submission =>
        store.routes
          .running(submission.formId)
          .filter(({ version }) => passes(version, submission))
          .map(({ id, version }) => ({
            routeId: id,
            versionId: version.id,
            submissionId: submission.id,
            about: aboutSubmission(submission.data),
          })),
      ),
    ),
  announce(queued) {
    for (const { routeId, id } of queued) live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
    if (queued.length > 0) wake();
  },
});
