import type { RouteDefinition } from '../route';
import type { Submission } from '../submission';
import { differences, type Difference, type Loose } from './differ';
import { enact, type Enacted, type Play, type RecordedAnswers } from './enact';

/** An approved rehearsal: a sample, what targets answered, and the requests it must give. */
export interface Proof {
  id: string;
  submission: Submission;
  answers: RecordedAnswers;
  approved: Enacted;
  /** Places whose values are not held to the letter, as a person said: a route itself gives the same each time. */
  loose: Loose[];
  /** The calls as they were when it was approved: what a step did then. */
  calls: RouteDefinition['calls'];
}

/** How a proof fares: what is otherwise than approved, and what it gives now. */
export interface ProofResult {
  id: string;
  differences: Difference[];
  now: Enacted;
}

/** How many proofs give something else than was approved. */
export const differingOf = (play: Play, proofs: readonly Proof[]): number =>
  holdAll(play, proofs).filter(each => each.differences.length > 0).length;

/** Holds proofs against a route as it is now. */
export const holdAll = (play: Play, proofs: readonly Proof[]): ProofResult[] =>
  proofs.map(({ id, submission, answers, approved, loose }) => {
    const now = enact(play, submission, answers);
    return { id, differences: differences(approved, now, loose), now };
  });
