import { IsIn, IsInt, Max, Min } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

const units = ['characters', 'words', 'lines'] as const;
const ends = ['first', 'last'] as const;

class TakePartParams {
  @IsIn(ends) end: (typeof ends)[number] = 'first';
  @IsInt() @Min(1) @Max(10000) count: number = 1;
  @IsIn(units) unit: (typeof units)[number] = 'words';
}

/** Code units that one character may have: a family with its skin tones has 25. */
const LONGEST_CHARACTER = 40;

/** Cutting a long text into characters takes long: only the end that is asked for is cut. */
function charactersAt(text: string, end: TakePartParams['end'], count: number): string[] {
  const reach = (count + 1) * LONGEST_CHARACTER;
  const near = end === 'first' ? text.slice(0, reach) : text.slice(-reach);
  return Array.from(new Intl.Segmenter().segment(near), each => each.segment);
}

const pieces = {
  characters: charactersAt,
  words: (text: string) => text.trim().split(/\s+/),
  lines: (text: string) => text.split('\n'),
};
const glue = { characters: '', words: ' ', lines: '\n' };

/** Takes the first or last characters, words or lines. A character is what people see as one. */
export const takePart = defineTransform<TakePartParams>({
  id: 'text.take',
  family: 'text',
  label: 'Take first or last',
  summary: 'Takes the first or last characters, words or lines.',
  params: TakePartParams,
  asks: [
    { name: 'end', label: 'Which', choices: ends.map(value => ({ value, label: value })) },
    { name: 'count', label: 'How many', kind: 'number' },
    { name: 'unit', label: 'Unit', choices: units.map(value => ({ value, label: value })) },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ end, count, unit }) => `the ${end} ${count === 1 ? unit.slice(0, -1) : `${count} ${unit}`}`,
  apply: (value, { end, count, unit }): Json =>
    onText(value, text => {
      const all = pieces[unit](text, end, count);
      return (end === 'first' ? all.slice(0, count) : all.slice(-count)).join(glue[unit]);
    }),
  examples: [
    { params: { end: 'first', count: 1, unit: 'words' }, in: 'Wen Xiu', out: 'Wen' },
    { params: { end: 'last', count: 2, unit: 'words' }, in: 'Jonas van der Linden', out: 'der Linden' },
    { params: { end: 'first', count: 3, unit: 'characters' }, in: 'Élodie', out: 'Élo' },
    { params: { end: 'first', count: 1, unit: 'lines' }, in: '14 Weir Lane\nFernhollow', out: '14 Weir Lane' },
    { params: { end: 'last', count: 9, unit: 'words' }, in: 'short', out: 'short' },
  ],
});
