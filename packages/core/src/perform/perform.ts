import { asText, isBlank, isJsonObject, valueAt, withValueAt, type Json, type Submission } from '../submission';
import { placeAt, scopeOf, type Scope } from '../scope';
import { stoppers, type CompiledCall, type Planned, type RequestPlan } from '../request';
import { Problem, type TransformContext } from '../transform';
import { keepAnswer, type Stage } from './compile';
import type { Done } from './done';
import { findProblems, foresee, itemsOf, madeWith, type Foreseen } from './foresee';
import { isSame, recordsIn, written, type Change } from './find';
import { holdAgainst } from './readBack';

/** One request of a delivery. */
export interface Ask {
  callId: string;
  /** Tells the requests of one call apart: the item's name, and which of several records found. */
  item: string;
  purpose: 'find' | 'create' | 'update' | 'readBack';
  request: RequestPlan;
  targetId: string;
  /** What an update changes, field by field. */
  changes: Change[];
  /** The record that is updated. */
  found: Json;
}

/** What became of a request: the target's answer, or why the call failed and the delivery goes on without it. */
export type CallResult = { answer: Json } | { failed: string };

/** How a run ended: everything done, or held for reasons. */
export type Ending = { done: Done[] } | { held: Problem[]; done: Done[] };

/**
 * What a delivery does, call by call, as a conversation: it gives each request to be made and is told what came of it.
 * Delivery really makes them; a dry run makes only those that look something up. `earlier` is what was done in a try
 * before: it is not done again. `record` hears of each call as it is done.
 */
export function* perform(
  stages: readonly Stage[],
  submission: Submission,
  context: TransformContext,
  earlier: readonly Done[] = [],
  record: (done: Done) => void = () => undefined,
): Generator<Ask, Ending, CallResult> {
  const done: Done[] = [...earlier];
  const add = (each: Done) => {
    const before = done.findIndex(other => other.callId === each.callId && other.item === each.item);
    if (before < 0) done.push(each);
    else done[before] = each;
    record(each);
  };
  const answers: Record<string, Json> = {};
  const foreseen = foresee(stages, submission, context, earlier);
  const { problems } = foreseen;
  if (problems.length > 0) return { held: problems, done };
  for (const stage of stages) {
    const { call } = stage;
    for (const { scope, item, known: before } of itemsOf(stage, scopeOf(submission, answers), earlier)) {
      if (before) {
        keepAnswer(answers, call.id, before);
        continue;
      }
      // The first call draws on no answer: what was foreseen of it is what is sent.
      const known = stage === stages[0] && !stage.waits ? foreseenOf(foreseen, call.id, item) : noPlans;
      const result = yield* performItem(stage, scope, item, context, { done, add, planned: known });
      if ('stoppedBy' in result) {
        if (call.whenFailed !== 'passOver') return { held: result.stoppedBy, done };
        const note = result.stoppedBy.map(problem => problem.message).join(' ');
        add({ callId: call.id, item, with: madeWith(call), what: 'failed', answer: null, note });
        continue;
      }
      add(result);
      keepAnswer(answers, call.id, result);
    }
  }
  return { done };
}

type Result = Done | { stoppedBy: Problem[] };

/** Requests of a call that are planned already, by what they are for. */
type Plans = { readonly find?: Planned; readonly create?: Planned };
const noPlans: Plans = {};

const foreseenOf = ({ requests }: Foreseen, callId: string, item: string): Plans =>
  Object.fromEntries(
    requests
      .filter(each => each.callId === callId && each.item === item)
      .map(({ purpose, planned }) => [purpose, planned]),
  );

function* performItem(
  stage: Stage,
  scope: Scope,
  item: string,
  context: TransformContext,
  { done, add, planned: before }: { done: readonly Done[]; add: (each: Done) => void; planned: Plans },
): Generator<Ask, Result, CallResult> {
  const { call, find, main } = stage;
  const finished = (what: Done['what'], answer: Json, note: string | null = null, record = answer): Done => {
    const { identity: of } = call;
    const identity = of ? placeAt(record, what === 'created' ? of.made : of.found) : undefined;
    return {
      callId: call.id,
      item,
      with: madeWith(call),
      what,
      answer,
      ...(isBlank(identity) || what === 'left' || what === 'failed' ? {} : { identity: identity! }),
      note,
    };
  };
  const ask = (planned: Planned, purpose: Ask['purpose'], at = item): Ask => ({
    callId: call.id,
    item: at,
    purpose,
    request: planned.request,
    targetId: stage.target.id,
    changes: [],
    found: null,
  });
  /** Fetches what was stored. That this fails undoes nothing. */
  function* readBack(
    request: RequestPlan,
    { operation }: CompiledCall,
    answer: Json,
    at: string,
  ): Generator<Ask, Pick<Done, 'compared'>, CallResult> {
    if (!stage.readBack) return {};
    const planned = stage.readBack.call.plan({ ...scope, record: answer }, context);
    if (!planned.sendable) return { compared: null };
    const outcome = yield ask(planned, 'readBack', at);
    return { compared: 'failed' in outcome ? null : holdAgainst(request, operation.fields, outcome.answer) };
  }
  if (find) {
    const planned = before.find ?? find.call.plan(scope, context);
    if (!planned.sendable) return { stoppedBy: findProblems(stage, planned) };
    const wanted = planned.outcomes[0]!.value;
    const outcome = yield ask(planned, 'find');
    if ('failed' in outcome) return finished('failed', null, outcome.failed);
    const records = recordsIn(outcome.answer, find.settings, wanted!);
    const { whenNone, whenSeveral, update } = find.settings;
    if (records.length > 1 && whenSeveral === 'hold')
      return { stoppedBy: [tooMany(records.length, stage.target.name)] };
    if (records.length === 0 && whenNone === 'hold')
      return { stoppedBy: [new Problem('find.none', `${stage.target.name} has no such record.`, null)] };
    if (records.length === 0 && whenNone === 'leave') return finished('left', null, 'There is no such record.');
    if (records.length > 0) {
      const chosen = whenSeveral === 'every' ? records : records.slice(0, 1);
      const several = records.length > 1 ? `${records.length} records were found.` : null;
      const note = [several, untakenOf(stage, scope, chosen, context)].filter(Boolean).join(' ') || null;
      if (!update) return finished('unchanged', chosen[0]!, note);
      let last: Done = finished('unchanged', chosen[0]!, note);
      for (const [index, record] of chosen.entries()) {
        const at = index === 0 ? item : `${item}.${asText(valueAt(record, update.from) ?? index)}`;
        const before = done.find(each => each.callId === call.id && each.item === at);
        const next = planUpdate(find.update!.call, { ...scope, record }, record, context);
        if (next.problems.length > 0) return { stoppedBy: next.problems };
        if (before || next.changes.length === 0) continue;
        const updateOutcome = yield {
          ...ask(next.planned, 'update', at),
          request: next.request,
          changes: next.changes,
          found: record,
        };
        if ('failed' in updateOutcome) return finished('failed', null, updateOutcome.failed);
        const answer =
          isJsonObject(updateOutcome.answer) && !isBlank(updateOutcome.answer) ? updateOutcome.answer : record;
        const updated = finished('updated', answer, note, record);
        if (stage.readBack && chosen.length === 1) add(updated);
        last = { ...updated, ...(yield* readBack(next.request, find.update!.call, answer, at)) };
        if (index > 0) add({ ...last, item: at });
      }
      return last.what === 'unchanged' ? { ...last, note: note ?? 'It has all of it already.' } : last;
    }
  }
  const planned = before.create ?? main.plan(scope, context);
  if (!planned.sendable) return { stoppedBy: stoppers(planned) };
  const outcome = yield ask(planned, 'create');
  if ('failed' in outcome) return finished('failed', null, outcome.failed);
  const made = finished('created', outcome.answer);
  // It is done before it is read back: a crash in between must not make it again.
  if (stage.readBack) add(made);
  return { ...made, ...(yield* readBack(planned.request, main, outcome.answer, item)) };
}

/** What lines give that the records found do not have, and no update takes, in words; null where there is nothing. */
function untakenOf(
  { main, find }: Stage,
  scope: Scope,
  records: readonly Json[],
  context: TransformContext,
): string | null {
  const untaken = new Set(find?.update?.untaken);
  if (untaken.size === 0) return null;
  const lost = main.lines.flatMap(({ line, field, outcome }) => {
    if (!untaken.has(line)) return [];
    const { value } = outcome(scope, context);
    if (value === undefined || isBlank(value)) return [];
    const isThere = (record: Json) => field !== null && isSame(field, valueAt(record, field.pointer), value);
    return records.every(isThere) ? [] : [line.to];
  });
  if (lost.length === 0) return null;
  return `Not written to the existing record: ${lost.join(', ')}; “${find!.update!.call.operation.label}” has no such field.`;
}

const tooMany = (count: number, target: string) =>
  new Problem('find.several', `${target} has ${count} such records; it is not known which is meant.`, null);

interface PlannedUpdate {
  planned: Planned;
  request: RequestPlan;
  changes: Change[];
  problems: Problem[];
}

/** An update of a record: only what is different goes; an operation that replaces the whole gets the rest as it was. */
function planUpdate(update: CompiledCall, scope: Scope, record: Json, context?: TransformContext): PlannedUpdate {
  const planned = update.plan(scope, context);
  const replaces = update.operation.method === 'PUT';
  const problems = stoppers({ ...planned, missing: planned.missing.filter(field => field.in !== undefined) });
  let body: Json = {};
  const origins: RequestPlan['origins'] = {};
  if (replaces)
    for (const field of update.operation.fields) {
      const own = field.in || field.readOnly ? undefined : valueAt(record, field.pointer);
      if (own !== undefined) body = withValueAt(body, field.pointer, own);
    }
  const changes: Change[] = [];
  planned.outcomes.forEach(({ value }, index) => {
    const { field, line } = update.lines[index]!;
    const isFile = field?.type === 'file' || field?.type === 'base64';
    if (value === undefined || !field || field.in) return;
    const before = valueAt(record, field.pointer);
    const after = written(line, before, value);
    if (after === undefined || isSame(field, before, after)) return;
    changes.push({ lineId: line.id, field: field.key, before, after });
    body = withValueAt(body, field.pointer, isFile ? valueAt(planned.request.body, field.pointer)! : after);
    origins[field.pointer] = line.id;
  });
  // A file that is not written does not go along.
  const files = planned.request.files.filter(each => Object.hasOwn(origins, each.pointer));
  return { planned, request: { ...planned.request, body, origins, files }, changes, problems };
}
