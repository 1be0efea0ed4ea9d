import type { Condition } from '../condition';
import { canonical, type Json } from '../submission';
import type { Call } from './call';
import { withTargets } from './references';

/** The version of this definition's own shape: what is stored, exported or imported says which it has. */
export const ROUTE_FORMAT = 1;

/**
 * What a route does. The stored draft, the frozen version and what goes over the API hold this and nothing else; which
 * revision it is, and whether it is live, is said beside it.
 */
export interface RouteDefinition {
  format: typeof ROUTE_FORMAT;
  name: string;
  condition: Condition;
  /** In the order in which they are made. */
  calls: Call[];
  terms: Terms;
}

/**
 * holdLost: what lacks an answer that this route uses is held, where the question is gone or has another key. holdTouched: what a change
 * touches that this route uses is held. holdAll: all of it is. Each until somebody looked. deliver: anyway.
 */
export const changedChoices = ['holdLost', 'holdTouched', 'holdAll', 'deliver'] as const;

/** The terms of delivery. */
export interface Terms {
  /** For how many hours a call that fails in passing is tried again; 0 tries it once. */
  hours: number;
  /** True when the draft has to be tried for real, and read back without loss, before it goes live. */
  needsTrial?: boolean;
  /** What is done with what comes while a change of the form is open: left out, `holdLost`. */
  whenChanged?: (typeof changedChoices)[number];
  /** For how many hours it is held at most; left out, until somebody decides. */
  holdHours?: number;
  /** IANA name of the zone in which the form's people write their times. */
  timeZone: string;
}

export const usualTerms: Terms = { hours: 24, timeZone: 'Europe/London' };

/** True when two definitions do the same, in whatever order their properties stand. */
export const sameDefinition = (a: RouteDefinition, b: RouteDefinition): boolean =>
  canonical(plain(a)) === canonical(plain(b));

/** As it is stored: what is undefined is left out. */
const plain = (definition: RouteDefinition): Json => JSON.parse(JSON.stringify(definition)) as Json;

/** The targets that a route's calls go to, each once, by identifier; then those that it has files from. */
export function targetsOf({ calls }: Pick<RouteDefinition, 'calls'>): string[] {
  const all = new Set(calls.map(call => call.targetId));
  withTargets(calls, id => (all.add(id), id));
  return [...all];
}

/** Identifiers of the operations that a route's calls to a target use: to write, to find, to change, to read back. */
export const operationsUsed = ({ calls }: Pick<RouteDefinition, 'calls'>, targetId: string): string[] => [
  ...new Set(
    calls
      .filter(call => call.targetId === targetId)
      .flatMap(({ operationId, find, readBack }) => [
        operationId,
        ...(find ? [find.operationId] : []),
        ...(find?.update ? [find.update.operationId] : []),
        ...(readBack ? [readBack.operationId] : []),
      ]),
  ),
];
