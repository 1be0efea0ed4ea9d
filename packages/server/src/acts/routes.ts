import type { DraftInput, LookInput, LookView, RouteInput, RunInput, RunView } from '@grammata/contract';
import { everything } from '@grammata/core/condition';
import { identityFaults, newLine, ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import { writable } from '@grammata/core/target';
import { iso, now } from '../clock';
import { lookUp, runDraft } from '../delivery';
import { settleKnownForm } from '../drift';
import { newId } from '../ids';
import { fieldFaults, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import type { Actor } from './actor';
import { draftMustBeAsShown } from './asShown';
import { freeName, mustBeFree } from './names';
import { sampleOf } from './sampleOf';
import { trialParts } from './trying';

type Parts = Pick<Services, 'store' | 'live' | 'deliveries' | 'courier' | 'log'>;

const changed = ({ live }: Parts, id: string, revision?: number) =>
  live.publish({ type: 'changed', what: 'route', id, ...(revision !== undefined && { revision }) });

/** Draws a route from a form to what a target does, with a line for each field. Throws HttpProblem where one of them is not there. */
export function drawRoute(
  parts: Parts,
  actor: Actor,
  { name, formId, targetId, operationId, timeZone }: RouteInput,
): RouteRow {
  const { store } = parts;
  const form = store.forms.named(formId);
  const operation = store.targets.byId(targetId)?.operations.find(each => each.id === operationId);
  const errors = [
    ...(form ? [] : [{ field: 'formId', message: 'Choose a form.' }]),
    ...(operation ? [] : [{ field: 'operationId', message: 'Choose an operation.' }]),
  ];
  if (!form || !operation) throw fieldFaults(errors);
  return createDraft(parts, actor, formId, {
    format: ROUTE_FORMAT,
    name: freeName(
      name,
      store.routes.all().map(each => each.draft.name),
    ),
    condition: everything,
    calls: [
      { id: newId(), targetId, operationId, lines: writable(operation).map(field => newLine(newId(), field.key)) },
    ],
    terms: { ...usualTerms, ...(timeZone && { timeZone }) },
  });
}

/** Draws a route as a definition says. Throws HttpProblem where its parts can't be told apart. */
export function createDraft(parts: Parts, actor: Actor, formId: string, definition: RouteDefinition): RouteRow {
  checkIdentities(definition);
  const row = parts.store.routes.create(formId, definition);
  parts.store.forms.update(formId, { state: 'adopted' });
  settleKnownForm(parts.store, formId, actor.name);
  parts.log.info({ actor: actor.id, route: row.id }, 'a route was drawn');
  changed(parts, row.id);
  return row;
}

function checkIdentities(definition: RouteDefinition): void {
  const faults = identityFaults(definition);
  if (faults.length > 0) throw fieldFaults(faults.map(({ pointer, message }) => ({ field: pointer, message })));
}

/** Draws a route that does the same as another's draft, under a name of its own, as a draft. */
export function copyRoute(parts: Parts, actor: Actor, { id, formId, draft }: RouteRow): RouteRow {
  const { store, log } = parts;
  const names = store.routes.all().map(each => each.draft.name);
  const row = store.routes.create(formId, { ...draft, name: freeName(`${draft.name}, copy`, names) });
  log.info({ actor: actor.id, route: row.id, of: id }, 'a route was copied');
  changed(parts, row.id);
  return row;
}

/**
 * Stores an edit, and the form that the route hangs on from now on where that is another. Throws HttpProblem where its parts can't be told
 * apart, and where the draft was edited elsewhere meanwhile.
 */
export function saveDraft(parts: Parts, _actor: Actor, route: RouteRow, draft: DraftInput, formId?: string): RouteRow {
  checkIdentities(draft.definition);
  // What it was called before is its own, whoever else is called so.
  const { name } = draft.definition;
  if (name !== route.draft.name)
    mustBeFree(
      name,
      'route',
      parts.store.routes.all().flatMap(each => (each.id === route.id ? [] : each.draft.name)),
    );
  const saved = parts.store.routes.saveDraft(route.id, draft, formId);
  if (!saved)
    throw new HttpProblem(409, 'This route was edited elsewhere.', 'Reload to see that edit; yours was not saved.');
  changed(parts, route.id, saved.revision);
  return saved;
}

/** Runs a draft for one sample: really, on the side to try things on, or looking up only. Throws HttpProblem where there is none. */
export async function tryOut(
  parts: Parts,
  actor: Actor,
  route: RouteRow,
  { sampleId, send, revision }: RunInput,
): Promise<RunView> {
  draftMustBeAsShown(route, { revision });
  const { store, log } = parts;
  const sample = { submissionId: sampleId, data: sampleOf(parts, sampleId) };
  const ran = await runDraft(trialParts(parts), route.draft, sample, send);
  if (!send) return ran;
  store.routes.keepTrial(route.id, { ...ran, sampleId, at: iso(now()), revision: route.revision });
  log.info({ actor: actor.id, route: route.id, sample: sampleId }, 'a draft was tried out');
  changed(parts, route.id);
  return ran;
}

/** Asks a target what a call's look-up finds for a sample. Throws HttpProblem where there is no such sample or call. */
export async function askLookUp(
  parts: Parts,
  actor: Actor,
  route: RouteRow,
  { sampleId, callId, find }: LookInput,
): Promise<LookView> {
  const { store, log } = parts;
  const data = sampleOf({ store }, sampleId);
  if (!route.draft.calls.some(each => each.id === callId)) throw notFound('call');
  const calls = route.draft.calls.map(each => (each.id === callId ? { ...each, find } : each));
  log.info({ actor: actor.id, route: route.id, call: callId }, 'a look-up was asked on the spot');
  const sample = { submissionId: sampleId, data };
  return lookUp(trialParts(parts), { ...route.draft, calls }, callId, sample);
}

/** Removes a route. Throws HttpProblem while it is live. */
export function removeRoute(parts: Parts, actor: Actor, route: RouteRow): void {
  if (route.state === 'live') throw new HttpProblem(409, 'A live route can’t be removed.', 'Pause it first.');
  parts.store.routes.remove(route.id);
  parts.log.info({ actor: actor.id, route: route.id }, 'a route was removed');
  changed(parts, route.id);
}
