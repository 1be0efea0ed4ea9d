import { asText } from '../../submission';
import { defineTransform } from '../define';

class ToTextParams {}

/** Any value as text: numbers as they are written, lists with commas between, anything else as JSON. */
export const toText = defineTransform<ToTextParams>({
  id: 'text.of',
  family: 'text',
  label: 'To text',
  summary: 'Writes a number, a yes or no, or a list as text.',
  params: ToTextParams,
  asks: [],
  accepts: 'any',
  returns: 'text',
  explain: () => 'as text',
  apply: value => asText(value),
  examples: [
    { params: {}, in: 8.4, out: '8.4' },
    { params: {}, in: true, out: 'true' },
    { params: {}, in: ['Foam', 'Litter'], out: 'Foam, Litter' },
    { params: {}, in: 'as it is', out: 'as it is' },
  ],
});
