import type { RepairInput, RepairView, RepairedView } from '@grammata/contract';
import {
  repairsForForm,
  repairsForTarget,
  type DocumentChange,
  type Fare,
  type FormChange,
  type Repair,
  type RepairWay,
} from '@grammata/core/drift';
import { holdAll, type ProofResult } from '@grammata/core/proof';
import { differencesOf, sameDefinition, targetsOf, type RouteDefinition } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import { iso } from '../clock';
import { heldOf, operationsBefore, triedOf } from '../drift';
import { HttpProblem } from '../problems';
import type { Services } from '../services';
import { draftOf, isOfAnswers, isTraffic, type ChangeRow, type RouteRow } from '../store';
import type { Actor } from './actor';
import { markOf, mustBeAsShown } from './asShown';
import { changeOr404, LOOKED, routeOr404, settleChange, touchesOf } from './changes';
import { acceptProofs, markOfProof, playOf } from './proofs';
import { saveDraft } from './routes';

type Parts = Pick<Services, 'store' | 'deliveries' | 'courier' | 'live' | 'log' | 'timers'>;

/** Newest submissions with which a repair is made, and on which it is tried. */
const REPAIRED_OVER = 120;

/**
 * The ways to mend a route's draft for a change, if it needs that and there is one; the one that is asked for tried on what is stored, else the
 * first. Throws HttpProblem where the change or the route is not there.
 */
export function proposeRepair(parts: Parts, id: string, { routeId, way, value }: RepairInput): RepairedView {
  const row = changeOr404(parts, id);
  const route = routeOr404(parts, routeId);
  const ways = waysFor(parts, row, route, draftOf(route), value);
  const chosen = chosenOf(ways, way);
  const does = parts.store.routes.doing(route);
  return {
    ways: ways.map(({ repair: _, ...each }) => each),
    way: chosen?.way ?? null,
    repair: chosen?.repair ? shown(parts, route, chosen.repair) : null,
    isDrafted:
      ways.length === 0 && !sameDefinition(does.definition, route.draft) && waysFor(parts, row, route, does).length > 0,
  };
}

/** The way that is asked for, else the first; one that is not there any more is no other. */
const chosenOf = (ways: readonly TriedWay[], way: RepairInput['way']): TriedWay | undefined =>
  way === undefined ? ways[0] : ways.find(each => each.way === way);

function shown(parts: Parts, route: RouteRow, repair: Repair): RepairView {
  const rows = parts.store.forms.samples(route.formId, LOOKED);
  const samples = rows.map(each => each.data);
  const definitions = [route.draft, repair.definition] as const;
  const [stands, then] = definitions.map(definition => heldOf(parts, definition, samples));
  const lines = differencesOf(...definitions).flatMap(each =>
    each.what === 'line' ? [{ callId: each.callId, lineId: each.lineId, to: (each.after ?? each.before)!.to }] : [],
  );
  const [triedNow, triedThen] = definitions.map(definition => triedOf(parts, definition, lines, samples));
  return {
    words: repair.words,
    labels: labelsOf(parts.store.forms.byId(route.formId)?.schema.fields ?? []),
    lines,
    tried: rows.map(({ receivedAt }, index) => ({
      receivedAt: iso(receivedAt),
      stands: triedNow![index]!,
      then: triedThen![index]!,
    })),
    definition: repair.definition,
    draft: route.draft,
    mark: markOfRepair(parts, route, repair),
    samples: { looked: stands!.looked, held: stands!.held, lookedThen: then!.looked, heldThen: then!.held },
    proofs: proofsOf(parts, route, repair),
  };
}

function proofsOf(parts: Parts, route: RouteRow, { definition }: Repair): RepairView['proofs'] {
  const total = parts.store.proofs.of(route.id).length;
  const then = heldToProofs(parts, route, definition);
  return {
    total,
    differing: differing(heldToProofs(parts, route, route.draft), total),
    differingThen: differing(then, total),
    accepted: differingOnlyBy(then, route.draft, definition).length,
  };
}

/** What people call questions, by their keys; of several that are called the same, with the key. */
function labelsOf(fields: readonly { key: string; label: string }[]): Record<string, string> {
  const isOnly = (label: string) => fields.filter(each => each.label === label).length === 1;
  return Object.fromEntries(
    fields.map(({ key, label }) => [questionKey(key), isOnly(label) ? label : `${label} (${key})`]),
  );
}

/** Another as soon as the draft is edited, what came since asks for another repair, or a proof is another that is accepted with it. */
function markOfRepair(parts: Parts, route: RouteRow, { definition }: Repair): string {
  const ids = differingOnlyBy(heldToProofs(parts, route, definition), route.draft, definition);
  const proofs = parts.store.proofs.of(route.id).filter(each => ids.includes(each.id));
  return markOf([route.revision, definition, proofs.map(each => [each.id, markOfProof(each)])]);
}

/**
 * What would mend what a route does, or is drawn to do, each tried on what came since; the one after which the least is held first. None where
 * nothing is to be mended, or nothing mends it.
 */
function waysFor(
  { store }: Pick<Parts, 'store'>,
  row: ChangeRow,
  route: RouteRow,
  { definition, formId }: Pick<ReturnType<typeof draftOf>, 'definition' | 'formId'>,
  value?: string,
): TriedWay[] {
  const form = store.forms.byId(formId);
  if (!form || isTraffic(row.what) || isOfAnswers(row.what) || (row.subject === 'form' && formId !== row.subjectId))
    return [];
  const since = row.subject === 'form' ? row.firstAt : 0;
  const samples = store.forms
    .samples(formId, REPAIRED_OVER)
    .filter(each => each.receivedAt >= since)
    .map(each => each.data);
  const operationOf = ({ targetId, operationId }: { targetId: string; operationId: string }) =>
    store.targets.byId(targetId)?.operations.find(each => each.id === operationId) ?? null;
  const made = { schema: form.schema, samples, operationOf, ...(value !== undefined && { value }) };
  const ways =
    row.subject === 'form'
      ? repairsForForm(row.what as FormChange, definition, made)
      : repairsForTarget(row.what as DocumentChange, row.subjectId, definition, {
          ...made,
          before: operationsBefore(row),
          after: store.targets.byId(row.subjectId)?.operations ?? [],
        });
  const fareWith = (of: RouteDefinition) => heldOf({ store }, of, samples);
  const stands = fareWith(definition);
  const tried = ways.map(each => ({ each, then: each.repair && fareWith(each.repair.definition) }));
  const isGain = tried.some(({ then }) => then !== null && isLess(then, stands));
  // After which more is held than without is no repair; nor one that mends nothing beside one that does.
  const mends = (then: Fare) => isLess(then, stands) || (!isLess(stands, then) && !isGain);
  return tried
    .toSorted((one, other) => (one.then?.held ?? MOST) - (other.then?.held ?? MOST))
    .flatMap(({ each, then }): TriedWay[] => {
      if (then === null || mends(then)) return [{ ...each, fault: null }];
      // What a person said for it is not taken: it stays, to be said otherwise.
      return each.asks ? [{ ...each, repair: null, fault: then.reasons[0] ?? null }] : [];
    });
}

/** Whether less is held than with another: what its filter lets through besides, and is held, would not have been sent either. */
const isLess = (one: Fare, other: Fare): boolean =>
  one.held - Math.max(0, one.looked - other.looked) < other.held - Math.max(0, other.looked - one.looked);

/** A way that was tried, with why what a person said for it is not taken. */
type TriedWay = RepairWay & { fault: string | null };

/** What was not tried comes last. */
const MOST = Number.MAX_SAFE_INTEGER;

/** What of a route differs from its proofs; null where it can't be made. */
function heldToProofs(parts: Parts, route: RouteRow, definition: RouteDefinition): ProofResult[] | null {
  const proofs = parts.store.proofs.of(route.id);
  try {
    return proofs.length === 0 ? [] : holdAll(playOf(parts, definition), proofs);
  } catch (error) {
    if (error instanceof HttpProblem) return null;
    throw error;
  }
}

/** How many proofs differ; all of them where the route can't be made. */
const differing = (results: readonly ProofResult[] | null, total: number): number =>
  results?.filter(each => each.differences.length > 0).length ?? total;

/** Proofs that a repaired route differs from only by what the repair changes, by identifier: they are accepted with it. */
function differingOnlyBy(
  results: readonly ProofResult[] | null,
  before: RouteDefinition,
  after: RouteDefinition,
): string[] {
  const edits = differencesOf(before, after);
  const lines = new Set(edits.flatMap(each => (each.what === 'line' ? [each.lineId] : [])));
  const emptied = edits.flatMap(each =>
    each.what === 'line' && each.before && each.before.to !== each.after?.to ? [lastPart(each.before.to)] : [],
  );
  const calls = new Set(
    edits.flatMap(each =>
      each.what === 'settings' &&
      each.parts.some(part => part === 'operationId' || part === 'repeat' || part === 'find')
        ? [each.callId]
        : [],
    ),
  );
  const isOfRepair = ({ kind, callId, place, lineId }: ProofResult['differences'][number]): boolean => {
    switch (kind) {
      case 'value':
      case 'new':
        return lineId !== null && lines.has(lineId);
      case 'gone':
        return (lineId !== null && lines.has(lineId)) || emptied.includes(lastPart(place));
      case 'address':
      case 'request-new':
        return callId !== null && calls.has(callId);
      default:
        return false;
    }
  };
  return (results ?? [])
    .filter(({ differences }) => differences.length > 0 && differences.every(isOfRepair))
    .map(each => each.id);
}

const lastPart = (place: string): string => place.split(/[./]/).at(-1)!;

/**
 * Takes a repair into a route's draft, with the proofs that differ only by it; the change is settled once that is live. Throws HttpProblem where
 * there is none any more, and where it is another than was shown.
 */
export function takeRepair(parts: Parts, actor: Actor, id: string, { routeId, mark, way, value }: RepairInput): void {
  const route = routeOr404(parts, routeId);
  const repair = chosenOf(waysFor(parts, changeOr404(parts, id), route, draftOf(route), value), way)?.repair;
  if (!repair) throw new HttpProblem(409, 'No automatic repair is available any more.');
  mustBeAsShown(markOfRepair(parts, route, repair), mark, 'The draft or the repair has changed.');
  const repaired = saveDraft(parts, actor, route, { definition: repair.definition as never, revision: route.revision });
  const ids = differingOnlyBy(heldToProofs(parts, repaired, repair.definition), route.draft, repair.definition);
  if (ids.length > 0) acceptProofs(parts, actor, repaired, ids);
  parts.log.info({ actor: actor.id, change: id, route: routeId }, 'a repair was taken');
}

/** Open changes for which there is a repair of what a route does. */
export function repairableIn(parts: Pick<Parts, 'store'>, route: RouteRow): ChangeRow[] {
  const { changes, routes } = parts.store;
  const does = routes.doing(route);
  return [
    ...changes.openOf('form', does.formId),
    ...targetsOf(does.definition).flatMap(id => changes.openOf('target', id)),
  ].filter(row => waysFor(parts, row, route, does).length > 0);
}

/** Settles those of some changes for which no route needs a repair any more, and which break none. */
export function settleRepaired(parts: Parts, actor: Actor, rows: readonly ChangeRow[]): void {
  const { routes } = parts.store;
  const all = routes.all().map(route => ({ route, does: routes.doing(route) }));
  for (const row of rows)
    if (
      all.every(({ route, does }) => waysFor(parts, row, route, does).length === 0) &&
      (row.subject === 'target' || touchesOf(parts, row, false).every(each => each.touch !== 'breaks'))
    )
      settleChange(parts, actor, row.id, 'settled');
}
