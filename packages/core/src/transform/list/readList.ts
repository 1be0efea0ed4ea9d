import { IsString, MaxLength } from 'class-validator';
import { parseJson, type Json } from '../../submission';
import { defineTransform } from '../define';

class ReadListParams {
  /** Where plain text is divided. Empty: at line ends, else at semicolons, else at commas. */
  @IsString() @MaxLength(20) separator: string = '';
}

/** Commas but for those that part the thousands of a number. */
const commas = /,(?!(?<=\d,)\d{3}(?!\d))/;

/** Makes a list of whatever holds one: a list, text that holds a JSON list, or text with separators. */
export const readList = defineTransform({
  id: 'list.read',
  family: 'list',
  label: 'Read as list',
  summary: 'Reads a list from text such as ["Foam","Litter"] or Foam; Litter.',
  params: ReadListParams,
  asks: [{ name: 'separator', label: 'Separator', optional: true, hint: 'detected if empty' }],
  accepts: 'any',
  returns: 'choices',
  explain: ({ separator }) => (separator ? `read as list, split at “${separator}”` : 'read as list'),
  apply(value, { separator }): Json {
    if (Array.isArray(value)) return value;
    if (typeof value !== 'string') return [value];
    const list = /^\s*\[/.test(value) ? parseJson(value) : undefined;
    if (Array.isArray(list)) return list;
    const divider = separator || ['\n', ';', ','].find(each => value.includes(each));
    const items = divider === undefined ? [value] : value.split(!separator && divider === ',' ? commas : divider);
    return items.map(item => item.trim()).filter(item => item !== '');
  },
  examples: [
    { params: { separator: '' }, in: '["Foam","Oil sheen"]', out: ['Foam', 'Oil sheen'] },
    { params: { separator: '' }, in: 'Foam; Oil sheen, a thin one', out: ['Foam', 'Oil sheen, a thin one'] },
    { params: { separator: '' }, in: 'Foam, Litter', out: ['Foam', 'Litter'] },
    { params: { separator: '' }, in: 'under $250,000', out: ['under $250,000'] },
    { params: { separator: '' }, in: 'under $250,000, 3 rooms', out: ['under $250,000', '3 rooms'] },
    { params: { separator: '' }, in: '1,2,3', out: ['1', '2', '3'] },
    { params: { separator: '/' }, in: 'Foam / Litter', out: ['Foam', 'Litter'] },
    { params: { separator: '' }, in: ['Foam'], out: ['Foam'] },
    { params: { separator: '' }, in: '[not json', out: ['[not json'] },
    { params: { separator: '' }, in: 3, out: [3] },
  ],
});
