import { IsIn, IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';
import { linesOf } from '../linesOf';

const ways = { other: 'the free text', listed: 'the options only' } as const;

class OtherChoiceParams {
  /** One a line. */
  @IsString() @MaxLength(20000) options: string = '';
  @IsIn(Object.keys(ways)) take: keyof typeof ways = 'other';
}

const mark = /^other\s*[:–-]\s*/i;
const plain = (text: string) => text.trim().toLowerCase();

/** Parts what people wrote beside the options from the options themselves. “Other:” before it goes. */
export const otherChoice = defineTransform<OtherChoiceParams>({
  id: 'choice.other',
  family: 'choice',
  label: 'Separate “other”',
  summary: 'Takes the free text beside the options, or the options without it.',
  params: OtherChoiceParams,
  asks: [
    { name: 'options', label: 'Options', kind: 'lines', hint: 'one per line' },
    { name: 'take', label: 'Take', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) },
  ],
  accepts: ['choices', 'choice', 'text'],
  returns: 'same',
  explain: ({ take }) => ways[take],
  apply(value, { options, take }): Json {
    const listed = new Set(linesOf(options).map(plain));
    const wanted = (each: Json) => listed.has(plain(asText(each))) === (take === 'listed');
    const written = (each: Json): Json => (take === 'other' ? asText(each).replace(mark, '') : each);
    if (Array.isArray(value)) {
      const kept = value.filter(wanted).map(written);
      return take === 'other' ? asText(kept) : kept;
    }
    return wanted(value) ? written(value) : '';
  },
  examples: [
    { params: { options: 'Foam\nLitter', take: 'other' }, in: ['Foam', 'Other: eels'], out: 'eels' },
    { params: { options: 'Foam\nLitter', take: 'listed' }, in: ['foam', 'Other: eels'], out: ['foam'] },
    { params: { options: 'Foam', take: 'other' }, in: 'Foam', out: '' },
    { params: { options: 'Foam', take: 'other' }, in: 'a dead eel', out: 'a dead eel' },
  ],
});
