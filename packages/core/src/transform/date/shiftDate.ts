import { IsIn, IsInt, IsString, Max, Min } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, isProblem, Problem } from '../define';
import { dateOrders, dateOrProblem, isoInstant, orderAsk, zoneAsk, type DateOrder } from './readDate';

const units = ['minutes', 'hours', 'days', 'weeks', 'months', 'years'] as const;

class ShiftDateParams {
  @IsIn(dateOrders) order: DateOrder = 'dayFirst';
  /** Below 0 for earlier. */
  @IsInt() @Min(-100000) @Max(100000) by: number = 1;
  @IsIn(units) unit: (typeof units)[number] = 'days';
  @IsString() zone: string = '';
}

/** A date so much later or earlier. A plain date stays one; a time becomes RFC 3339 in UTC. Months end where they end. */
export const shiftDate = defineTransform<ShiftDateParams>({
  id: 'date.shift',
  family: 'date',
  label: 'Shift date',
  summary: 'Moves a date by minutes, hours, days, weeks, months or years.',
  params: ShiftDateParams,
  asks: [
    orderAsk,
    { name: 'by', label: 'By', kind: 'number', hint: 'below 0 for earlier' },
    { name: 'unit', label: 'Unit', choices: units.map(value => ({ value, label: value })) },
    zoneAsk,
  ],
  accepts: ['text', 'date', 'datetime', 'number', 'choice'],
  returns: 'datetime',
  explain: ({ by, unit }) =>
    `${Math.abs(by)} ${Math.abs(by) === 1 ? unit.slice(0, -1) : unit} ${by < 0 ? 'earlier' : 'later'}`,
  apply(value, { order, by, unit, zone }, context): Json | Problem {
    const text = asText(value).trim();
    const read = dateOrProblem(value, text, order, zone || context.timeZone);
    if (isProblem(read)) return read;
    const moved = read.plus({ [unit]: by });
    if (!moved.isValid) return new Problem('date.range', `“${text}” moved that far is not a date.`, value);
    const isPlain = dateAlone(text) && unit !== 'minutes' && unit !== 'hours';
    return isPlain ? moved.toISODate()! : isoInstant(moved);
  },
  examples: [
    { params: { order: 'dayFirst', by: 14, unit: 'days', zone: '' }, in: '20/12/2026', out: '2027-01-03' },
    { params: { order: 'dayFirst', by: 1, unit: 'months', zone: '' }, in: '2026-01-31', out: '2026-02-28' },
    {
      params: { order: 'dayFirst', by: -90, unit: 'minutes', zone: 'UTC' },
      in: '2026-11-04T00:30:00Z',
      out: '2026-11-03T23:00:00Z',
    },
    { params: { order: 'dayFirst', by: 1, unit: 'days', zone: '' }, in: 'soon', out: { problem: 'date.unreadable' } },
  ],
});

/** True for day, month and year alone: three groups, the last of them in figures, and no figure before or behind. */
function dateAlone(text: string): boolean {
  const groups = text.split(/[\s./,-]+/);
  const last = groups.findLastIndex(group => /\d/.test(group));
  const [first = '', second = '', third = ''] = groups.slice(Math.max(0, last - 2), last + 1);
  const before = groups.slice(0, Math.max(0, last - 2));
  const isGroup = /^[\d\p{L}]+$/u;
  return (
    isGroup.test(first) && isGroup.test(second) && /^\d+\D*$/.test(third) && !before.some(group => /\d/.test(group))
  );
}
