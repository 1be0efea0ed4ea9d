import type { FormChange } from '@grammata/core/drift';
import { questionsUsed, usesOf, type changedChoices, type RouteDefinition } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import type { Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { now } from '../clock';
import type { Services } from '../services';
import { isTraffic, type ChangeRow, type DeliveryRow, type Store } from '../store';
import type { FormWatch } from './formWatch';
import { formTouch, isLost, losing, type Touched } from './touch';

const HOUR = 3_600_000;

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

/**
 * Says why a delivery is held for an open change of its form, as somebody decided for its route, or else as its terms have it; null where it
 * goes. What lacks nothing that is used is not looked at by the usual terms.
 */
export async function heldForChange(
  { store, watch }: Pick<Services, 'store'> & { watch: Pick<FormWatch, 'checkFor'> },
  { routeId, submissionId, createdAt }: Pick<DeliveryRow, 'routeId' | 'submissionId' | 'createdAt'>,
  definition: RouteDefinition,
  data: Submission,
): Promise<Problem | null> {
  const { whenChanged: rule = 'holdLost' } = definition.terms;
  if (now() >= heldUntil(createdAt, definition)) return null;
  // It is looked now, and not a moment later: this may be the first that shows it.
  const isLookedAt = rule === 'holdLost' ? lacksUsed(definition, data) : rule !== 'deliver';
  const submission = isLookedAt ? store.arrivals.submission(submissionId) : undefined;
  const newest = submission ? await watch.checkFor(submission) : null;
  const open = store.changes.openFor(submissionId).filter(each => !isTraffic(each.what));
  if (open.length === 0) return null;
  const isTouched = touchedBy(store, definition, newest);
  const holds = (change: ChangeRow): boolean => {
    switch (ruleFor(change, routeId, definition)) {
      case 'deliver':
        return false;
      case 'holdAll':
        return true;
      case 'holdTouched':
        return isTouched(change);
      case 'holdLost':
        return isLost(change.what as FormChange, definition, data);
    }
  };
  return open.some(holds) ? new Problem('form.changed', HELD_FOR_CHANGE, null) : null;
}

/** Until when a delivery that began at a time is held at most; ms since the epoch, Infinity where that has no limit. */
export const heldUntil = (createdAt: number, { terms: { holdHours = Infinity } }: RouteDefinition): number =>
  createdAt + holdHours * HOUR;

type Rule = (typeof changedChoices)[number];

/**
 * What a route does with what comes while a change is open: as somebody decided for it, or else by its terms. Held by a decision is what lacks
 * the answer; where the change takes none away, all that comes.
 */
function ruleFor(
  { what, decided }: Pick<ChangeRow, 'what' | 'decided'>,
  routeId: string,
  { terms }: RouteDefinition,
): Rule {
  const { whenChanged = 'holdLost' } = terms;
  const decision = decided[routeId];
  if (decision === 'deliver') return 'deliver';
  if (decision === undefined || whenChanged === 'holdAll' || whenChanged === 'holdTouched') return whenChanged;
  return losing.has(what.change) ? 'holdLost' : 'holdTouched';
}

/** Whether a submission that is held for a change of its form is, or may be, held for this one, by the version that it was held under. */
export function waitsFor(
  { what, decided }: Pick<ChangeRow, 'what' | 'decided'>,
  routeId: string,
  definition: RouteDefinition,
  data: Submission,
): boolean {
  const change = what as FormChange;
  // Where somebody lets it go now, it was held before.
  const asHeld = decided[routeId] === undefined ? decided : { [routeId]: 'hold' as const };
  switch (ruleFor({ what, decided: asHeld }, routeId, definition)) {
    case 'deliver':
      return false;
    case 'holdAll':
      return true;
    case 'holdTouched':
      return change.question === null || usesOf(definition, change.question).length > 0;
    case 'holdLost':
      return isLost(change, definition, data);
  }
}

/** Whether a route holds what comes while a change is open; `touched` as it was tried. */
export function isHolding(
  row: Pick<ChangeRow, 'what' | 'subject' | 'decided'>,
  routeId: string,
  definition: RouteDefinition,
  { touch, uses }: Pick<Touched, 'touch' | 'uses'>,
): boolean {
  if (row.subject !== 'form' || isTraffic(row.what)) return false;
  switch (ruleFor(row, routeId, definition)) {
    case 'deliver':
      return false;
    case 'holdAll':
      return true;
    case 'holdTouched':
      return touch !== 'harmless';
    case 'holdLost':
      return losing.has(row.what.change) && uses.length > 0;
  }
}

/** Whether a submission does not show a question that a route uses: answered or not, it is not in the message. */
function lacksUsed(definition: RouteDefinition, { questions, fields, files }: Submission): boolean {
  const shown = new Set([
    ...[...questions, ...fields].map(each => questionKey(each.key)),
    ...files.map(each => questionKey(each.field)),
  ]);
  return questionsUsed(definition).some(each => !shown.has(each));
}

/** Whether a change touches what a route uses, tried on the newest submissions; each is tried once for the newest that was looked at. */
function touchedBy(store: Store, definition: RouteDefinition, newest: string | null): (change: ChangeRow) => boolean {
  const verdicts = newest === null ? new Map<string, boolean>() : verdictsOf(definition, newest);
  return change => {
    const verdict =
      verdicts.get(change.id) ??
      formTouch(
        { store },
        change,
        definition,
        store.forms
          .samples(change.subjectId, LOOKED)
          .filter(one => one.receivedAt >= change.firstAt)
          .map(one => one.data),
      ).touch !== 'harmless';
    verdicts.set(change.id, verdict);
    return verdict;
  };
}
