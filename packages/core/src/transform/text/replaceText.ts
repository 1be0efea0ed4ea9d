import { IsIn, IsString, Length, MaxLength } from 'class-validator';
import { RE2JS } from 're2js';
import type { Json } from '../../submission';
import { defineTransform, Problem } from '../define';
import { onText } from '../onText';

const ways = ['text', 'pattern'] as const;

class ReplaceTextParams {
  @IsString() @Length(1, 500, { message: 'say what to look for' }) find: string = ',';
  @IsString() @MaxLength(500) by: string = '';
  @IsIn(ways) how: (typeof ways)[number] = 'text';
}

/** Replaces text, or what a pattern finds. Patterns run in time that grows with the text alone (RE2 syntax). */
export const replaceText = defineTransform<ReplaceTextParams>({
  id: 'text.replace',
  family: 'text',
  label: 'Replace',
  summary: 'Replaces text, found exactly or by a regular expression.',
  params: ReplaceTextParams,
  asks: [
    { name: 'find', label: 'Find' },
    { name: 'by', label: 'Replace with', optional: true, hint: 'nothing' },
    {
      name: 'how',
      label: 'Match',
      choices: [
        { value: 'text', label: 'exact text' },
        { value: 'pattern', label: 'regular expression' },
      ],
    },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ find, by, how }) =>
    `${how === 'pattern' ? `/${find}/` : `“${find}”`} ${by ? `replaced by “${by}”` : 'removed'}`,
  apply(value, { find, by, how }): Json | Problem {
    if (how === 'text') return onText(value, text => text.replaceAll(find, () => by));
    try {
      const pattern = RE2JS.compile(find);
      return onText(value, text => pattern.matcher(text).replaceAll(by));
    } catch (error) {
      return new Problem('text.pattern', `“${find}” is not a valid pattern: ${(error as Error).message}.`, value);
    }
  },
  examples: [
    { params: { find: ',', by: '.', how: 'text' }, in: '7,2', out: '7.2' },
    { params: { find: '$', by: '', how: 'text' }, in: 'a$b$', out: 'ab' },
    { params: { find: '\\s*\\(.*\\)', by: '', how: 'pattern' }, in: 'Withy Bridge (AB-07)', out: 'Withy Bridge' },
    { params: { find: '(\\d+) m', by: '$1 metres', how: 'pattern' }, in: ['40 m'], out: ['40 metres'] },
    { params: { find: '(', by: '', how: 'pattern' }, in: 'x', out: { problem: 'text.pattern' } },
  ],
});
