import { compileCondition, everything, type Condition } from '../condition';
import { situationsOf } from '../perform';
import { compileCall, stoppers, type Outcome, type RequestPlan } from '../request';
import type { Call } from '../route';
import type { Json, Situation, Submission } from '../submission';
import type { Operation } from '../target';
import type { TransformContext } from '../transform';

/** A recorded submission kept for trying things on. */
export interface Sample {
  id: string;
  /** ISO 8601. */
  receivedAt: string;
  submission: Submission;
}

/** How one line fares on one sample; plain data that crosses from a worker. */
export interface CellOutcome {
  state: Outcome['state'];
  value: Outcome['value'];
  problem: { code: string; message: string } | null;
}

export interface RehearsedSample {
  sampleId: string;
  /** False when the condition leaves this one out. */
  goes: boolean;
  /** True when its request may go. */
  sendable: boolean;
  /** One a line, in their order. */
  cells: CellOutcome[];
  /** What keeps the request from going. */
  stoppers: { code: string; message: string }[];
  request: RequestPlan;
}

/** How a line fares over all samples that go. */
export interface LineTotals {
  lineId: string;
  fine: number;
  blank: number;
  trouble: number;
}

export interface Rehearsal {
  samples: RehearsedSample[];
  lines: LineTotals[];
  /** Samples that go; of these, those whose request may be sent. */
  going: number;
  sendable: number;
  /** Keys of required fields that no line fills. */
  missing: string[];
}

export interface RouteParts {
  condition: Condition;
  call: Call;
  operation: Operation;
  baseUrl: string;
  context: TransformContext;
  /** What earlier calls are likely to answer, by their ids. */
  answers?: Record<string, Json>;
}

/** What the call is made for on one sample: once, for each item, or not at all. */
export const situationsFor = ({ call, answers }: Pick<RouteParts, 'call' | 'answers'>) => {
  const goes = compileCondition(call.condition ?? everything);
  return (submission: Submission): Situation[] =>
    situationsOf(call, goes, answers ? { ...submission, answers } : submission);
};

/** Runs a route over samples without sending: the same plan function that delivery uses. */
export function rehearse(route: RouteParts, samples: readonly Sample[]): Rehearsal {
  const goes = compileCondition(route.condition);
  const call = compileCall(route.call, route.operation, route.baseUrl);
  const lines: LineTotals[] = call.lines.map(({ line }) => ({ lineId: line.id, fine: 0, blank: 0, trouble: 0 }));
  const rehearsed = samples.map(({ id, submission }): RehearsedSample => {
    const planned = call.plan(submission, route.context);
    const going = goes(submission);
    if (going) planned.outcomes.forEach(({ state }, index) => lines[index]![state]++);
    return {
      sampleId: id,
      goes: going,
      sendable: planned.sendable,
      cells: planned.outcomes.map(cellOf),
      stoppers: stoppers(planned).map(({ code, message }) => ({ code, message })),
      request: planned.request,
    };
  });
  const going = rehearsed.filter(each => each.goes);
  return {
    samples: rehearsed,
    lines,
    going: going.length,
    sendable: going.filter(each => each.sendable).length,
    missing: call.missing.map(field => field.key),
  };
}

const cellOf = ({ state, value, problem }: Outcome): CellOutcome => ({
  state,
  value,
  problem: problem && { code: problem.code, message: problem.message },
});
