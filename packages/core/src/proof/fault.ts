import { compileLine } from '../request';
import type { Line } from '../route';
import type { Scope } from '../scope';
import { canonical, type Json } from '../submission';
import { compileChain, isProblem, type TransformContext } from '../transform';

/** Where in a line a value parts from what was approved. */
export type LineFault =
  /** What the line comes from is another value. */
  | { at: 'source'; was: Json; now: Json }
  /** A step: its number from 1, what it did, and what it does. */
  | { at: 'step'; number: number; words: string; was: Json; now: Json }
  /** A step that is there now, or is not there any more. */
  | { at: 'step-new' | 'step-gone'; number: number; words: string }
  /** What is done about blanks and problems. */
  | { at: 'policy' };

/** The step at fault: the first place at which two states of a line part for a submission; null where they do not. */
export function faultOf(approved: Line, now: Line, scope: Scope, context?: TransformContext): LineFault | null {
  const [before, after] = [approved, now].map(line => {
    const compiled = compileLine(line, null);
    const raw = compiled.sourceValue(scope);
    return { raw, steps: compileChain(line.cleaning).trace(raw, compiled.contextFor(scope, context)) };
  }) as [Traced, Traced];
  if (!same(before.raw, after.raw)) return { at: 'source', was: before.raw, now: after.raw };
  const length = Math.max(before.steps.length, after.steps.length);
  for (let index = 0; index < length; index++) {
    const [was, is] = [before.steps[index], after.steps[index]];
    const number = index + 1;
    if (!is) return { at: 'step-gone', number, words: was!.explain };
    if (!was) return { at: 'step-new', number, words: is.explain };
    if (!same(shown(was.result), shown(is.result)))
      return { at: 'step', number, words: is.explain, was: shown(was.result), now: shown(is.result) };
  }
  return canonical(policyOf(approved)) === canonical(policyOf(now)) ? null : { at: 'policy' };
}

interface Traced {
  raw: Json;
  steps: ReturnType<ReturnType<typeof compileChain>['trace']>;
}

const shown = (result: Traced['steps'][number]['result']): Json => (isProblem(result) ? `! ${result.message}` : result);
const same = (a: Json, b: Json) => canonical(a) === canonical(b);
const policyOf = ({ whenBlank, whenProblem, fallback, writes = 'always', copies = false }: Line): Json => ({
  whenBlank,
  whenProblem,
  fallback,
  writes,
  copies,
});
