import type { ChangeState } from '../store';
import type {
  ChangesView,
  ChangeTouch,
  ChangeView,
  HoldInput,
  RepairInput,
  RepairView,
  RepairedView,
} from '@grammata/contract';
import {
  repairForForm,
  repairForTarget,
  type DocumentChange,
  type FormChange,
  type Repair,
} from '@grammata/core/drift';
import { differingOf } from '@grammata/core/proof';
import { differencesOf, sameDefinition, targetsOf, type RouteDefinition } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import type { Submission } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { iso } from '../clock';
import {
  answerTouch,
  deliveredWithout,
  formTouch,
  heldBy,
  heldOf,
  isHolding,
  sendHeldFor,
  targetTouch,
  triedOf,
  type Touched,
} from '../drift';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import { draftOf, isOfAnswers, isTraffic, type ChangeRow, type RouteRow } from '../store';
import type { Actor } from './actor';
import { markOf, mustBeAsShown } from './asShown';
import { playOf } from './proofs';
import { saveDraft } from './routes';

type Parts = Pick<Services, 'store' | 'deliveries' | 'courier' | 'live' | 'log' | 'timers'>;

/** Newest submissions on which it is tried what a change does, and with which a repair is made. */
const LOOKED = 40;
const REPAIRED_OVER = 120;

const ranks: Record<ChangeTouch['touch'], number> = { breaks: 2, risks: 1, harmless: 0 };

/** Submissions that came since a change, the newest first. */
const sinceOf = ({ store }: Pick<Parts, 'store'>, row: ChangeRow, most: number): Submission[] =>
  store.forms
    .samples(row.subjectId, most)
    .filter(each => each.receivedAt >= row.firstAt)
    .map(each => each.data);

/** Changes that are settled or declined, the newest first, of which it is told what is still held. */
const SETTLED_WITH_HELD = 10;

/** The newest changes as they are shown. */
export function changesView(parts: Parts, limit: number): ChangesView {
  const rows = parts.store.changes.list(limit);
  const settled = rows.filter(each => each.state !== 'open').slice(0, SETTLED_WITH_HELD);
  return {
    changes: rows.map(row => changeView(parts, row, row.state === 'open' || settled.includes(row))),
    open: parts.store.changes.openCount(),
  };
}

/** A change as it is shown, with what it does to each route; with what is held for it where that is wanted. */
export function changeView(parts: Parts, row: ChangeRow, withHeld = true): ChangeView {
  const { store } = parts;
  const { what } = row;
  const form = row.subject === 'form' ? store.forms.byId(row.subjectId) : undefined;
  const target = row.subject === 'target' ? store.targets.byId(row.subjectId) : undefined;
  const question = 'question' in what ? what.question : null;
  const touches = touchesOf(parts, row, withHeld);
  const [worst] = [...touches].sort((a, b) => ranks[b.touch] - ranks[a.touch]);
  return {
    id: row.id,
    subject: row.subject,
    subjectId: row.subjectId,
    subjectName: form?.form.name ?? target?.name ?? 'something that was removed',
    place: form?.intakeName ?? null,
    change: what.change,
    key: question,
    question: question === null ? null : (form?.schema.fields.find(each => each.key === question)?.label ?? question),
    operation: 'operation' in what ? what.operation : null,
    field: 'operation' in what ? (what.field ?? null) : null,
    was: what.was ?? null,
    now: what.now ?? null,
    before: row.subject === 'form' ? row.before : null,
    after: row.subject === 'form' ? row.after : null,
    messages: row.subject === 'form' && !isTraffic(row.what) ? store.changes.around(row.subjectId, row.firstAt) : null,
    firstAt: iso(row.firstAt),
    lastAt: iso(row.lastAt),
    since: form ? store.changes.since(row.subjectId, row.firstAt) : null,
    state: row.state,
    by: row.by,
    settledAt: row.settledAt === null ? null : iso(row.settledAt),
    touch: worst?.touch ?? 'harmless',
    touches,
  };
}

function touchesOf(parts: Parts, row: ChangeRow, withHeld: boolean): ChangeTouch[] {
  const { store } = parts;
  if (isTraffic(row.what)) return [];
  const since = row.subject === 'form' ? sinceOf(parts, row, LOOKED) : [];
  const before = operationsBefore(row);
  return store.routes.all().flatMap((route): ChangeTouch[] => {
    const { definition, formId } = store.routes.doing(route);
    if (row.subject === 'form' && formId !== row.subjectId) return [];
    if (row.subject === 'target' && !definition.calls.some(each => each.targetId === row.subjectId)) return [];
    const touched: Touched =
      row.subject === 'form'
        ? formTouch(parts, row, definition, since)
        : isOfAnswers(row.what)
          ? answerTouch(row.what, row.subjectId, definition, store.targets.byId(row.subjectId)?.operations ?? [])
          : targetTouch(row, definition, before);
    const toOf = (callId: string | null, lineId: string | null) =>
      definition.calls.find(each => each.id === callId)?.lines.find(each => each.id === lineId)?.to ?? null;
    return [
      {
        routeId: route.id,
        name: route.draft.name,
        state: route.state,
        ...touched,
        version: route.state === 'draft' ? null : (store.routes.latestVersion(route.id)?.number ?? null),
        deliveries: withHeld ? heldBy(parts, row, route.id) : [],
        holds: row.state === 'open' && isHolding(row, route.id, definition, touched),
        holdHours: definition.terms.holdHours ?? null,
        lacking: withHeld ? deliveredWithout(parts, row, route.id) : [],
        completes: definition.calls.every(each => each.find?.update),
        uses: touched.uses.map(use => ({ ...use, to: toOf(use.callId, use.lineId) })),
        proofs: store.proofs.of(route.id).length,
      },
    ];
  });
}

/** The operation that a target's change is about, as it was. */
const operationsBefore = ({ subject, before }: ChangeRow): Operation[] =>
  subject === 'target' && before !== null ? [before as unknown as Operation] : [];

const routeOr404 = ({ store }: Pick<Parts, 'store'>, id: string): RouteRow => {
  const row = store.routes.byId(id);
  if (!row) throw notFound('route');
  return row;
};

const changeOr404 = ({ store }: Pick<Parts, 'store'>, id: string): ChangeRow => {
  const row = store.changes.byId(id);
  if (!row) throw notFound('change');
  return row;
};

/** Says what somebody decided about a change. Throws HttpProblem where there is none. */
export function settleChange(parts: Parts, actor: Actor, id: string, state: ChangeState): ChangeRow {
  const row = changeOr404(parts, id);
  const settled = parts.store.changes.settle(row.id, state, actor.name)!;
  parts.log.info({ actor: actor.id, change: id, state }, 'a change was settled');
  parts.live.publish({ type: 'drift' });
  return settled;
}

/**
 * Says what a change does to what one route sends while it is open; where that goes on, what waits for the change goes too. Throws HttpProblem
 * where there is no such change or route, or it is open no more.
 */
export async function decideHolding(
  parts: Parts & Pick<Services, 'ledger'>,
  actor: Actor,
  id: string,
  { routeId, decision }: HoldInput,
): Promise<ChangeRow> {
  const row = changeOr404(parts, id);
  const route = routeOr404(parts, routeId);
  const decided = row.subject === 'form' && parts.store.changes.decide(row.id, route.id, decision);
  if (!decided) throw new HttpProblem(409, 'Submissions are not held for this change any more.');
  parts.log.info({ actor: actor.id, change: id, route: routeId, decision }, 'the holding of a route was decided');
  if (decision === 'deliver') await sendHeldFor(parts, decided, [route.id]);
  parts.live.publish({ type: 'drift' });
  return decided;
}

/** A repair of a route's draft for a change, if it needs one and there is one. Throws HttpProblem where one of them is not there. */
export function proposeRepair(parts: Parts, id: string, routeId: string): RepairedView {
  const row = changeOr404(parts, id);
  const route = routeOr404(parts, routeId);
  const repair = repairOf(parts, row, route);
  if (repair) return { repair: shown(parts, route, repair), isDrafted: false };
  const does = parts.store.routes.doing(route);
  const isDrafted = !sameDefinition(does.definition, route.draft) && repairOf(parts, row, route, does) !== null;
  return { repair: null, isDrafted };
}

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
    mark: markOfRepair(route, repair),
    samples: { looked: stands!.looked, held: stands!.held, heldThen: then!.held },
    proofs: {
      total: parts.store.proofs.of(route.id).length,
      differing: differing(parts, route, route.draft),
      differingThen: differing(parts, route, repair.definition),
    },
  };
}

/** What people call questions, by their keys; of several that are called the same, with the key. */
function labelsOf(fields: readonly { key: string; label: string }[]): Record<string, string> {
  const isOnly = (label: string) => fields.filter(each => each.label === label).length === 1;
  return Object.fromEntries(
    fields.map(({ key, label }) => [questionKey(key), isOnly(label) ? label : `${label} (${key})`]),
  );
}

/** Another as soon as the draft is edited, or what came since asks for another repair. */
const markOfRepair = ({ revision }: RouteRow, { definition }: Repair): string => markOf([revision, definition]);

/** What would mend what a route does, or is drawn to do; null where nothing is to be mended, or nothing mends it by itself. */
function repairOf(
  { store }: Pick<Parts, 'store'>,
  row: ChangeRow,
  route: RouteRow,
  { definition, formId } = draftOf(route),
): Repair | null {
  const form = store.forms.byId(formId);
  if (!form || isTraffic(row.what) || isOfAnswers(row.what) || (row.subject === 'form' && formId !== row.subjectId))
    return null;
  const since = row.subject === 'form' ? row.firstAt : 0;
  const samples = store.forms
    .samples(formId, REPAIRED_OVER)
    .filter(each => each.receivedAt >= since)
    .map(each => each.data);
  const operationOf = ({ targetId, operationId }: { targetId: string; operationId: string }) =>
    store.targets.byId(targetId)?.operations.find(each => each.id === operationId) ?? null;
  const made = { schema: form.schema, samples, operationOf };
  const repair =
    row.subject === 'form'
      ? repairForForm(row.what as FormChange, definition, made)
      : repairForTarget(row.what as DocumentChange, row.subjectId, definition, {
          ...made,
          before: operationsBefore(row),
          after: store.targets.byId(row.subjectId)?.operations ?? [],
        });
  // After which more is held than without is none.
  if (!repair || samples.length === 0) return repair;
  const [stands, then] = [definition, repair.definition].map(each => heldOf({ store }, each, samples).held);
  return then! > stands! ? null : repair;
}

/** How many proofs a definition does not give any more; all of them where it can't be made. */
function differing(parts: Parts, route: RouteRow, definition: RouteDefinition): number {
  const proofs = parts.store.proofs.of(route.id);
  try {
    return proofs.length === 0 ? 0 : differingOf(playOf(parts, definition), proofs);
  } catch (error) {
    if (error instanceof HttpProblem) return proofs.length;
    throw error;
  }
}

/**
 * Takes a repair into a route's draft; the change is settled once that is live. Throws HttpProblem where there is none any more, and where
 * it is another than was shown.
 */
export function takeRepair(parts: Parts, actor: Actor, id: string, { routeId, mark }: RepairInput): void {
  const route = routeOr404(parts, routeId);
  const repair = repairOf(parts, changeOr404(parts, id), route);
  if (!repair) throw new HttpProblem(409, 'No automatic repair is available any more.');
  mustBeAsShown(markOfRepair(route, repair), mark, 'The draft or the repair has changed.');
  saveDraft(parts, actor, route, { definition: repair.definition as never, revision: route.revision });
  parts.log.info({ actor: actor.id, change: id, route: routeId }, 'a repair was taken');
}

/** Open changes for which there is a repair of what a route does. */
export function repairableIn(parts: Pick<Parts, 'store'>, route: RouteRow): ChangeRow[] {
  const { changes, routes } = parts.store;
  const does = routes.doing(route);
  return [
    ...changes.openOf('form', does.formId),
    ...targetsOf(does.definition).flatMap(id => changes.openOf('target', id)),
  ].filter(row => repairOf(parts, row, route, does) !== null);
}

/** Settles those of some changes for which no route needs a repair any more, and which break none. */
export function settleRepaired(parts: Parts, actor: Actor, rows: readonly ChangeRow[]): void {
  const { routes } = parts.store;
  const all = routes.all().map(route => ({ route, does: routes.doing(route) }));
  for (const row of rows)
    if (
      all.every(({ route, does }) => repairOf(parts, row, route, does) === null) &&
      (row.subject === 'target' || touchesOf(parts, row, false).every(each => each.touch !== 'breaks'))
    )
      settleChange(parts, actor, row.id, 'settled');
}
