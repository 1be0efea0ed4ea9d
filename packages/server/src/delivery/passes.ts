import { compileCondition } from '@grammata/core/condition';
import { scopeOf } from '@grammata/core/scope';
import type { SubmissionRow, VersionRow } from '../store';

/** Conditions of versions, compiled: a version never changes. */
const compiled = new WeakMap<VersionRow, ReturnType<typeof compileCondition>>();

/** Whether a submission passes the condition of a version. */
export function passes(version: VersionRow, { data }: Pick<SubmissionRow, 'data'>): boolean {
  const known = compiled.get(version) ?? compileCondition(version.definition.condition);
  compiled.set(version, known);
  return known(scopeOf(data));
}
