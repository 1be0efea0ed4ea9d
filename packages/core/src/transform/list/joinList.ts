import { IsOptional, IsString, MaxLength } from 'class-validator';
import { asText, isBlank, type Json } from '../../submission';
import { defineTransform } from '../define';

class JoinListParams {
  @IsString() @MaxLength(20) separator: string = ', ';
  /** Between the last two items, such as “ and ”. */
  @IsOptional() @IsString() @MaxLength(20) lastSeparator?: string;
}

/** Joins a list into one text. Blank items are left out. */
export const joinList = defineTransform<JoinListParams>({
  id: 'list.join',
  family: 'list',
  label: 'Join list',
  summary: 'Joins a list to one text, with a separator between the items.',
  params: JoinListParams,
  asks: [
    { name: 'separator', label: 'Separator' },
    { name: 'lastSeparator', label: 'Last separator', optional: true },
  ],
  accepts: ['choices', 'json', 'files', 'table'],
  returns: 'text',
  takesEmptyLists: true,
  explain: ({ separator, lastSeparator }) =>
    `joined with “${separator}”${lastSeparator ? `, the last with “${lastSeparator}”` : ''}`,
  apply(value, { separator, lastSeparator }): Json {
    if (!Array.isArray(value)) return value;
    const items = value.filter(item => !isBlank(item)).map(asText);
    if (!lastSeparator || items.length < 2) return items.join(separator);
    return items.slice(0, -1).join(separator) + lastSeparator + items.at(-1)!;
  },
  examples: [
    { params: { separator: '; ' }, in: ['Foam', 'Oil sheen'], out: 'Foam; Oil sheen' },
    { params: { separator: ', ', lastSeparator: ' and ' }, in: ['a', 'b', 'c'], out: 'a, b and c' },
    { params: { separator: '; ' }, in: ['Foam', '', null, 'Litter'], out: 'Foam; Litter' },
    { params: { separator: '; ' }, in: [], out: '' },
    { params: { separator: '; ' }, in: 'already text', out: 'already text' },
  ],
});
