import { IsBoolean } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

class TrimParams {
  /** Also make runs of spaces and tabs inside one space. */
  @IsBoolean() collapse: boolean = true;
}

/** Takes white space off both ends, and runs of it inside if asked. Line breaks inside stay. */
export const trim = defineTransform({
  id: 'text.trim',
  family: 'text',
  label: 'Trim',
  summary: 'Removes spaces at both ends and repeated spaces inside.',
  params: TrimParams,
  asks: [
    {
      name: 'collapse',
      label: 'Spaces inside',
      choices: [
        { value: true, label: 'one at a time' },
        { value: false, label: 'as they are' },
      ],
    },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ collapse }) => (collapse ? 'spaces cleaned' : 'trimmed'),
  apply: (value, { collapse }): Json =>
    onText(value, text => (collapse ? text.replace(/[^\S\n]+/g, ' ') : text).trim()),
  examples: [
    { params: { collapse: true }, in: '  Withy   Bridge ', out: 'Withy Bridge' },
    { params: { collapse: false }, in: '  Withy   Bridge ', out: 'Withy   Bridge' },
    { params: { collapse: true }, in: 'two\n lines\u00a0here ', out: 'two\n lines here' },
    { params: { collapse: true }, in: [' a ', 'b'], out: ['a', 'b'] },
    { params: { collapse: true }, in: 7.4, out: 7.4 },
  ],
});
