import { compileCondition, everything, testsOf } from '../condition';
import { compileCall, type CompiledCall } from '../request';
import { newLine, type Call, type Find, type Line, type ReadBack, type Update } from '../route';
import { identityName, isOfDelivery, placeAt, referenceOf, referenceText, referredTo, type Scope } from '../scope';
import { canonical, isBlank, setOwn, withValueAt, type Json, type JsonObject } from '../submission';
import { exampleFor, writable, type AnswerField, type Operation, type TargetField } from '../target';
import { Problem } from '../transform';
import type { Done } from './done';

/** A downstream system as a run sees it. */
export interface CallTarget {
  id: string;
  name: string;
  /** Without a slash at its end. */
  baseUrl: string;
  operations: readonly Operation[];
}

/** A call with everything it needs, ready to be planned for any submission. */
export interface Stage {
  call: Call;
  target: CallTarget;
  main: CompiledCall;
  goes: (scope: Scope) => boolean;
  /** True when what it is made for hangs on answers that are not known before. */
  waits: boolean;
  find: {
    call: CompiledCall;
    settings: Find;
    /** `untaken` are lines for which the update has no field. */
    update: { call: CompiledCall; settings: Update; untaken: readonly Line[] } | null;
  } | null;
  readBack: { call: CompiledCall; settings: ReadBack } | null;
}

/** Compiles the calls of a route; or says why one of them can't be made any more. */
export function compileStages(calls: readonly Call[], targets: readonly CallTarget[]): Stage[] | Problem {
  const stages: Stage[] = [];
  for (const call of calls) {
    const stage = compileStage(call, targets);
    if (stage instanceof Problem) return stage;
    stages.push(stage);
  }
  return stages;
}

function compileStage(call: Call, targets: readonly CallTarget[]): Stage | Problem {
  const target = targets.find(each => each.id === call.targetId);
  if (!target) return new Problem('route.target', 'The route’s target was removed.', null);
  const missing = (id: string) => new Problem('route.operation', `${target.name} no longer offers “${id}”.`, null);
  const operationOf = (id: string) => target.operations.find(each => each.id === id);
  const main = operationOf(call.operationId);
  if (!main) return missing(call.operationId);
  const settings = call.find ?? null;
  const found = settings && operationOf(settings.operationId);
  if (settings && !found) return missing(settings.operationId);
  const updated = settings?.update && operationOf(settings.update.operationId);
  if (settings?.update && !updated) return missing(settings.update.operationId);
  const read = call.readBack && operationOf(call.readBack.operationId);
  if (call.readBack && !read) return missing(call.readBack.operationId);
  return {
    call,
    target,
    main: compileCall(call, main, target.baseUrl),
    goes: compileCondition(call.condition ?? everything),
    waits: waitsForAnswers(call),
    find: settings && {
      settings,
      call: compileCall(findCall(call, settings), found!, target.baseUrl),
      update: settings.update && {
        settings: settings.update,
        call: compileCall(updateCall(call, settings.update, updated!), updated!, target.baseUrl),
        untaken: untakenLines(call, settings, main, updated!),
      },
    },
    readBack: call.readBack
      ? { settings: call.readBack, call: compileCall(readCall(call, call.readBack), read!, target.baseUrl) }
      : null,
  };
}

/** The call that looks a record up: first by the line that may not be blank, then what else is sent. */
export const findCall = (call: Call, { operationId, line, lines = [] }: Find): Call => ({
  ...call,
  operationId,
  lines: [line.whenBlank === 'fallback' && !isBlank(line.fallback) ? line : { ...line, whenBlank: 'stop' }, ...lines],
});

/** Lines that are to write into a record that is found, for which the operation that updates it has no field. */
export function untakenLines(call: Call, { line: soughtBy, update }: Find, main: Operation, by: Operation): Line[] {
  const keys = new Set(writable(by).map(field => field.key));
  const inBody = new Set(writable(main).flatMap(field => (field.in ? [] : field.key)));
  return call.lines.filter(
    line =>
      line.source !== null &&
      line.writes !== 'onCreate' &&
      line.to !== update?.to &&
      inBody.has(line.to) &&
      !keys.has(line.to) &&
      // What the record was found by, it has.
      canonical(line.source as unknown as Json) !== canonical(soughtBy.source as unknown as Json),
  );
}

/** The lines of a call that write into the update's fields, and one that says which record is meant. */
function updateCall(call: Call, update: Update, operation: Operation): Call {
  const keys = new Set(writable(operation).map(field => field.key));
  const lines = call.lines.filter(line => line.writes !== 'onCreate' && line.to !== update.to && keys.has(line.to));
  return {
    ...call,
    operationId: update.operationId,
    lines: [recordLine(update.to, update.from), ...lines],
  };
}

const readCall = (call: Call, { operationId, to, from }: ReadBack): Call => ({
  ...call,
  operationId,
  lines: [recordLine(to, from)],
});

/** The line that says which record is meant, by what the record has there. */
const recordLine = (to: string, pointer: string) => ({
  ...newLine('@record', to),
  source: { from: 'field' as const, field: referenceText({ to: 'record', pointer }) },
});

/** What a call is made for: the submission once, or each item of an answer, as far as its condition lets them through. */
export function scopesOf(call: Call, goes: (scope: Scope) => boolean, scope: Scope): Scope[] {
  const answer = call.repeat ? referredTo(scope, call.repeat) : undefined;
  const items = Array.isArray(answer) ? answer.filter(each => !isBlank(each)) : isBlank(answer) ? [] : [answer!];
  const scopes = call.repeat
    ? items.map((value, index): Scope => ({ ...scope, item: { value, number: index + 1 } }))
    : [scope];
  return scopes.filter(goes);
}

/**
 * Answers as they may look, to plan a call that uses those of calls which have not been made yet: as the target really
 * answered, where that is known, else made up of what it says that it answers.
 */
export function likelyAnswers(
  stages: readonly { call: Call; operation: Operation; answered?: Json }[],
): Record<string, Json> {
  return Object.fromEntries(
    stages.flatMap(({ call, operation, answered }, index): [string, Json][] => {
      const made = answered === undefined ? undefined : placeAt(answered, call.identity?.made ?? '');
      const identity = isBlank(made) || typeof made === 'object' ? `‹record of ${index + 1}›` : made!;
      return [
        [call.id, answered ?? likelyAnswer(operation.answer ?? [], index + 1)],
        ...(call.identity ? [[identityName(call.id), identity] as [string, Json]] : []),
      ];
    }),
  );
}

function likelyAnswer(fields: readonly AnswerField[], number: number): Json {
  let answer: Json = {};
  for (const field of fields) {
    const value = field.items ? [likelyAnswer(field.items, number)] : likelyValue(field, number);
    if (field.pointer !== '') answer = withValueAt(answer, field.pointer, value);
    else if (field.items) return value;
  }
  return answer;
}

/** Stands for what is not known before a call is made. */
const likelyValue = ({ pointer, type }: AnswerField, number: number): Json =>
  type === 'text' || type === 'choice' || type === 'json'
    ? `‹${pointer.slice(1).replaceAll('/', '.')} of ${number}›`
    : exampleFor({ type, options: null } as unknown as TargetField);

/** True for a call whose items, or whether it is made, hang on what is known only while a delivery is under way. */
export const waitsForAnswers = ({ repeat, condition }: Pick<Call, 'repeat' | 'condition'>): boolean =>
  [...(repeat ? [repeat] : []), ...(condition ? testsOf(condition).map(test => test.field) : [])].some(key =>
    isOfDelivery(referenceOf(key)),
  );

/** Puts several answers of a repeated call together: the first, since there it is most often one. */
export function keepAnswer(answers: Record<string, Json>, callId: string, { answer, identity }: KeptAnswer): void {
  if (Object.hasOwn(answers, callId)) return;
  setOwn(answers as JsonObject, callId, answer);
  if (identity !== undefined) setOwn(answers as JsonObject, identityName(callId), identity);
}

/** What is kept of a call for those behind it. */
type KeptAnswer = Pick<Done, 'answer' | 'identity'>;
