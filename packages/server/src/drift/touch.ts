import {
  fareOf,
  fieldPlace,
  triedOn,
  unsentOf,
  operationName,
  type AnswerChange,
  type DocumentChange,
  type Fare,
  type FormChange,
  type LinePlace,
  type LineResult,
} from '@grammata/core/drift';
import {
  answersUsed,
  operationsUsed,
  targetsOf,
  usesOf,
  type Call,
  type RouteDefinition,
  type Use,
} from '@grammata/core/route';
import { answerOf, asText, isJsonObject, type Json, type JsonObject, type Submission } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { Problem } from '@grammata/core/transform';
import type { Services } from '../services';
import type { ChangeRow } from '../store';

/** What a change does to a route: breaks: what comes can't be sent, or goes wrong. risks: something it uses is another. */
export type TouchClass = 'breaks' | 'risks' | 'harmless';

export interface Touched {
  touch: TouchClass;
  /** Where the route uses what changed. */
  uses: Use[];
  /** How many of the newest submissions can't be sent. */
  held: number;
  looked: number;
}

type Parts = Pick<Services, 'store'>;

/** Changes after which a question that is used gives something else, or nothing. */
export const telling: ReadonlySet<string> = new Set([
  'gone',
  'replaced',
  'kind',
  'notation',
  'single-to-list',
  'list-to-single',
  'option-renamed',
  'option-gone',
  'option-added',
]);

/** What a change of a form does to a route as it is live, tried on what came since. */
export function formTouch(
  parts: Parts,
  { what }: Pick<ChangeRow, 'what'>,
  definition: RouteDefinition,
  since: readonly Submission[],
): Touched {
  const { change } = what as FormChange;
  const uses = usesLeft(what as FormChange, definition);
  const { looked } = heldOf(parts, definition, since);
  const held = heldOfChange(parts, what as FormChange, definition, since).size;
  const isUsed = uses.length > 0 && telling.has(change);
  const isEmptied = isUsed && (change === 'gone' || change === 'replaced') && uses.some(each => each.what !== 'line');
  if (!isUsed && !(change === 'envelope' && held > 0)) return { touch: 'harmless', uses, held, looked };
  return { touch: held > 0 || isEmptied ? 'breaks' : 'risks', uses, held, looked };
}

/** Where a route uses the question that changed. */
function usesLeft({ change, question, now: is }: FormChange, definition: RouteDefinition): Use[] {
  // What takes the successor, too, serves both.
  const served = new Set(change === 'replaced' ? usesOf(definition, asText(is ?? null)).map(placeOf) : []);
  return question === null ? [] : usesOf(definition, question).filter(each => !served.has(placeOf(each)));
}

/** Changes after which an answer is not there under its key any more. */
export const losing: ReadonlySet<string> = new Set(['gone', 'replaced']);

/** Whether a submission lacks an answer that a route uses, since its question is gone or has another key. */
export const isLost = (what: FormChange, definition: RouteDefinition, data: Submission): boolean =>
  losing.has(what.change) && isAbout(what, data) && usesLeft(what, definition).length > 0;

/** Of the submissions that a change of their form is about, those that the lines which use the question keep from going. */
export function heldOfChange(
  { store }: Pick<Parts, 'store'>,
  what: FormChange,
  definition: RouteDefinition,
  all: readonly Submission[],
): ReadonlySet<Submission> {
  const { question } = what;
  const at = question === null ? undefined : linesAmong(usesOf(definition, question));
  const about = all.filter(each => isAbout(what, each));
  return unsentOf(definition, targetsFor({ store }, definition), about, at);
}

/** Whether a submission shows a change: it answers the successor, gives the new option, or lacks what is gone. */
export function isAbout({ change, question, now: is }: FormChange, submission: Submission): boolean {
  const answer = (question === null ? null : answerOf(submission, question)) ?? null;
  const answers = Array.isArray(answer) ? answer : [answer];
  switch (change) {
    case 'replaced':
      return answerOf(submission, asText(is ?? null)) !== undefined;
    case 'option-added':
    case 'option-renamed':
      return answers.some(each => asText(each) === asText(is ?? null));
    case 'gone':
      return answers.every(each => asText(each) === '');
    default:
      return true;
  }
}

/** Those that are lines. */
export const linesAmong = (uses: readonly Use[]): LinePlace[] =>
  uses.flatMap(({ callId, lineId }) => (callId !== null && lineId !== null ? [{ callId, lineId }] : []));

const placeOf = ({ callId, lineId, what }: Use): string => `${what} ${callId} ${lineId}`;

/** How a route fares with these, by what its targets offer now. */
export const heldOf = (
  { store }: Pick<Parts, 'store'>,
  definition: RouteDefinition,
  all: readonly Submission[],
): Fare => fareOf(definition, targetsFor({ store }, definition), all);

/** What some lines of a route give, by what its targets offer now; nothing where its calls can't be made. */
export function triedOf(
  { store }: Pick<Parts, 'store'>,
  definition: RouteDefinition,
  at: readonly LinePlace[],
  all: readonly Submission[],
): (LineResult | null)[][] {
  try {
    return all.map(triedOn(definition, targetsFor({ store }, definition), at));
  } catch (error) {
    if (error instanceof Problem) return all.map(() => at.map(() => ({ problem: error.message })));
    throw error;
  }
}

const targetsFor = ({ store }: Pick<Parts, 'store'>, definition: RouteDefinition) =>
  targetsOf(definition).flatMap(id => store.targets.byId(id) ?? []);

/** What makes a call fail, and what only may. */
const breaking = new Set<string>([
  'operation-gone',
  'field-gone',
  'field-renamed',
  'option-gone',
  'option-renamed',
  'type',
]);
const risky = new Set<string>(['operation-moved', 'required', 'format', 'narrowed', 'option-added']);

/** The operation that a target's change is about, as it was. */
export const operationsBefore = ({ subject, before }: Pick<ChangeRow, 'subject' | 'before'>): Operation[] =>
  subject === 'target' && before !== null ? [before as unknown as Operation] : [];

/** What a change of a target does to a route. */
export function targetTouch(
  { what, subjectId }: Pick<ChangeRow, 'what' | 'subjectId'>,
  definition: RouteDefinition,
  before: readonly Operation[],
): Touched {
  const { change, operation, field, now: is } = what as DocumentChange;
  const none: Touched = { touch: 'harmless', uses: [], held: 0, looked: 0 };
  const changed = before.find(each => operationName(each) === operation);
  const calls = definition.calls.filter(
    each => changed && operationsUsed({ calls: [each] }, subjectId).includes(changed.id),
  );
  if (calls.length === 0) return none;
  const key = changed!.fields.find(each => fieldPlace(each) === field)?.key;
  const usesAt = (lineOf: (call: Call) => string | null | undefined) =>
    calls.flatMap((call): Use[] => {
      const lineId = lineOf(call);
      return lineId === undefined ? [] : [{ callId: call.id, lineId, what: 'line' }];
    });
  const whole = usesAt(() => null);
  const filled =
    field === undefined ? whole : usesAt(call => call.lines.find(each => each.to === key && each.source !== null)?.id);
  // What has to be sent from now on, and what must not be left blank any more.
  if (change === 'field-added') return isRequired(is) ? { ...none, touch: 'breaks', uses: whole } : none;
  if (change === 'required' && filled.length === 0) return { ...none, touch: 'breaks', uses: whole };
  if (filled.length === 0) return none;
  const touch = breaking.has(change) ? 'breaks' : risky.has(change) ? 'risks' : 'harmless';
  return { ...none, touch, uses: filled };
}

const isRequired = (now: Json | undefined): boolean =>
  isJsonObject(now ?? null) && (now as JsonObject).required === true;

/** What it does to a route that a target answers otherwise. */
export function answerTouch(
  { change, operation, field }: AnswerChange,
  targetId: string,
  definition: RouteDefinition,
  operations: readonly Operation[],
): Touched {
  const none: Touched = { touch: 'harmless', uses: [], held: 0, looked: 0 };
  const id = operations.find(each => operationName(each) === operation)?.id;
  const calls = definition.calls.filter(
    each =>
      each.targetId === targetId &&
      (operation === null || (id !== undefined && operationsUsed({ calls: [each] }, targetId).includes(id))),
  );
  const uses = calls.map((call): Use => {
    const line = call.lines.find(each => each.to === field && each.source !== null);
    return { callId: call.id, lineId: line?.id ?? null, what: 'line' };
  });
  if (uses.length === 0) return none;
  const isCounted = id !== undefined && (answersUsed(definition, targetId).get(id) ?? []).includes(field ?? '');
  const breaks =
    change === 'credentials' || change === 'scheme' || change === 'refused' || (change === 'answer' && isCounted);
  return { ...none, touch: breaks ? 'breaks' : 'risks', uses };
}
