import type { Condition } from '@grammata/core/condition';
import { compileStages, type CallTarget } from '@grammata/core/perform';
import { holdAll, type Held, type Proof } from '@grammata/core/proof';
import type { Call } from '@grammata/core/route';
import { Problem, type TransformContext } from '@grammata/core/transform';

/** A draft as proofs are held against it. */
export interface HeldAgainst {
  condition: Condition;
  calls: Call[];
  targets: CallTarget[];
  context: TransformContext;
}

export type Question = { proofs: Proof[] } | { draft: HeldAgainst; number: number };
export type Answer = { number: number } & ({ held: Held[] } | { fault: string });

let proofs: Proof[] = [];

self.onmessage = ({ data }: MessageEvent<Question>) => {
  if ('proofs' in data) {
    ({ proofs } = data);
    return;
  }
  const { draft, number } = data;
  try {
    const stages = compileStages(draft.calls, draft.targets);
    self.postMessage(
      (stages instanceof Problem
        ? { number, fault: stages.message }
        : { number, held: holdAll({ ...draft, stages }, proofs) }) satisfies Answer,
    );
  } catch (error) {
    self.postMessage({ number, fault: (error as Error).message } satisfies Answer);
  }
};
