import { IsIn, IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';

const ways = { keep: 'keep only', drop: 'remove', contains: 'yes if one of these is there' } as const;
type Way = keyof typeof ways;

class FilterListParams {
  /** One a line. */
  @IsString() @MaxLength(5000) items: string = '';
  @IsIn(Object.keys(ways)) way: Way = 'keep';
}

const plain = (value: Json) => asText(value).trim().toLowerCase();

/** Keeps or drops items of a list, or tells whether one of them is there. Case does not matter. */
export const filterList = defineTransform<FilterListParams>({
  id: 'list.filter',
  family: 'list',
  label: 'Filter list',
  summary: 'Keeps or removes some items, or says whether one is there.',
  params: FilterListParams,
  asks: [
    { name: 'items', label: 'Items', kind: 'lines', hint: 'one per line' },
    { name: 'way', label: 'Do', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) },
  ],
  accepts: ['choices', 'choice', 'text', 'json'],
  returns: 'choices',
  takesEmptyLists: true,
  explain: ({ items, way }) => `${ways[way]}: ${items.split('\n').filter(Boolean).join(', ') || 'nothing'}`,
  apply(value, { items, way }): Json {
    const wanted = new Set(items.split('\n').map(plain).filter(Boolean));
    const list = Array.isArray(value) ? value : [value];
    if (way === 'contains') return list.length === 0 ? [] : list.some(each => wanted.has(plain(each)));
    return list.filter(each => wanted.has(plain(each)) === (way === 'keep'));
  },
  examples: [
    { params: { items: 'foam\nlitter', way: 'keep' }, in: ['Foam', 'None'], out: ['Foam'] },
    { params: { items: 'None', way: 'drop' }, in: ['Foam', 'None'], out: ['Foam'] },
    { params: { items: 'Dead fish', way: 'contains' }, in: ['Foam', 'dead fish'], out: true },
    { params: { items: 'Dead fish', way: 'contains' }, in: 'Foam', out: false },
  ],
});
