import type { Json } from '../../submission';
import { defineTransform } from '../define';

class CountItemsParams {}

/** How many items a list has. */
export const countItems = defineTransform<CountItemsParams>({
  id: 'list.count',
  family: 'list',
  label: 'Count',
  summary: 'The number of items, files or rows.',
  params: CountItemsParams,
  asks: [],
  accepts: ['choices', 'files', 'table', 'json'],
  returns: 'number',
  explain: () => 'how many there are',
  apply: (value): Json => (Array.isArray(value) ? value.length : 1),
  examples: [
    { params: {}, in: ['Foam', 'Litter'], out: 2 },
    { params: {}, in: 'Foam', out: 1 },
    { params: {}, in: ['Foam', null], out: 2 },
    { params: {}, in: [{ name: 'a.jpg' }, { name: 'b.jpg' }, { name: 'c.jpg' }], out: 3 },
  ],
});
