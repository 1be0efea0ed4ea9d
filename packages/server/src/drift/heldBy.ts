import { MOST_HELD, type LackingDelivery, type LeftOut } from '@grammata/contract';
import { reasonOf, type FormChange } from '@grammata/core/drift';
import { testsOf, type Test } from '@grammata/core/condition';
import { usesOf, type RouteDefinition, type Use } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import { aboutSubmission, asText, type Submission } from '@grammata/core/submission';
import { passes } from '../delivery';
import type { Services } from '../services';
import {
  isOfAnswers,
  isTraffic,
  type ChangeRow,
  type FailedRow,
  type HeldDelivery,
  type RouteRow,
  type SubmissionRow,
  type VersionRow,
} from '../store';
import { HELD_FOR_CHANGE, waitsFor } from './holding';
import {
  answerTouch,
  heldOfChange,
  isAbout,
  isLost,
  linesAmong,
  losing,
  operationsBefore,
  targetTouch,
  telling,
} from './touch';

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
    const field = lastOf((what as { field?: string }).field ?? '');
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

/** ms after a change is settled in which what was on its way by what was live before may still fail. */
const ON_ITS_WAY = 600_000;

/**
 * Deliveries of a route that a target rejected because of a change, the newest MOST_HELD at most: the call that was rejected uses what changed, by
 * the version that it was made under, and nothing else was complained of.
 */
export function failedBy({ store }: Pick<Services, 'store'>, row: ChangeRow, routeId: string): string[] {
  if (row.state === 'declined' || isTraffic(row.what)) return [];
  const until = row.settledAt === null ? Number.MAX_SAFE_INTEGER : row.settledAt + ON_ITS_WAY;
  const rows = store.changes.failedOf(routeId, row.asBeforeAt ?? row.firstAt, until, MOST_HELD);
  const definitions = new Map(
    rows.map(each => [each.versionId, store.routes.version(each.versionId)?.definition] as const),
  );
  const usesOfVersion = new Map(
    [...definitions].map(([id, definition]) => [id, definition ? usesOfChange({ store }, row, definition) : []]),
  );
  return rows
    .filter(each => {
      const uses = usesOfVersion.get(each.versionId)!.filter(use => use.callId === each.callId);
      return uses.length > 0 && isRejectedFor(row, each, uses);
    })
    .map(each => each.id);
}

/** Where a version uses what changed. */
function usesOfChange({ store }: Pick<Services, 'store'>, row: ChangeRow, definition: RouteDefinition): Use[] {
  const { what, subject, subjectId } = row;
  if (isTraffic(what)) return [];
  if (isOfAnswers(what))
    return answerTouch(what, subjectId, definition, store.targets.byId(subjectId)?.operations ?? []).uses;
  if (subject === 'target') return targetTouch(row, definition, operationsBefore(row)).uses;
  const { change, question } = what as FormChange;
  return question !== null && telling.has(change) ? usesOf(definition, question) : [];
}

/** Whether what was answered last may come of a change: it is about no line or field, or about one of those that use what changed. */
function isRejectedFor({ what }: ChangeRow, last: FailedRow, uses: readonly Use[]): boolean {
  if (what.change === 'credentials') return last.status === 401 || last.status === 403;
  if (last.outcome !== 'final') return false;
  if (isOfAnswers(what))
    return what.change === 'refused' && reasonOf(last.message) === reasonOf(asText(what.now ?? null));
  if (!('operation' in what) && !isAbout(what as FormChange, last.data)) return false;
  const lines = uses.flatMap(each => each.lineId ?? []);
  const field = 'operation' in what ? lastOf(what.field ?? '') : '';
  const isOfChange = ({ lineId, field: named }: FailedRow['complaints'][number]) =>
    lineId === null ? field === '' || lastOf(named) === field : lines.length === 0 || lines.includes(lineId);
  return last.complaints.length === 0 || last.complaints.some(isOfChange);
}

/** The last part of a field's place. */
const lastOf = (place: string): string => place.replace(/^.*[/.]/, '');

/** Whether the filter of a version asks for an answer that is not there any more as it was, and not for what stands in its place. */
function asksForLost({ definition: { condition } }: Pick<VersionRow, 'definition'>, change: FormChange): boolean {
  const testsOn = (question: string) => testsOf(condition).filter(each => each.field === questionKey(question));
  const asked = testsOn(change.question!);
  const isThere = (test: Test) => test.values.some(each => asText(each) === asText(change.now ?? null));
  if (change.change === 'option-renamed') return asked.some(each => !isThere(each));
  const isServed = change.change === 'replaced' && testsOn(asText(change.now ?? null)).length > 0;
  return losing.has(change.change) && asked.length > 0 && !isServed;
}

/**
 * Submissions since a change that the filter of a route left out while it asked for what changed: the first MOST_HELD at most, each with whether it
 * goes by what is live now. Once the filter is repaired, only those that go.
 */
export function leftOutBy({ store }: Pick<Services, 'store'>, row: ChangeRow, route: RouteRow): LeftOut[] {
  const change = row.what as FormChange;
  if (row.subject !== 'form' || !change.question || route.state !== 'live') return [];
  const versions = store.routes.versions(route.id, MOST_VERSIONS);
  const [live] = versions;
  if (!live || !versions.some(each => asksForLost(each, change))) return [];
  const asksStill = asksForLost(live, change);
  // It was left out by what was live when it came.
  const wasLost = ({ receivedAt }: SubmissionRow) => {
    const version = versions.find(each => each.createdAt <= receivedAt);
    return version !== undefined && asksForLost(version, change);
  };
  return store.forms
    .undelivered(row.subjectId, route.id, Math.max(row.firstAt, route.liveSince ?? 0), MOST_LOOKED)
    .filter(each => isAbout(change, each.data) && wasLost(each) && (asksStill || passes(live, each)))
    .slice(0, MOST_HELD)
    .map(each => ({
      sampleId: each.id,
      arrivalId: each.arrivalId,
      about: aboutSubmission(each.data),
      goes: passes(live, each),
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
