import { Problem } from '@grammata/core/transform';
import type { Json } from '@grammata/core/submission';
import { answerFields, answerToKeep } from '@grammata/core/target';
import { Trying, type TrialParts } from '../delivery';
import { HttpProblem } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import type { Actor } from './actor';
import { sampleOf } from './sampleOf';

export type TryingParts = Pick<Services, 'store' | 'deliveries' | 'courier' | 'workshop' | 'timers' | 'live' | 'log'>;

/** What it takes to try things on; what targets answer meanwhile is kept, to be shown where it is used. */
export const trialParts = ({
  deliveries,
  courier,
  store,
  live,
}: Pick<TryingParts, 'deliveries' | 'courier' | 'store' | 'live'>): TrialParts => ({
  preparation: deliveries.preparation,
  courier,
  learn(targetId, operationId, answer) {
    const kept = answerToKeep(answer);
    const known = store.targets.byId(targetId)?.answers[operationId];
    // One that says no more than what is known teaches nothing: samples are tried by the hundred.
    if (kept === undefined || (known !== undefined && placesIn(kept) <= placesIn(known))) return;
    store.targets.keepAnswer(targetId, operationId, kept);
    live.publish({ type: 'changed', what: 'target', id: targetId });
  },
});

/** Places of an answer that can be referred to, those inside lists too. */
const placesIn = (answer: Json): number =>
  answerFields(answer).reduce((sum, { items = [] }) => sum + 1 + items.length, 0);

/** Readies a draft to be tried for a sample, a request at a time. Throws HttpProblem where it can't be made. */
export function startTrying(parts: TryingParts, actor: Actor, route: RouteRow, sampleId: string): Trying {
  const sample = { submissionId: sampleId, data: sampleOf(parts, sampleId) };
  const trying = Trying.of(trialParts(parts), route.draft, sample, true);
  if (trying instanceof Problem) throw new HttpProblem(409, trying.message);
  parts.log.info({ actor: actor.id, route: route.id, sample: sampleId }, 'a draft is tried a request at a time');
  return trying;
}
