import type { RouteDefinition } from '../route';
import type { Json, Submission } from '../submission';
import { differences, looseIn, type Difference, type Loose } from './differ';
import { enact, type Enacted, type Play, type RecordedAnswers } from './enact';

/** An approved rehearsal: a sample, what targets answered, and the requests it must give. */
export interface Proof {
  id: string;
  submission: Submission;
  answers: RecordedAnswers;
  approved: Enacted;
  /** Places whose values differ each time. */
  loose: Loose[];
  /** The calls as they were when it was approved: what a step did then. */
  calls: RouteDefinition['calls'];
}

/** How a proof fares: what is otherwise than approved, and what it gives now. */
export interface Held {
  id: string;
  differences: Difference[];
  now: Enacted;
}

/** Holds proofs against a route as it is now. */
export const holdAll = (play: Play, proofs: readonly Proof[]): Held[] =>
  proofs.map(({ id, submission, answers, approved, loose }) => {
    const now = enact(play, submission, answers);
    return { id, differences: differences(approved, now, loose), now };
  });

/** What is approved of a submission: what the route does with it now, and which places differ from one time to the next. */
export function approve(
  play: Play,
  submission: Submission,
  answers: Record<string, Json>,
): Pick<Proof, 'approved' | 'loose'> {
  const approved = enact(play, submission, answers);
  return { approved, loose: looseIn(approved, enact(play, submission, answers)) };
}
