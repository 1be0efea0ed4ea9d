import type { AskView, RunView } from '@grammata/contract';
import { likelyAnswers, perform, type Ask, type Told } from '@grammata/core/perform';
import { wireText } from '@grammata/core/request';
import type { RouteDefinition } from '@grammata/core/route';
import type { Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { newId } from '../ids';
import { maskedFor } from '../outward';
import { askTarget } from './asking';
import type { Courier } from './courier';
import { sideOf, type Preparation, type PreparedRoute } from './prepare';

/** Runs a draft for one sample on the side to try things on: everything really sent, or only what is looked up. */
export async function runDraft(
  { preparation, courier }: { preparation: Preparation; courier: Courier },
  draft: RouteDefinition,
  sample: { submissionId: string; data: Submission },
  sends: boolean,
): Promise<RunView> {
  const route = preparation.route(draft, 'try');
  if (route instanceof Problem) return { asks: [], done: [], problems: [plain(route)] };
  const idempotencyKey = `try-${newId()}`;
  const asks: AskView[] = [];
  // What is not written can't be read back.
  const stages = sends ? route.stages : route.stages.map(stage => ({ ...stage, readBack: null }));
  const conversation = perform(stages, sample.data, route.context);
  let next = conversation.next();
  while (!next.done) {
    const ask = next.value;
    // A dry run sends nothing that could change anything, whatever it is called (RFC 9110 §9.2.1).
    if (!sends && (ask.purpose !== 'find' || ask.request.method !== 'GET')) {
      asks.push(viewOf(ask, requestText(route, ask)));
      next = conversation.next(likelyAnswer(route, ask));
      continue;
    }
    const { verdict, told, record, passesOver } = await askTarget(courier, route, ask, {
      ...sample,
      idempotencyKey,
      side: 'try',
    });
    const { request, status, message } = record;
    asks.push({ ...viewOf(ask, request), status, message });
    if (verdict.outcome !== 'delivered' && ask.purpose !== 'readBack' && !passesOver)
      return { asks, done: [], problems: [{ code: 'target.refused', message }] };
    next = conversation.next(told);
  }
  const ending = next.value;
  return { asks, done: ending.done, problems: 'held' in ending ? ending.held.map(plain) : [] };
}

const plain = ({ code, message }: Problem) => ({ code, message });

const viewOf = ({ callId, item, purpose, changes, found }: Ask, request: string): AskView => ({
  callId,
  item,
  purpose,
  changes,
  found,
  request,
});

function requestText({ targets }: PreparedRoute, { targetId, request }: Ask): string {
  const { headers, query } = maskedFor(sideOf(targets.get(targetId)!, 'try'));
  return wireText(request, headers, query);
}

/** What a call that is not made would most likely answer. */
function likelyAnswer({ stages }: PreparedRoute, { callId }: Ask): Told {
  const answers = likelyAnswers(stages.map(({ call, main }) => ({ call, operation: main.operation })));
  return { answer: answers[callId] ?? null };
}
