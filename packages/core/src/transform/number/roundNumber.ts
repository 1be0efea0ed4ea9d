import { IsIn, IsInt, Max, Min } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const ways = { nearest: 'to the nearest', up: 'up', down: 'down' } as const;
type Way = keyof typeof ways;

class RoundNumberParams {
  @IsInt() @Min(0) @Max(10) places: number = 0;
  @IsIn(Object.keys(ways)) way: Way = 'nearest';
}

/** Halves away from zero, and 1.005 as it is written, not as it is stored. */
function rounded(value: number, places: number, way: Way): number {
  const shifted = Number(`${Math.abs(value)}e${places}`);
  if (!Number.isFinite(shifted)) return value;
  const isUp = way === 'nearest' ? null : (way === 'up') === value >= 0;
  const whole = isUp === null ? Math.round(shifted) : isUp ? Math.ceil(shifted) : Math.floor(shifted);
  return Math.sign(value) * Number(`${whole}e-${places}`) + 0;
}

export const roundNumber = defineTransform<RoundNumberParams>({
  id: 'number.round',
  family: 'number',
  label: 'Round',
  summary: 'Rounds a number to a number of decimal places.',
  params: RoundNumberParams,
  asks: [
    { name: 'places', label: 'Decimal places', kind: 'number' },
    { name: 'way', label: 'Direction', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) },
  ],
  accepts: ['number'],
  returns: 'number',
  explain: ({ places, way }) => `rounded ${way === 'nearest' ? '' : `${way} `}to ${places} places`,
  apply(value, { places, way }): Json | Problem {
    if (typeof value !== 'number')
      return new Problem('number.none', 'This is not a number. Add a step that reads it as one.', value);
    return rounded(value, places, way);
  },
  examples: [
    { params: { places: 1, way: 'nearest' }, in: 8.449, out: 8.4 },
    { params: { places: 2, way: 'nearest' }, in: 1.005, out: 1.01 },
    { params: { places: 0, way: 'up' }, in: 7.1, out: 8 },
    { params: { places: 0, way: 'down' }, in: -7.1, out: -8 },
    { params: { places: 0, way: 'nearest' }, in: 'seven', out: { problem: 'number.none' } },
  ],
});
