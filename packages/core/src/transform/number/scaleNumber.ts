import { IsNumber } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform, Problem } from '../define';

class ScaleNumberParams {
  @IsNumber() times: number = 1;
  @IsNumber() plus: number = 0;
}

/** Multiplies and adds: changes a unit, such as °F to °C or metres to millimetres. */
export const scaleNumber = defineTransform<ScaleNumberParams>({
  id: 'number.scale',
  family: 'number',
  label: 'Multiply and add',
  summary: 'Multiplies a number and adds to it, as between units.',
  params: ScaleNumberParams,
  asks: [
    { name: 'times', label: 'Multiply by', kind: 'number' },
    { name: 'plus', label: 'Add', kind: 'number' },
  ],
  accepts: ['number'],
  returns: 'number',
  explain: ({ times, plus }) => `times ${times}${plus === 0 ? '' : `, plus ${plus}`}`,
  apply(value, { times, plus }): Json | Problem {
    if (typeof value !== 'number')
      return new Problem('number.none', 'This is not a number. Add a step that reads it as one.', value);
    const result = Number((value * times + plus).toPrecision(15));
    return Number.isFinite(result) ? result : new Problem('number.range', 'The result is too large.', value);
  },
  examples: [
    { params: { times: 1000, plus: 0 }, in: 1.25, out: 1250 },
    { params: { times: 0.1, plus: 0 }, in: 3, out: 0.3 },
    { params: { times: 1.8, plus: 32 }, in: 20, out: 68 },
    { params: { times: 2, plus: 0 }, in: 'two', out: { problem: 'number.none' } },
  ],
});
