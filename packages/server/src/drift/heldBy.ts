import { MOST_HELD, type LackingDelivery, type LeftOut } from '@grammata/contract';
import type { FormChange } from '@grammata/core/drift';
import { usesOf } from '@grammata/core/route';
import { aboutSubmission, type Submission } from '@grammata/core/submission';
import { passes } from '../delivery';
import type { Services } from '../services';
import { isOfAnswers, isTraffic, type ChangeRow, type HeldDelivery, type RouteRow, type VersionRow } from '../store';
import { HELD_FOR_CHANGE, waitsFor } from './holding';
import { heldOfChange, isAbout, isLost, linesAmong, losing, telling } from './touch';

/** Whether a reason is about a field: what is wrong with a line begins with the field's name. */
const isAboutField = (reason: string, field: string): boolean =>
  field !== '' && (reason.startsWith(`${field} `) || reason.includes(`. ${field} `));

/**
 * Deliveries of a route that are held because of a change, among the newest MOST_HELD since it was seen; their identifiers. Each counts by
 * the version that it was held under, so that it stands here until it is sent, also when a repair is live.
 */
export function heldBy(parts: Pick<Services, 'store'>, row: ChangeRow, routeId: string): string[] {
  const { what } = row;
  if (isTraffic(what) || isOfAnswers(what)) return [];
  const rows = parts.store.deliveries.heldSince(routeId, row.firstAt, MOST_HELD);
  const idsOf = (of: readonly HeldDelivery[]) => of.map(each => each.id);
  if (row.subject === 'target') {
    const field = (what as { field?: string }).field?.replace(/^.*\//, '') ?? '';
    return idsOf(rows.filter(each => isAboutField(each.reason ?? '', field)));
  }
  const change = what as FormChange;
  const versions = new Set(rows.map(each => each.versionId));
  return [...versions].flatMap(versionId => {
    const definition = parts.store.routes.version(versionId)?.definition;
    if (!definition) return [];
    const ofVersion = rows.filter(each => each.versionId === versionId);
    const unsent = telling.has(change.change)
      ? heldOfChange(
          parts,
          change,
          definition,
          ofVersion.map(each => each.data),
        )
      : new Set<Submission>();
    return idsOf(
      ofVersion.filter(({ reason, data }) =>
        reason?.includes(HELD_FOR_CHANGE) ? waitsFor(row, routeId, definition, data) : unsent.has(data),
      ),
    );
  });
}

/**
 * Deliveries of a route that went without an answer that it uses, since the question is gone or has another key: the first MOST_HELD
 * that were delivered since that was seen at most. One that was sent again by a mapping that does without the question is complete.
 */
export function deliveredWithout(
  { store }: Pick<Services, 'store'>,
  row: ChangeRow,
  routeId: string,
): LackingDelivery[] {
  const change = row.what as FormChange;
  if (row.subject !== 'form' || !losing.has(change.change)) return [];
  return store.deliveries.deliveredSince(routeId, row.firstAt, MOST_HELD).flatMap(({ id, about, versionId, data }) => {
    const definition = store.routes.version(versionId)?.definition;
    return definition && isLost(change, definition, data) ? [{ id, about }] : [];
  });
}

/** Changes after which a filter may ask for an answer that does not come any more. */
const emptying: ReadonlySet<string> = new Set([
  ...losing,
  'option-renamed',
  'option-gone',
  'kind',
  'notation',
  'single-to-list',
]);

/**
 * Submissions since a change that a route made no delivery for, since its filter asks for what changed: the first MOST_HELD at most, each with
 * whether the filter lets it through by now.
 */
export function leftOutBy({ store }: Pick<Services, 'store'>, row: ChangeRow, route: RouteRow): LeftOut[] {
  const change = row.what as FormChange;
  const live = store.routes.latestVersion(route.id);
  if (row.subject !== 'form' || change.question === null || !emptying.has(change.change) || !live) return [];
  // It was left out by what was live when it came.
  const asks = ({ definition }: VersionRow) => usesOf({ ...definition, calls: [] }, change.question!).length > 0;
  if (route.state !== 'live' || !store.routes.versions(route.id, MOST_VERSIONS).some(asks)) return [];
  return store.deliveries
    .noneOf(route.id, row.subjectId, Math.max(row.firstAt, route.liveSince ?? 0), MOST_LOOKED)
    .filter(({ data }) => isAbout(change, data))
    .slice(0, MOST_HELD)
    .map(({ id, arrivalId, data }) => ({
      sampleId: id,
      arrivalId,
      about: aboutSubmission(data),
      goes: passes(live, { data }),
    }));
}

/** Versions of a route among which those that asked for a question are looked for, and submissions among those that were left out. */
const MOST_VERSIONS = 20;
const MOST_LOOKED = 1000;

/**
 * The open change that a route's held deliveries seem to come of: they wait for it, or their reason names a field that is filled from the
 * question that changed; null where there is none.
 */
export function changeBehind({ store }: Pick<Services, 'store'>, route: RouteRow, reason: string): ChangeRow | null {
  const { definition, formId } = store.routes.doing(route);
  const open = store.changes.openOf('form', formId).filter(each => !isTraffic(each.what));
  if (reason.includes(HELD_FOR_CHANGE)) return open[0] ?? null;
  const isNamed = ({ what }: ChangeRow) => {
    const { question } = what as FormChange;
    if (question === null) return false;
    const lines = linesAmong(usesOf(definition, question));
    return definition.calls
      .flatMap(call =>
        call.lines.filter(line => lines.some(each => each.callId === call.id && each.lineId === line.id)),
      )
      .some(line => isAboutField(reason, line.to));
  };
  return open.find(isNamed) ?? null;
}
