import type { ChangeState } from '../store';
import type { ChangesView, ChangeTouch, ChangeView, HoldInput } from '@grammata/contract';
import { causeOf } from '@grammata/core/drift';
import type { Submission } from '@grammata/core/submission';
import { iso } from '../clock';
import {
  answerTouch,
  deliveredWithout,
  failedBy,
  formTouch,
  heldBy,
  isHolding,
  leftOutBy,
  operationsBefore,
  sendHeldFor,
  targetTouch,
  type Touched,
} from '../drift';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import { isOfAnswers, isTraffic, type ChangeRow, type RouteRow } from '../store';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'deliveries' | 'courier' | 'live' | 'log' | 'timers'>;

/** Newest submissions on which it is tried what a change does. */
export const LOOKED = 40;

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
    cause: causeOf(row),
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

export function touchesOf(parts: Parts, row: ChangeRow, withHeld: boolean): ChangeTouch[] {
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
        failed: withHeld ? failedBy(parts, row, route.id) : [],
        holds: row.state === 'open' && isHolding(row, route.id, definition, touched),
        holdHours: definition.terms.holdHours ?? null,
        leftOut: withHeld ? leftOutBy(parts, row, route) : [],
        lacking: withHeld ? deliveredWithout(parts, row, route.id) : [],
        completes: definition.calls.every(each => each.find?.update),
        uses: touched.uses.map(use => ({ ...use, to: toOf(use.callId, use.lineId) })),
        proofs: store.proofs.of(route.id).length,
      },
    ];
  });
}

export const routeOr404 = ({ store }: Pick<Parts, 'store'>, id: string): RouteRow => {
  const row = store.routes.byId(id);
  if (!row) throw notFound('route');
  return row;
};

export const changeOr404 = ({ store }: Pick<Parts, 'store'>, id: string): ChangeRow => {
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
