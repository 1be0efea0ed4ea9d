import { IsIn, IsString, MaxLength } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const otherwise = ['keep', 'blank', 'problem'] as const;

class BetweenMarkersParams {
  @IsString() @MaxLength(100) after: string = '(';
  @IsString() @MaxLength(100) before: string = ')';
  @IsIn(otherwise) otherwise: (typeof otherwise)[number] = 'keep';
}

/** Takes the text after a marker, before one, or between two. */
export const betweenMarkers = defineTransform<BetweenMarkersParams>({
  id: 'text.between',
  family: 'text',
  label: 'Text between markers',
  summary: 'Takes the text after one marker and before another. Leave one empty for the start or the end.',
  params: BetweenMarkersParams,
  asks: [
    { name: 'after', label: 'After', optional: true, hint: 'the start' },
    { name: 'before', label: 'Before', optional: true, hint: 'the end' },
    {
      name: 'otherwise',
      label: 'If missing',
      choices: [
        { value: 'keep', label: 'keep the text' },
        { value: 'blank', label: 'blank' },
        { value: 'problem', label: 'report a problem' },
      ],
    },
  ],
  accepts: 'any',
  returns: 'text',
  explain: ({ after, before }) =>
    `text ${[after && `after “${after}”`, before && `before “${before}”`].filter(Boolean).join(' and ') || 'anywhere'}`,
  apply(value, { after, before, otherwise: missing }): Json | Problem {
    if (typeof value !== 'string') return value;
    const from = after === '' ? 0 : value.indexOf(after);
    const start = from < 0 ? -1 : from + after.length;
    const end = before === '' ? value.length : start < 0 ? -1 : value.indexOf(before, start);
    if (start >= 0 && end >= 0) return value.slice(start, end).trim();
    if (missing === 'problem') return new Problem('text.marker', `“${value}” has not what it is taken between.`, value);
    return missing === 'blank' ? '' : value;
  },
  examples: [
    { params: { after: '(', before: ')', otherwise: 'keep' }, in: 'Withy Bridge (AB-07)', out: 'AB-07' },
    { params: { after: '@', before: '', otherwise: 'keep' }, in: 'sam@example.org', out: 'example.org' },
    { params: { after: '', before: ',', otherwise: 'keep' }, in: 'Fernhollow, FH3', out: 'Fernhollow' },
    { params: { after: '(', before: ')', otherwise: 'blank' }, in: 'Mill Race', out: '' },
    { params: { after: '(', before: ')', otherwise: 'problem' }, in: 'Mill Race', out: { problem: 'text.marker' } },
  ],
});
