import { ArrayMaxSize, IsArray } from 'class-validator';
import type { Json } from '../../submission';
import type { Step } from '../chain';
import { compileChain } from '../chain';
import { defineTransform, isProblem, type Problem } from '../define';
import { remembered } from '../remembered';

class EachItemParams {
  @IsArray() @ArrayMaxSize(20) steps: Step[] = [];
}

const chainOf = remembered(JSON.stringify, (steps: Step[]) => compileChain(steps));

/** Runs every item of a list through steps of its own; items that become blank stay in their place as blank. */
export const eachItem = defineTransform<EachItemParams>({
  id: 'list.each',
  family: 'list',
  label: 'Each item',
  summary: 'Sends each item of a list through steps of its own.',
  params: EachItemParams,
  asks: [{ name: 'steps', label: 'Each', kind: 'steps' }],
  accepts: ['choices', 'choice', 'text', 'table', 'files', 'json'],
  returns: 'choices',
  looksAround: true,
  explain: ({ steps }) => `each item ${chainOf(steps).explain.join(', then ') || 'as it is'}`,
  apply(value, { steps }, context): Json | Problem {
    const chain = chainOf(steps);
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
