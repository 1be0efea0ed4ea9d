import { compileCondition } from '../condition';
import { compileStages, foresee, type CallTarget } from '../perform';
import type { RouteDefinition } from '../route';
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

/** Reasons that are told. */
const MOST_REASONS = 3;

/** How a route fares with submissions, by what its targets offer. */
export function fareOf(definition: RouteDefinition, targets: readonly CallTarget[], all: readonly Submission[]): Fare {
  const goes = compileCondition(definition.condition);
  const going = all.filter(each => goes(scopeOf(each)));
  const stages = compileStages(definition.calls, targets);
  if (stages instanceof Problem)
    return { looked: going.length, held: going.length, reasons: going.length > 0 ? [stages.message] : [] };
  const reasons = new Map<string, number>();
  const held = going.filter(each => {
    const [first] = foresee(stages, each, { timeZone: definition.terms.timeZone }).problems;
    if (first) reasons.set(first.message, (reasons.get(first.message) ?? 0) + 1);
    return first !== undefined;
  });
  const told = [...reasons].sort((a, b) => b[1] - a[1]).slice(0, MOST_REASONS);
  return { looked: going.length, held: held.length, reasons: told.map(([message]) => message) };
}
