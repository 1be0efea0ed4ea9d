import { compileReference, referenceOf, type Scope } from '../scope';
import { isJsonObject } from '../submission';
import { comparators, comparatorWords, holds, takesValues, type Comparator } from './comparators';

/** One test of one answer, of files, or of what stands beside the answers. */
export interface Test {
  /** A question's key, or a reference to what is said about the submission. */
  field: string;
  is: Comparator;
  /** As many as the comparator takes. */
  values: string[];
  not: boolean;
}

/** Which submissions go: tests and groups of them, of which all, any or none must hold. An empty one lets all through. */
export type Condition = { all: Part[] } | { any: Part[] } | { none: Part[] };
export type Part = Test | Condition;

export const modes = ['all', 'any', 'none'] as const;
export type Mode = (typeof modes)[number];

/** Deepest nesting of groups, and most parts in all, that a condition may have. */
export const conditionLimits = { depth: 8, parts: 200 };

export const everything: Condition = { all: [] };

export const isTest = (part: Part): part is Test => 'field' in part;
export const modeOf = (condition: Condition): Mode => modes.find(mode => mode in condition)!;
export const partsOf = (condition: Condition): Part[] => (condition as Record<Mode, Part[]>)[modeOf(condition)];
export const conditionOf = (mode: Mode, parts: Part[]): Condition => ({ [mode]: parts }) as Condition;

/** Every test in a condition, whatever group it stands in. */
export const testsOf = (condition: Condition): Test[] =>
  partsOf(condition).flatMap(part => (isTest(part) ? [part] : testsOf(part)));

/** A condition with each of its tests as something else. */
export const withTests = (condition: Condition, made: (test: Test) => Part): Condition =>
  conditionOf(
    modeOf(condition),
    partsOf(condition).map(part => (isTest(part) ? made(part) : withTests(part, made))),
  );

type Predicate = (scope: Scope) => boolean;

/** The condition as a function of a scope. */
export function compileCondition(condition: Condition): Predicate {
  const parts = partsOf(condition).map(compilePart);
  if (parts.length === 0) return () => true;
  const mode = modeOf(condition);
  if (mode === 'all') return scope => parts.every(part => part(scope));
  if (mode === 'any') return scope => parts.some(part => part(scope));
  return scope => !parts.some(part => part(scope));
}

export const compilePart = (part: Part): Predicate => (isTest(part) ? compileTest(part) : compileCondition(part));

function compileTest({ field, is, values, not }: Test): Predicate {
  const answer = compileReference(referenceOf(field));
  return scope => holds(is, answer(scope), values) !== not;
}

/** A test in words. @example “Which site?” is one of AB-07, AB-09 */
export function explainTest(test: Test, labelOf: (key: string) => string): string {
  const values =
    takesValues(test.is) === 'none'
      ? ''
      : ` ${test.values.join(takesValues(test.is) === 'two' ? ' to ' : ', ') || '…'}`;
  const words =
    takesValues(test.is) === 'two'
      ? comparatorWords(test.is, test.not).replace(' … to', '')
      : comparatorWords(test.is, test.not);
  return `${labelOf(test.field)} ${words}${values}`;
}

const joins: Record<Mode, string> = { all: ' and ', any: ' or ', none: ' or ' };

/** A condition in words; groups inside groups stand in brackets. */
export function explainCondition(condition: Condition, labelOf: (key: string) => string): string {
  const mode = modeOf(condition);
  const phrases = partsOf(condition).map(part =>
    isTest(part) ? explainTest(part, labelOf) : `(${explainCondition(part, labelOf)})`,
  );
  if (phrases.length === 0) return 'always';
  return mode === 'none' ? `not (${phrases.join(joins.none)})` : phrases.join(joins[mode]);
}

/** Why a value is no condition, or null when it is one. */
export function conditionFault(value: unknown, depth = 0): string | null {
  if (depth > conditionLimits.depth) return `groups are nested deeper than ${conditionLimits.depth}`;
  if (!isJsonObject(value)) return 'a condition is an object';
  const keys = Object.keys(value);
  const mode = modes.find(each => each === keys[0]);
  if (keys.length !== 1 || !mode) return 'a condition has one of all, any and none';
  const parts = value[mode];
  if (!Array.isArray(parts)) return `“${mode}” holds a list`;
  if (parts.length > conditionLimits.parts) return `a group has up to ${conditionLimits.parts} parts`;
  for (const part of parts) {
    const fault = isJsonObject(part) && 'field' in part ? testFault(part) : conditionFault(part, depth + 1);
    if (fault) return fault;
  }
  return null;
}

function testFault(test: Record<string, unknown>): string | null {
  const { field, is, values, not, ...rest } = test;
  if (typeof field !== 'string' || field.length > 500) return 'a test names the field it looks at';
  if (!comparators.includes(is as Comparator)) return `there is no comparison called “${String(is)}”`;
  if (
    !Array.isArray(values) ||
    values.length > 200 ||
    !values.every(each => typeof each === 'string' && each.length <= 2000)
  )
    return 'values are up to 200 texts';
  if (typeof not !== 'boolean') return '“not” is true or false';
  return Object.keys(rest).length > 0 ? `a test has no “${Object.keys(rest)[0]}”` : null;
}
