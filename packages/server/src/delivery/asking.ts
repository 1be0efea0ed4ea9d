import type { Complaint } from '@grammata/contract';
import { ONCE, printOf, usualPace, type Ask, type CallResult } from '@grammata/core/perform';
import { usualRetries, type Retry } from '@grammata/core/route';
import { isBlank, parseJson, type Submission } from '@grammata/core/submission';
import { now } from '../clock';
import { isFault } from '../outward';
import type { TargetRow } from '../store';
import type { Courier, Errand } from './courier';
import { complaintsAbout, verdictOn, type Verdict } from './outcome';
import { sideOf, type PreparedRoute, type Side } from './prepare';

/** How much of an answer is recorded, in characters. */
export const RECORDED = 20_000;

/** How one request of a delivery went. */
export interface Asked {
  verdict: Verdict;
  told: CallResult;
  /** What the call says of trying again, and whether the delivery goes on without it. */
  retry: Retry;
  passesOver: boolean;
  /** As it is recorded, without secrets. */
  record: {
    callId: string;
    item: string;
    purpose: Ask['purpose'];
    startedAt: number;
    milliseconds: number;
    request: string;
    status: number | null;
    response: string | null;
    outcome: Verdict['outcome'];
    message: string;
    complaints: Complaint[];
  };
}

/** The delivery's key for its first request; for others, with the call and the item behind it. */
const keyFor = ({ stages }: PreparedRoute, base: string, { callId, item }: Ask): string =>
  item === ONCE && stages[0]?.call.id === callId ? base : `${base}-${callId}-${printOf(item)}`;

/** Makes one request of a delivery, and judges the answer. */
export async function askTarget(
  courier: Courier,
  route: PreparedRoute,
  ask: Ask,
  of: { submissionId: string; data: Submission; idempotencyKey: string; side: Side },
): Promise<Asked> {
  const startedAt = now();
  const target = route.targets.get(ask.targetId)!;
  const side = sideOf(target, of.side);
  const stage = route.stages.find(each => each.call.id === ask.callId)!;
  const { call, main } = stage;
  const readsBack = ask.purpose === 'readBack';
  const { result, recorded, lost } = await courier.carry(ask.request, {
    submissionId: of.submissionId,
    data: of.data,
    idempotencyKey: keyFor(route, of.idempotencyKey, ask),
    target: outgoingTo(target, of.side),
    readsBack,
    side,
    sideOf: id => otherSide(route, id, of.side),
    patience: side.patience,
    columns: main.operation.fields.map(field => field.key),
    grows: main.operation.grows,
  });
  const retry: Retry = call.retry ?? { tries: null, statuses: [...usualRetries] };
  const takesPages = call.pages ? call.pages === 'taken' : main.operation.answersPage === true;
  const isGraphql = main.operation.graphql !== undefined;
  const writes = ask.purpose === 'create' || ask.purpose === 'update';
  const judged = verdictOn(result, now(), {
    statuses: retry.statuses,
    takesPages,
    isGraphql,
    ...(writes && { success: call.success ?? null }),
  });
  const body = isFault(result) ? '' : result.body;
  const answer = isFault(result) || result.cut ? undefined : parseJson(body);
  // What is looked for by its address and is not there was not found.
  const isNone = ask.purpose === 'find' && !isFault(result) && result.status === 404;
  const isNoData = ask.purpose === 'find' && judged.outcome === 'delivered' && answer === undefined && !isBlank(body);
  // Another delivery made the record between the looking and the making: looked for again, it is found.
  const isLate = ask.purpose === 'create' && !isFault(result) && result.status === 409 && stage.find !== null;
  const found: Verdict = isLate
    ? { ...judged, outcome: 'retry' }
    : isNone
      ? { ...judged, outcome: 'delivered', message: 'There is none (404).', retryAfter: null }
      : isNoData
        ? { ...judged, outcome: 'final', message: noData(result as { cut: boolean }), retryAfter: null }
        : judged;
  const verdict = { ...found, message: courier.mask(found.message), isUnknown: found.isUnknown && !readsBack };
  return {
    retry,
    // A file that can't be had costs no more than its line says.
    passesOver: call.whenFailed === 'passOver' || (lost.length > 0 && isFault(result) && result.code === 'file'),
    verdict,
    told: verdict.outcome === 'delivered' ? { answer: isNone ? null : (answer ?? null) } : { failed: verdict.message },
    record: {
      callId: ask.callId,
      item: ask.item,
      purpose: ask.purpose,
      startedAt,
      milliseconds: result.milliseconds,
      request: recorded,
      status: isFault(result) ? null : result.status,
      response: isFault(result) ? null : result.shown.slice(0, RECORDED),
      outcome: verdict.outcome,
      message: [verdict.message, ...(isFault(result) ? [] : lost.map(each => `Sent without a file: ${each}`))].join(
        ' ',
      ),
      complaints:
        verdict.outcome === 'delivered' ? [] : complaintsAbout(isFault(result) ? '' : result.shown, ask.request),
    },
  };
}

/** Whoever tries by hand is not turned away: the side for tests is never parked. */
const outgoingTo = ({ id, name, pace }: TargetRow, side: Side): Errand['target'] =>
  side === 'live'
    ? { id, name, pace }
    : { id: `${id} (${side})`, name, pace: { ...(pace ?? usualPace), parkAfter: 0 } };

/** Another target on the same side. */
function otherSide({ others }: PreparedRoute, id: string, side: Side) {
  const row = others(id);
  return row ? { ...sideOf(row, side), name: row.name } : null;
}

const noData = ({ cut }: { cut: boolean }) => (cut ? 'The response is larger than 1 MB.' : 'The response is not JSON.');
