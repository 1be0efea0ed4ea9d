import { IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';

class InsteadOfParams {
  /** One a line. */
  @IsString() @MaxLength(2000) values: string = 'n/a\n-\nnone';
  @IsString() @MaxLength(500) by: string = '';
}

/** Puts one value, or nothing, in the place of words that mean nothing. */
export const insteadOf = defineTransform<InsteadOfParams>({
  id: 'logic.instead',
  family: 'logic',
  label: 'Treat as blank',
  summary: 'Makes “n/a”, “-” and the like blank, or replaces them.',
  params: InsteadOfParams,
  asks: [
    { name: 'values', label: 'Words', kind: 'lines', hint: 'one per line' },
    { name: 'by', label: 'Replace with', optional: true, hint: 'nothing' },
  ],
  accepts: 'any',
  returns: 'text',
  explain: ({ values, by }) =>
    `${values.split('\n').filter(Boolean).join(', ')} ${by ? `as “${by}”` : 'count as blank'}`,
  apply(value, { values, by }): Json {
    if (typeof value === 'object') return value;
    const wanted = values
      .split('\n')
      .map(each => each.trim().toLowerCase())
      .filter(Boolean);
    return wanted.includes(asText(value).trim().toLowerCase()) ? by : value;
  },
  examples: [
    { params: { values: 'n/a\n-', by: '' }, in: 'N/A', out: '' },
    { params: { values: 'n/a\n-', by: '' }, in: 'Foam', out: 'Foam' },
    { params: { values: 'unknown', by: '?' }, in: 'unknown ', out: '?' },
    { params: { values: '0', by: '' }, in: 0, out: '' },
  ],
});
