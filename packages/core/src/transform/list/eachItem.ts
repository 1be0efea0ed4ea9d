import { ArrayMaxSize, IsArray } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform, isProblem, type Compile, type Problem, type Step } from '../define';
import { remembered } from '../remembered';

class EachItemParams {
  @IsArray() @ArrayMaxSize(20) steps: Step[] = [];
}

/** Steps come again with every sample: a chain is made once for each way of making them. */
const chainsOf = new WeakMap<Compile, (steps: Step[]) => ReturnType<Compile>>();
function chainOf(steps: Step[], compile: Compile): ReturnType<Compile> {
  const made = chainsOf.get(compile) ?? remembered(JSON.stringify, (each: Step[]) => compile(each));
  chainsOf.set(compile, made);
  return made(steps);
}

/** Runs every item of a list through steps of its own; items that become blank stay in their place as blank. */
export const eachItem = defineTransform<EachItemParams>({
  id: 'list.each',
  family: 'list',
  label: 'Each item',
  summary: 'Applies steps to each item of a list.',
  params: EachItemParams,
  asks: [{ name: 'steps', label: 'Steps', kind: 'steps' }],
  accepts: ['choices', 'choice', 'text', 'table', 'files', 'json'],
  returns: 'choices',
  looksAround: true,
  explain: ({ steps }, compile) => `each item ${chainOf(steps, compile).explain.join(', then ') || 'as it is'}`,
  apply(value, { steps }, context, compile): Json | Problem {
    const chain = chainOf(steps, compile);
    const results: Json[] = [];
    for (const item of Array.isArray(value) ? value : [value]) {
      const result = chain.run(item, context);
      if (isProblem(result)) return result;
      results.push(result);
    }
    return results;
  },
  examples: [
    { params: { steps: [{ id: 'text.case', params: { to: 'upper' } }] }, in: ['foam', 'oil'], out: ['FOAM', 'OIL'] },
    { params: { steps: [{ id: 'number.read', params: {} }] }, in: ['8,4', '7.2'], out: [8.4, 7.2] },
    { params: { steps: [] }, in: ['a'], out: ['a'] },
    { params: { steps: [{ id: 'number.read', params: {} }] }, in: ['8,4', 'x'], out: { problem: 'number.none' } },
  ],
});
