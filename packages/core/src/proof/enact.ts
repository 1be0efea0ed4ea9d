import { compileCondition, type Condition } from '../condition';
import { likelyAnswers, perform, type Ask, type Stage, type CallResult } from '../perform';
import type { RequestPlan } from '../request';
import { scopeOf } from '../scope';
import type { Json, Submission } from '../submission';
import type { TransformContext } from '../transform';

/** A request as a proof keeps it: what goes over the wire, and which line each value came from. */
export interface ProofRequest {
  callId: string;
  item: string;
  purpose: Ask['purpose'];
  method: RequestPlan['method'];
  url: string;
  headers: RequestPlan['headers'];
  encoding: RequestPlan['encoding'];
  body: Json;
  /** Lines by JSON Pointers into the body. */
  origins: Record<string, string>;
  /** Files that go along, by name and where they stand. */
  files: { pointer: string; name: string }[];
}

/** What a route does with a submission: whether it goes, its requests in their order, and what holds it. */
export interface Enacted {
  goes: boolean;
  requests: ProofRequest[];
  /** Codes of problems that hold it, with their words. */
  held: { code: string; message: string }[];
}

/** What targets answered, by {@link answerKey}: a route rehearses with it without a network. */
export type RecordedAnswers = Record<string, Json>;

/** Under what the answer to a request is kept. */
export const answerKey = ({ callId, item, purpose }: Pick<Ask, 'callId' | 'item' | 'purpose'>): string =>
  `${callId} ${item} ${purpose}`;

/** A route, compiled, to be enacted for many submissions. */
export interface Play {
  stages: readonly Stage[];
  condition: Condition;
  context: TransformContext;
}

/**
 * Plays a route through for a submission without sending: its requests are answered with what was recorded; where nothing was, with
 * what is likely, and a look-up with nothing.
 */
export function enact({ stages, condition, context }: Play, submission: Submission, answers: RecordedAnswers): Enacted {
  if (!compileCondition(condition)(scopeOf(submission))) return { goes: false, requests: [], held: [] };
  const likely = likelyAnswers(stages.map(({ call, main }) => ({ call, operation: main.operation })));
  const requests: ProofRequest[] = [];
  const conversation = perform(stages, submission, context);
  let next = conversation.next();
  while (!next.done) {
    const ask = next.value;
    requests.push(requestOf(ask));
    const recorded = own(answers, answerKey(ask));
    const result: CallResult = {
      answer: recorded ?? (ask.purpose === 'find' ? null : (own(likely, ask.callId) ?? null)),
    };
    next = conversation.next(result);
  }
  const held = 'held' in next.value ? next.value.held.map(({ code, message }) => ({ code, message })) : [];
  return { goes: true, requests, held };
}

const own = (object: Record<string, Json>, key: string): Json | undefined =>
  Object.hasOwn(object, key) ? object[key] : undefined;

const requestOf = ({ callId, item, purpose, request }: Ask): ProofRequest => ({
  callId,
  item,
  purpose,
  method: request.method,
  url: request.url,
  headers: request.headers,
  encoding: request.encoding,
  body: request.body,
  origins: request.origins,
  files: request.files.map(({ pointer, name }) => ({ pointer, name })),
});
