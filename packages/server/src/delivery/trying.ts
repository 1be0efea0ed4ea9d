import type { AskView, RunView } from '@grammata/contract';
import { likelyAnswers, perform, type Ask, type CallResult } from '@grammata/core/perform';
import { answerKey, type RecordedAnswers } from '@grammata/core/proof';
import { wireText } from '@grammata/core/request';
import { callsAsked, type RouteDefinition } from '@grammata/core/route';
import type { Json, Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { newId } from '../ids';
import { maskedIn } from '../access';
import { maskedFor } from '../outward';
import { askTarget } from './asking';
import type { Courier } from './courier';
import { sideOf, type Preparation, type PreparedRoute } from './prepare';

export interface TrialParts {
  preparation: Preparation;
  courier: Courier;
  /** Takes note of what an operation of a target answered. */
  learn: (targetId: string, operationId: string, answer: Json) => void;
}

/** Takes note of what a request was answered where it went well, without secrets. */
export function learnFrom({ courier, learn }: TrialParts, { stages }: PreparedRoute, ask: Ask, told: CallResult): void {
  const stage = stages.find(each => each.call.id === ask.callId);
  const operations: Record<Ask['purpose'], string | undefined> = {
    find: stage?.find?.settings.operationId ?? stage?.call.operationId,
    create: stage?.call.operationId,
    update: stage?.find?.update?.settings.operationId,
    readBack: stage?.readBack?.settings.operationId,
  };
  const operationId = operations[ask.purpose];
  if (operationId !== undefined && 'answer' in told && told.answer !== null)
    learn(
      ask.targetId,
      operationId,
      maskedIn(told.answer, text => courier.mask(text)),
    );
}

export interface SampleTest {
  submissionId: string;
  data: Submission;
}

/** A draft under way for one sample on the side to try things on: one request after the other, each when it is asked for. */
export class Trying {
  readonly #asks: AskView[] = [];
  readonly #answers: RecordedAnswers = {};
  readonly #conversation: ReturnType<typeof perform>;
  readonly #idempotencyKey = `try-${newId()}`;
  #at: ReturnType<ReturnType<typeof perform>['next']>;
  #refusal: string | null = null;
  /** What a dry run did not make, by its call: what hangs on the response can't be looked up. */
  readonly #unmade = new Map<string, Ask['purpose']>();

  private constructor(
    private readonly parts: TrialParts,
    private readonly route: PreparedRoute,
    private readonly sample: SampleTest,
    private readonly sends: boolean,
  ) {
    // What is not written can't be read back.
    const stages = sends ? route.stages : route.stages.map(stage => ({ ...stage, readBack: null }));
    this.#conversation = perform(stages, sample.data, route.context);
    this.#at = this.#conversation.next();
  }

  /** Readies a draft; nothing is asked yet. Everything will really be sent, or only what is looked up. */
  static of(parts: TrialParts, draft: RouteDefinition, sample: SampleTest, sends: boolean) {
    const route = parts.preparation.route(draft, 'try');
    return route instanceof Problem ? route : new Trying(parts, route, sample, sends);
  }

  /** The request that is made next; null where none is left, or one was refused. */
  get next(): AskView | null {
    if (this.#at.done || this.#refusal !== null) return null;
    return this.#viewOf(this.#at.value);
  }

  /** Makes the next request, and goes on with what it was answered. */
  async step(): Promise<void> {
    if (this.#at.done || this.#refusal !== null) return;
    const ask = this.#at.value;
    // A dry run sends nothing that could change anything, whatever it is called (RFC 9110 §9.2.1), and asks nothing about a record
    // that another would have been made for.
    if (!this.sends && (!readsOnly(this.route, ask) || this.#hangsOnUnmade(ask))) {
      this.#unmade.set(ask.callId, ask.purpose);
      this.#asks.push(this.#viewOf(ask));
      this.#at = this.#conversation.next(likelyAnswer(this.route, ask));
      return;
    }
    const { verdict, told, record, passesOver } = await askTarget(this.parts.courier, this.route, ask, {
      ...this.sample,
      idempotencyKey: this.#idempotencyKey,
      side: 'try',
    });
    const { request, status, message, response } = record;
    this.#asks.push({ ...this.#viewOf(ask, request), status, message, response });
    if (verdict.outcome !== 'delivered' && ask.purpose !== 'readBack' && !passesOver) this.#refusal = message;
    else {
      learnFrom(this.parts, this.route, ask, told);
      if ('answer' in told) this.#answers[answerKey(ask)] = maskedIn(told.answer, this.#mask);
      this.#at = this.#conversation.next(told);
    }
  }

  #hangsOnUnmade({ callId, purpose }: Ask): boolean {
    const call = this.route.stages.find(each => each.call.id === callId)?.call;
    if (!call) return false;
    return callsAsked(call, purpose === 'find').some(({ callId: asked, isRecord }) => {
      const unmade = this.#unmade.get(asked);
      // A record that was found is known, changed or not.
      return unmade !== undefined && !(isRecord && unmade === 'update');
    });
  }

  readonly #mask = (text: string) => this.parts.courier.mask(text);

  #viewOf(ask: Ask, request = this.#mask(requestText(this.route, ask))): AskView {
    const { callId, item, purpose, changes, found } = ask;
    return { callId, item, purpose, request, ...maskedIn({ changes, found }, this.#mask) };
  }

  /** What was really answered so far, as it is kept. */
  get answers(): RecordedAnswers {
    return { ...this.#answers };
  }

  /** How far it is. */
  view(): RunView {
    const asks = [...this.#asks];
    if (this.#refusal !== null)
      return { asks, done: [], problems: [{ code: 'target.refused', message: this.#refusal }] };
    if (!this.#at.done) return { asks, done: [], problems: [] };
    const ending = this.#at.value;
    const done = ending.done.map(each => maskedIn(each, this.#mask));
    const problems = 'held' in ending ? ending.held.map(each => maskedIn(plain(each), this.#mask)) : [];
    return { asks, done, problems };
  }
}

/** Runs a draft for one sample on the side to try things on: everything really sent, or only what is looked up. */
export async function runDraft(
  parts: TrialParts,
  draft: RouteDefinition,
  sample: SampleTest,
  sends: boolean,
): Promise<RunView> {
  const trying = Trying.of(parts, draft, sample, sends);
  if (trying instanceof Problem) return { asks: [], done: [], problems: [plain(trying)] };
  while (trying.next) await trying.step();
  return trying.view();
}

/** True for what only reads: by its method, or because whoever composed the look-up said so. */
const readsOnly = ({ stages }: PreparedRoute, { callId, purpose, request }: Ask): boolean =>
  request.method === 'GET' ||
  stages.find(each => each.call.id === callId)?.main.operation.reads === true ||
  (purpose === 'find' && stages.find(each => each.call.id === callId)?.find?.settings.readsOnly === true);

const plain = ({ code, message }: Pick<Problem, 'code' | 'message'>) => ({ code, message });

function requestText({ targets }: PreparedRoute, { targetId, request }: Ask): string {
  const { headers, query } = maskedFor(sideOf(targets.get(targetId)!, 'try'));
  return wireText(request, headers, query);
}

/** A stage with what its operation really answered, where that is known. */
export const answeredBy = ({ call, main }: PreparedRoute['stages'][number], targets: PreparedRoute['targets']) => ({
  call,
  operation: main.operation,
  answered: targets.get(call.targetId)?.answers[call.operationId],
});

/** What a call that is not made would most likely answer. */
function likelyAnswer({ stages, targets }: PreparedRoute, { callId, purpose, targetId }: Ask): CallResult {
  const find = purpose === 'find' ? stages.find(each => each.call.id === callId)?.find : null;
  if (find) return { answer: targets.get(targetId)?.answers[find.settings.operationId] ?? null };
  const answers = likelyAnswers(stages.map(each => answeredBy(each, targets)));
  return { answer: answers[callId] ?? null };
}
