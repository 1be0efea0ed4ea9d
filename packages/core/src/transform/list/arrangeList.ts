import { IsIn } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';

const ways = { unique: 'remove duplicates', sort: 'sort', reverse: 'reverse' } as const;
type Way = keyof typeof ways;

class ArrangeListParams {
  @IsIn(Object.keys(ways)) way: Way = 'unique';
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

const arrange: Record<Way, (list: Json[]) => Json[]> = {
  unique: list => {
    const first = new Map(list.map((each, index) => [JSON.stringify(each), index] as const).reverse());
    return list.filter((each, index) => first.get(JSON.stringify(each)) === index);
  },
  sort: list => [...list].sort((a, b) => collator.compare(asText(a), asText(b))),
  reverse: list => [...list].reverse(),
};

/** Puts a list in order, turns it round, or drops what is in it twice. */
export const arrangeList = defineTransform<ArrangeListParams>({
  id: 'list.arrange',
  family: 'list',
  label: 'Arrange list',
  summary: 'Sorts a list, reverses it, or removes duplicates.',
  params: ArrangeListParams,
  asks: [{ name: 'way', label: 'Do', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) }],
  accepts: ['choices', 'files', 'table', 'json'],
  returns: 'choices',
  explain: ({ way }) => ways[way],
  apply: (value, { way }): Json => (Array.isArray(value) ? arrange[way](value) : value),
  examples: [
    { params: { way: 'unique' }, in: ['a', 'b', 'a'], out: ['a', 'b'] },
    { params: { way: 'sort' }, in: ['item 10', 'Item 9', 'é', 'f'], out: ['é', 'f', 'Item 9', 'item 10'] },
    { params: { way: 'reverse' }, in: [1, 2], out: [2, 1] },
    { params: { way: 'sort' }, in: 'text', out: 'text' },
  ],
});
