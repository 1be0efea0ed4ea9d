import { isBlank, type Json } from '../submission';
import { defaultContext, isProblem, Problem, type Step, type Transform, type TransformContext } from './define';
import type { StepId } from './ids';
import { readParameters } from './parameters';
import { transformOf } from './library';

/** A step that there is. */
export const newStep = (id: StepId, params: Record<string, unknown> = {}): Step => ({ id, params });

/** What is wrong with a step before any value is seen. */
export interface StepFault {
  /** Its place in the chain, from 0. */
  step: number;
  code: 'step.unknown' | 'step.params';
  message: string;
}

/** The value after one step. */
export interface StepTrace {
  explain: string;
  off: boolean;
  result: Json | Problem;
}

export interface Chain {
  /** The value after all steps, or the first problem. Never throws. Blanks flow through as they are. */
  run(value: Json, context?: TransformContext): Json | Problem;
  /** The value after each step; steps behind a problem are not reached and missing. */
  trace(value: Json, context?: TransformContext): StepTrace[];
  /** The steps in words; those that are off are left out. */
  explain: string[];
  faults: StepFault[];
  /** True when a step may look at other answers of the submission. */
  looksAround: boolean;
}

interface Compiled {
  transform: Transform;
  params: object;
  off: boolean;
}

/** Compiles a chain once: looks its transforms up, checks their parameters, and gives one function. */
export function compileChain(steps: readonly Step[]): Chain {
  const faults: StepFault[] = [];
  const compiled = steps.map((step, index) => compileStep(step, index, faults));
  const active = compiled.filter((each): each is Compiled => each !== null && !each.off);
  const fault = faults.length > 0 ? new Problem(faults[0]!.code, faults[0]!.message, null) : null;
  return {
    faults,
    looksAround: active.some(each => each.transform.looksAround),
    explain: active.map(({ transform, params }) => transform.explain(params, compileChain)),
    run(value, context = defaultContext) {
      if (fault) return fault;
      let result: Json | Problem = value;
      for (const step of active) {
        result = applyStep(step, result, context);
        if (isProblem(result)) return result;
      }
      return result;
    },
    trace(value, context = defaultContext) {
      const traces: StepTrace[] = [];
      let result: Json | Problem = value;
      for (const [index, step] of compiled.entries()) {
        if (step === null) {
          const found = faults.find(each => each.step === index)!;
          return [
            ...traces,
            { explain: steps[index]!.id, off: false, result: new Problem(found.code, found.message, null) },
          ];
        }
        if (!step.off) result = applyStep(step, result, context);
        traces.push({ explain: step.transform.explain(step.params, compileChain), off: step.off, result });
        if (isProblem(result)) return traces;
      }
      return traces;
    },
  };
}

function applyStep({ transform, params }: Compiled, value: Json, context: TransformContext): Json | Problem {
  if (isBlank(value) && !(transform.takesEmptyLists && Array.isArray(value))) return value;
  try {
    return transform.apply(value, params, context, compileChain);
  } catch (error) {
    return new Problem(
      'transform.fault',
      `“${transform.label}” failed on this value: ${(error as Error).message}`,
      value,
    );
  }
}

function compileStep(step: Step, index: number, faults: StepFault[]): Compiled | null {
  const transform = transformOf(step.id);
  if (!transform) {
    faults.push({ step: index, code: 'step.unknown', message: `Unknown cleaning step “${step.id}”.` });
    return null;
  }
  const read = readParameters(transform.params, step.params);
  if ('fault' in read) {
    faults.push({ step: index, code: 'step.params', message: `“${transform.label}”: ${read.fault}.` });
    return null;
  }
  return { transform, params: read.params, off: step.off === true };
}
