import type { RouteDefinition } from '@grammata/core/route';
import { Problem } from '@grammata/core/transform';
import type { Services } from '../services';
import { isTraffic, type ChangeRow, type DeliveryRow, type SubmissionRow } from '../store';
import type { FormWatch } from './formWatch';
import { formTouch } from './touch';

/** Why a delivery is held whose form changed. */
export const HELD_FOR_CHANGE = 'The form changed. Resolve the change under Changes, then send it again.';

/** Newest submissions on which it is seen what a change does. */
const LOOKED = 20;

/** Whether changes hold back what routes send, by definition, as of the newest submission that was looked at. */
const known = new WeakMap<RouteDefinition, { newest: string; verdicts: Map<string, boolean> }>();

function verdictsOf(definition: RouteDefinition, newest: string): Map<string, boolean> {
  const before = known.get(definition);
  if (before?.newest === newest) return before.verdicts;
  const verdicts = new Map<string, boolean>();
  known.set(definition, { newest, verdicts });
  return verdicts;
}

/** Says why a delivery is held for an open change of its form, as its route has it; null where it goes. */
export async function heldForChange(
  { store, watch }: Pick<Services, 'store'> & { watch: Pick<FormWatch, 'checkFor'> },
  delivery: Pick<DeliveryRow, 'routeId' | 'submissionId'>,
  definition: RouteDefinition,
): Promise<Problem | null> {
  const { whenChanged = 'deliver' } = definition.terms;
  if (whenChanged === 'deliver') return null;
  const submission = store.arrivals.submission(delivery.submissionId);
  if (!submission) return null;
  // It is looked now, and not a moment later: this may be the first that shows it.
  const newest = await watch.checkFor(submission);
  const verdict = verdictsOf(definition, newest);
  let samples: SubmissionRow[] | null = null;
  const breaks = (change: ChangeRow): boolean => {
    samples ??= store.forms.samples(submission.formId, LOOKED);
    const since = samples.filter(one => one.receivedAt >= change.firstAt).map(one => one.data);
    return formTouch({ store }, change, definition, since).touch !== 'harmless';
  };
  const open = store.changes
    .openOf('form', submission.formId)
    .filter(each => !isTraffic(each.what) && each.firstAt <= submission.receivedAt)
    .find(each => {
      if (whenChanged === 'holdAll') return true;
      const isHeld = verdict.get(each.id) ?? breaks(each);
      verdict.set(each.id, isHeld);
      return isHeld;
    });
  return open ? new Problem('form.changed', HELD_FOR_CHANGE, null) : null;
}
