import type { RouteDefinition } from '@grammata/core/route';
import { Problem } from '@grammata/core/transform';
import type { Services } from '../services';
import { isTraffic, type DeliveryRow } from '../store';
import { formTouch } from './touch';

/** Newest submissions on which it is seen what a change does. */
const LOOKED = 20;

/** Says why a delivery is held for an open change of its form, as its route has it; null where it goes. */
export function heldForChange(
  { store, watch }: Pick<Services, 'store'> & { watch: { check(formId: string): void } },
  delivery: Pick<DeliveryRow, 'routeId' | 'submissionId'>,
  definition: RouteDefinition,
): Problem | null {
  const { whenChanged = 'deliver' } = definition.terms;
  if (whenChanged === 'deliver') return null;
  const submission = store.arrivals.submission(delivery.submissionId);
  if (!submission) return null;
  // It is looked now, and not a moment later: this may be the first that shows it.
  watch.check(submission.formId);
  const samples = store.forms.samples(submission.formId, LOOKED);
  const open = store.changes
    .openOf('form', submission.formId)
    .filter(each => !isTraffic(each.what) && each.firstAt <= submission.receivedAt)
    .find(each => {
      const since = samples.filter(one => one.receivedAt >= each.firstAt).map(one => one.data);
      return whenChanged === 'holdAll' || formTouch({ store }, each, definition, since).touch !== 'harmless';
    });
  return open
    ? new Problem('form.changed', 'The form changed: look at that under Changes, then send it again.', null)
    : null;
}
