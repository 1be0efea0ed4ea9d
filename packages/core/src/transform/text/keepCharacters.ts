import { IsIn, IsString, MaxLength } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

const sets = {
  digits: { words: 'digits', pattern: /\p{Nd}/u },
  letters: { words: 'letters', pattern: /[\p{L}\p{M}]/u },
  lettersDigits: { words: 'letters and digits', pattern: /[\p{L}\p{M}\p{Nd}]/u },
  printable: { words: 'printable characters', pattern: /[^\p{Cc}\p{Cf}]|[\n\t]/u },
};
type Set = keyof typeof sets;

class KeepCharactersParams {
  @IsIn(Object.keys(sets)) keep: Set = 'digits';
  /** Others that stay. */
  @IsString() @MaxLength(50) also: string = '';
}

/** Keeps characters of one sort and drops the others. */
export const keepCharacters = defineTransform<KeepCharactersParams>({
  id: 'text.keep',
  family: 'text',
  label: 'Keep only',
  summary: 'Keeps digits, letters or both, and removes the rest.',
  params: KeepCharactersParams,
  asks: [
    {
      name: 'keep',
      label: 'Keep',
      choices: Object.entries(sets).map(([value, { words }]) => ({ value, label: words })),
    },
    { name: 'also', label: 'Also keep', optional: true },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ keep, also }) => `only ${sets[keep].words}${also ? ` and “${also}”` : ''}`,
  apply: (value, { keep, also }): Json =>
    onText(value, text => [...text].filter(each => sets[keep].pattern.test(each) || also.includes(each)).join('')),
  examples: [
    { params: { keep: 'digits', also: '' }, in: '020 7946 0142', out: '02079460142' },
    { params: { keep: 'digits', also: '+' }, in: '+44 (0)20', out: '+44020' },
    { params: { keep: 'letters', also: ' -' }, in: 'Anne-Marie 2nd', out: 'Anne-Marie nd' },
    { params: { keep: 'lettersDigits', also: '' }, in: 'AB-07 é', out: 'AB07é' },
  ],
});
