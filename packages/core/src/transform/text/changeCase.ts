import { IsIn } from 'class-validator';
import { wordsOf, type Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

const cases = ['lower', 'upper', 'sentence', 'title', 'snake', 'kebab'] as const;
type Case = (typeof cases)[number];

class ChangeCaseParams {
  @IsIn(cases) to: Case = 'lower';
}

const capital = (word: string) => word.charAt(0).toLocaleUpperCase('und') + word.slice(1);

const change: Record<Case, (text: string) => string> = {
  lower: text => text.toLowerCase(),
  upper: text => text.toUpperCase(),
  sentence: text =>
    text
      .toLowerCase()
      .replace(/(^\s*|[.!?]\s+)(\p{Ll})/gu, (_, before: string, letter: string) => before + letter.toUpperCase()),
  title: text =>
    text
      .toLowerCase()
      .replace(/[\p{L}\p{N}][\p{L}\p{N}\p{M}’']*/gu, capital)
      .replace(
        /\b(\p{Lu}[’'])(\p{Ll})(?=\p{L}{2})/gu,
        (_, before: string, letter: string) => before + letter.toUpperCase(),
      ),
  snake: text => wordsOf(text).join('_'),
  kebab: text => wordsOf(text).join('-'),
};

const words: Record<Case, string> = {
  lower: 'lower case',
  upper: 'upper case',
  sentence: 'sentence case',
  title: 'each word capitalised',
  snake: 'words_with_underscores',
  kebab: 'words-with-hyphens',
};

/** Changes the case of letters, for every script that has one. */
export const changeCase = defineTransform<ChangeCaseParams>({
  id: 'text.case',
  family: 'text',
  label: 'Change case',
  summary: 'Lower, upper, sentence or title case.',
  params: ChangeCaseParams,
  asks: [{ name: 'to', label: 'To', choices: cases.map(value => ({ value, label: words[value] })) }],
  accepts: 'any',
  returns: 'same',
  explain: ({ to }) => words[to],
  apply: (value, { to }): Json => onText(value, change[to]),
  examples: [
    { params: { to: 'lower' }, in: 'M.Adeyemi@Example.org', out: 'm.adeyemi@example.org' },
    { params: { to: 'upper' }, in: 'ab-07', out: 'AB-07' },
    { params: { to: 'title' }, in: "o'neill ÉLODIE", out: "O'Neill Élodie" },
    { params: { to: 'sentence' }, in: 'SMELL OF DIESEL. TWO FISH.', out: 'Smell of diesel. Two fish.' },
    { params: { to: 'upper' }, in: ['foam', 'litter'], out: ['FOAM', 'LITTER'] },
    { params: { to: 'snake' }, in: 'Oil sheen, heavy', out: 'oil_sheen_heavy' },
    { params: { to: 'kebab' }, in: 'OilSheen', out: 'oil-sheen' },
    { params: { to: 'upper' }, in: 8, out: 8 },
  ],
});
