import { Problem } from '@grammata/core/transform';
import { Trying } from '../delivery';
import { HttpProblem } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import type { Actor } from './actor';
import { sampleOf } from './sampleOf';

export type TryingParts = Pick<Services, 'store' | 'deliveries' | 'courier' | 'workshop' | 'timers' | 'live' | 'log'>;

export const partsOf = ({ deliveries, courier }: Pick<TryingParts, 'deliveries' | 'courier'>) => ({
  preparation: deliveries.preparation,
  courier,
});

/** Readies a draft to be tried for a sample, a request at a time. Throws HttpProblem where it can't be made. */
export function startTrying(parts: TryingParts, actor: Actor, route: RouteRow, sampleId: string): Trying {
  const sample = { submissionId: sampleId, data: sampleOf(parts, sampleId) };
  const trying = Trying.of(partsOf(parts), route.draft, sample, true);
  if (trying instanceof Problem) throw new HttpProblem(409, trying.message);
  parts.log.info({ actor: actor.id, route: route.id, sample: sampleId }, 'a draft is tried a request at a time');
  return trying;
}
