import { IsIn, IsInt, Max, Min } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform } from '../define';

const froms = ['start', 'end'] as const;

class PickItemParams {
  @IsInt() @Min(1) @Max(1000) number: number = 1;
  @IsIn(froms) from: (typeof froms)[number] = 'start';
}

/** One item of a list, counted from the start or the end; blank when there are fewer. */
export const pickItem = defineTransform<PickItemParams>({
  id: 'list.item',
  family: 'list',
  label: 'List item',
  summary: 'Takes the first, second or last item.',
  params: PickItemParams,
  asks: [
    { name: 'number', label: 'Position', kind: 'number' },
    { name: 'from', label: 'Counted from', choices: froms.map(value => ({ value, label: value })) },
  ],
  accepts: ['choices', 'files', 'table', 'json'],
  returns: 'json',
  explain: ({ number, from }) => `item ${number} from the ${from}`,
  apply(value, { number, from }): Json {
    if (!Array.isArray(value)) return number === 1 ? value : '';
    return value.at(from === 'start' ? number - 1 : -number) ?? '';
  },
  examples: [
    { params: { number: 1, from: 'start' }, in: ['Foam', 'Litter'], out: 'Foam' },
    { params: { number: 1, from: 'end' }, in: ['Foam', 'Litter'], out: 'Litter' },
    { params: { number: 3, from: 'start' }, in: ['Foam'], out: '' },
    { params: { number: 1, from: 'start' }, in: 'text', out: 'text' },
  ],
});
