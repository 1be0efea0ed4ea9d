import { compileCondition } from '@grammata/core/condition';
import type { LiveHub } from '../live';
import { aboutSubmission, type DeliveryRow, type Store, type SubmissionRow } from '../store';

/** Puts submissions on the routes of their form. */
export interface Dispatcher {
  /** Queues deliveries: live routes send at once, paused ones gather. To be called in the transaction that stores the submissions. */
  queue(submissions: SubmissionRow[]): DeliveryRow[];
  /** Tells of what was queued and has it sent. To be called once it is committed. */
  announce(queued: DeliveryRow[]): void;
}

export const dispatcher = (store: Store, live: LiveHub, wake: () => void): Dispatcher => ({
  queue: submissions =>
    submissions.flatMap(submission =>
      store.routes.ofForm(submission.formId).flatMap(route => {
        const version = route.state === 'draft' ? undefined : store.routes.latestVersion(route.id);
        if (!version || !compileCondition(version.definition.condition)(submission.data)) return [];
        const about = aboutSubmission(submission.data);
        const queued = store.deliveries.queue({
          routeId: route.id,
          versionId: version.id,
          submissionId: submission.id,
          about,
        });
        return queued ? [queued] : [];
      }),
    ),
  announce(queued) {
    for (const { routeId, id } of queued) live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
    wake();
  },
});
