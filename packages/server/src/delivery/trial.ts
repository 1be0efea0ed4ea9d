import type { LookView, TestResultView } from '@grammata/contract';
import { findProblems, itemsOf, likelyAnswers, ONCE, recordsIn, type Ask } from '@grammata/core/perform';
import { stoppers } from '@grammata/core/request';
import { everything } from '@grammata/core/condition';
import { newLine, ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import { scopeOf } from '@grammata/core/scope';
import { parseJson, type Json, type Submission } from '@grammata/core/submission';
import { isReading } from '@grammata/core/target';
import { Problem } from '@grammata/core/transform';
import { maskedIn } from '../access';
import { newId } from '../ids';
import { askTarget } from './asking';
import { answeredBy, learnFrom, type TrialParts } from './trying';

/**
 * Asks a target on the spot what a look-up of a call finds for a sample, on the side to try things on: its answer as it is, to be
 * pointed at. What earlier calls would have answered stands in.
 */
export async function lookUp(
  parts: TrialParts,
  draft: RouteDefinition,
  callId: string,
  sample: { submissionId: string; data: Submission },
): Promise<LookView> {
  const { preparation, courier } = parts;
  const nothing = { request: '', status: null, answer: null, found: 0, wanted: null };
  const route = preparation.route(draft, 'try');
  if (route instanceof Problem) return { ...nothing, message: route.message };
  const at = route.stages.findIndex(each => each.call.id === callId);
  const stage = route.stages[at];
  if (!stage?.find && !(stage && isReading(stage.main.operation)))
    return { ...nothing, message: 'This call has no look-up.' };
  const before = route.stages.slice(0, at).map(each => answeredBy(each, route.targets));
  const [first] = itemsOf(stage, scopeOf(sample.data, likelyAnswers(before)), []);
  if (!first) return { ...nothing, message: 'This call does not run for this sample.' };
  const { find } = stage;
  const planned = (find?.call ?? stage.main).plan(first.scope, route.context);
  if (!planned.sendable) {
    const [problem] = find ? findProblems(stage, planned) : stoppers(planned);
    return { ...nothing, message: problem?.message ?? 'The look-up can’t be sent for this sample.' };
  }
  const ask: Ask = {
    callId,
    item: ONCE,
    purpose: 'find',
    request: planned.request,
    targetId: stage.target.id,
    changes: [],
    found: null,
  };
  const { record, told } = await askTarget(courier, route, ask, {
    ...sample,
    idempotencyKey: `look-${newId()}`,
    side: 'try',
  });
  learnFrom(parts, route, ask, told);
  const answer = 'answer' in told ? told.answer : null;
  const wanted = find ? (planned.outcomes[0]?.value ?? null) : null;
  const found = find && 'answer' in told ? recordsIn(answer, find.settings, wanted).length : 0;
  const { request, status, message } = record;
  return { request, status, message, answer: maskedIn(answer, text => courier.mask(text)), found, wanted };
}

/**
 * Really makes one request of an operation, with these values for its fields, on the side to try things on: its answer as it is, to be
 * learned from.
 */
export async function tryOperation(
  parts: TrialParts,
  targetId: string,
  operationId: string,
  values: Record<string, Json>,
): Promise<TestResultView> {
  const { preparation, courier } = parts;
  const nothing = { request: '', status: null, answer: null };
  const lines = Object.entries(values).map(([key, value]) => ({
    ...newLine(key, key),
    source: { from: 'constant' as const, value },
  }));
  const route = preparation.route(
    { ...bare, calls: [{ id: 'try', targetId, operationId, lines }], name: 'Try' },
    'try',
  );
  if (route instanceof Problem) return { ...nothing, message: route.message };
  const [stage] = route.stages;
  const data: Submission = { form: null, id: null, submittedAt: null, fields: [], files: [], questions: [], meta: {} };
  const planned = stage!.main.plan(scopeOf(data), route.context);
  if (!planned.sendable) return { ...nothing, message: stoppers(planned)[0]?.message ?? 'It can’t be sent as is.' };
  const ask: Ask = {
    callId: 'try',
    item: ONCE,
    purpose: 'create',
    request: planned.request,
    targetId,
    changes: [],
    found: null,
  };
  const { record, told } = await askTarget(courier, route, ask, {
    submissionId: '',
    data,
    idempotencyKey: `try-${newId()}`,
    side: 'try',
  });
  learnFrom(parts, route, ask, told);
  const answer = 'answer' in told ? told.answer : (parseJson(record.response ?? '') ?? null);
  const { request, status, message } = record;
  return { request, status, message, answer: maskedIn(answer, text => courier.mask(text)) };
}

const bare = { format: ROUTE_FORMAT, condition: everything, terms: usualTerms } as const;
