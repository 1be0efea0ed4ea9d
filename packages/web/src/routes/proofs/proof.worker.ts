import type { Condition } from '@grammata/core/condition';
import { compileStages, type CallTarget } from '@grammata/core/perform';
import { holdAll, type ProofResult, type Proof } from '@grammata/core/proof';
import type { Call } from '@grammata/core/route';
import { Problem, type TransformContext } from '@grammata/core/transform';
import { answering } from '../../workers/asking';

/** A draft as proofs are held against it. */
export interface ProofDraft {
  condition: Condition;
  calls: Call[];
  targets: CallTarget[];
  context: TransformContext;
  /** The marks of the proofs. */
  marks: string[];
}

let proofs: readonly Proof[] = [];

answering<readonly Proof[], ProofDraft, ProofResult[]>({
  told: told => (proofs = told),
  asked(draft) {
    const stages = compileStages(draft.calls, draft.targets);
    if (stages instanceof Problem) throw new Error(stages.message);
    return holdAll({ ...draft, stages }, proofs);
  },
});
