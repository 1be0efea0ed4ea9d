import { compileCondition } from '../condition';
import { compileStages, foresee, type CallTarget, type Foreseen, type Stage } from '../perform';
import type { Outcome } from '../request';
import type { Line, RouteDefinition } from '../route';
import { scopeOf } from '../scope';
import type { Submission } from '../submission';
import { Problem } from '../transform';

/** How a route fares with submissions: how many go, how many of those can't be sent, and why the first can't. */
export interface Fare {
  looked: number;
  held: number;
  /** The commonest reasons, in words. */
  reasons: string[];
}

/** A line of a call. */
export interface LinePlace {
  callId: string;
  lineId: string;
}

/** Reasons that are told. */
const MOST_REASONS = 3;

/**
 * How a route fares with submissions, by what its targets offer; a record that is looked up first counts as new. With `at`, only those count that these lines
 * keep from going.
 */
export function fareOf(
  definition: RouteDefinition,
  targets: readonly CallTarget[],
  all: readonly Submission[],
  at?: readonly LinePlace[],
): Fare {
  const goes = compileCondition(definition.condition);
  const going = all.filter(each => goes(scopeOf(each)));
  const stages = compileStages(definition.calls, targets);
  if (stages instanceof Problem)
    return { looked: going.length, held: going.length, reasons: going.length > 0 ? [stages.message] : [] };
  const reasons = new Map<string, number>();
  const held = stoppedAmong(stages, definition, going, at);
  for (const { message } of held.values()) reasons.set(message, (reasons.get(message) ?? 0) + 1);
  const commonest = [...reasons].sort((a, b) => b[1] - a[1]).slice(0, MOST_REASONS);
  return { looked: going.length, held: held.size, reasons: commonest.map(([message]) => message) };
}

/** Submissions that can't be sent; all of them where the calls can't be made. See {@link fareOf}. */
export function unsentOf(
  definition: RouteDefinition,
  targets: readonly CallTarget[],
  all: readonly Submission[],
  at?: readonly LinePlace[],
): ReadonlySet<Submission> {
  const goes = compileCondition(definition.condition);
  const going = all.filter(each => goes(scopeOf(each)));
  const stages = compileStages(definition.calls, targets);
  return new Set(stages instanceof Problem ? going : stoppedAmong(stages, definition, going, at).keys());
}

function stoppedAmong(
  stages: readonly Stage[],
  { terms }: RouteDefinition,
  going: readonly Submission[],
  at?: readonly LinePlace[],
): Map<Submission, Problem> {
  const stopped = new Map<Submission, Problem>();
  for (const each of going) {
    const foreseen = foresee(stages, each, { timeZone: terms.timeZone });
    const [first] = at ? stopsOf(stages, foreseen, at) : [...foreseen.problems, ...foreseen.ifNew];
    if (first) stopped.set(each, first);
  }
  return stopped;
}

/** Problems of some lines that keep a submission from going. */
function stopsOf(stages: readonly Stage[], foreseen: Foreseen, at: readonly LinePlace[]): Problem[] {
  return linesOf(stages, foreseen).flatMap(({ stage, line, outcome }) =>
    outcome.stops &&
    outcome.problem &&
    stage.call.whenFailed !== 'passOver' &&
    !stage.waits &&
    at.some(each => each.callId === stage.call.id && each.lineId === line.id)
      ? [outcome.problem]
      : [],
  );
}

const linesOf = (stages: readonly Stage[], { requests }: Foreseen): { stage: Stage; line: Line; outcome: Outcome }[] =>
  requests.flatMap(({ callId, purpose, planned }) => {
    const stage = stages.find(each => each.call.id === callId)!;
    const { lines } = purpose === 'find' ? stage.find!.call : stage.main;
    // What a line draws from an answer is not known before.
    return planned.outcomes.flatMap((outcome, index) =>
      lines[index]!.waits ? [] : [{ stage, line: lines[index]!.line, outcome }],
    );
  });

/** What a line gives for a submission: a value as it would be sent, null for none; or why nothing can be sent. */
export type LineResult = { value: Outcome['value'] | null } | { problem: string };

/**
 * What some lines give for a submission, in their order; null for a line that makes no request for it, and for all of them where the filter
 * leaves it out. Throws Problem where the calls can't be made at all.
 */
export function triedOn(
  definition: RouteDefinition,
  targets: readonly CallTarget[],
  at: readonly LinePlace[],
): (submission: Submission) => (LineResult | null)[] {
  const goes = compileCondition(definition.condition);
  const stages = compileStages(definition.calls, targets);
  if (stages instanceof Problem) throw stages;
  return submission => {
    if (!goes(scopeOf(submission))) return at.map(() => null);
    const foreseen = foresee(stages, submission, { timeZone: definition.terms.timeZone });
    const lines = linesOf(stages, foreseen);
    return at.map(({ callId, lineId }) => {
      const found = lines.find(({ stage, line }) => stage.call.id === callId && line.id === lineId)?.outcome;
      if (!found) return null;
      return found.problem && found.stops ? { problem: found.problem.message } : { value: found.value ?? null };
    });
  };
}
