import { IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

class SurroundParams {
  @IsString() @MaxLength(500) before: string = '';
  @IsString() @MaxLength(500) after: string = '';
}

/** Puts text before and after. */
export const surround = defineTransform<SurroundParams>({
  id: 'text.surround',
  family: 'text',
  label: 'Add before or after',
  summary: 'Adds text before and after the value.',
  params: SurroundParams,
  asks: [
    { name: 'before', label: 'Before', optional: true },
    { name: 'after', label: 'After', optional: true },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ before, after }) =>
    [before && `“${before}” before`, after && `“${after}” after`].filter(Boolean).join(', ') || 'nothing added',
  apply: (value, { before, after }): Json =>
    typeof value === 'object' ? onText(value, text => before + text + after) : before + asText(value) + after,
  examples: [
    { params: { before: 'Site: ', after: '' }, in: 'AB-07', out: 'Site: AB-07' },
    { params: { before: '', after: ' mg/l' }, in: 12, out: '12 mg/l' },
    { params: { before: '#', after: '' }, in: ['foam', 'litter'], out: ['#foam', '#litter'] },
    { params: { before: '', after: '' }, in: 'x', out: 'x' },
  ],
});
