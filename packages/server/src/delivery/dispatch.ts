import { compileCondition } from '@grammata/core/condition';
import type { LiveHub } from '../live';
import type { Store, SubmissionRow } from '../store';
import { aboutSubmission } from './prepare';

/** Puts new submissions on the routes of their form: live ones send at once, paused ones gather. */
export function dispatcher(store: Store, live: LiveHub, wake: () => void) {
  return (submissions: SubmissionRow[]): void => {
    for (const submission of submissions) {
      for (const route of store.routes.ofForm(submission.formId)) {
        const version = route.state === 'draft' ? undefined : store.routes.latestVersion(route.id);
        if (!version || !compileCondition(version.definition.condition)(submission.data)) continue;
        const queued = store.deliveries.queue({
          routeId: route.id,
          versionId: version.id,
          submissionId: submission.id,
          about: aboutSubmission(submission.data),
        });
        if (queued) live.publish({ type: 'delivery', routeId: route.id, deliveryId: queued.id, state: 'waiting' });
      }
    }
    wake();
  };
}
