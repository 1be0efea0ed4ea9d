import { compileCondition, everything, type Condition } from '../condition';
import { scopesOf } from '../perform';
import type { Call } from '../route';
import { scopeOf, type Scope } from '../scope';
import type { Json, Submission } from '../submission';
import type { Operation } from '../target';
import type { TransformContext } from '../transform';

/** A recorded submission kept for trying things on. */
export interface Sample {
  id: string;
  /** ISO 8601. */
  receivedAt: string;
  submission: Submission;
}

/** How a line fares over all samples that go. */
export interface LineTotals {
  lineId: string;
  fine: number;
  blank: number;
  trouble: number;
}

export interface CallParts {
  condition: Condition;
  call: Call;
  operation: Operation;
  baseUrl: string;
  context: TransformContext;
  /** False where a record is looked up first: what its lines need is not known before. */
  stops?: boolean;
  /** What earlier calls are likely to answer, by their ids. */
  answers?: Record<string, Json>;
}

/** What the call is made for on one sample: once, for each item, or not at all. */
export const scopesFor = ({ call, answers }: Pick<CallParts, 'call' | 'answers'>) => {
  const goes = compileCondition(call.condition ?? everything);
  return (submission: Submission): Scope[] => scopesOf(call, goes, scopeOf(submission, answers));
};
