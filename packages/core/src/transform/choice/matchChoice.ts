import { IsIn, IsNumber, IsString, Max, MaxLength, Min } from 'class-validator';
import { distance } from 'fastest-levenshtein';
import { asText, plainText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';
import { linesOf } from '../linesOf';
import { remembered } from '../remembered';
import { readOptionList } from '../optionPairs';

const misses = { problem: 'report a problem', keep: 'keep as it is', blank: 'blank' } as const;
type Miss = keyof typeof misses;

class MatchChoiceParams {
  /** One a line; `ours = theirs` where they differ. */
  @IsString() @MaxLength(20000) options: string = '';
  @IsIn(Object.keys(misses)) otherwise: Miss = 'problem';
  /** How alike the nearest option must be to count, 0 to 1; 1 for never. */
  @IsNumber() @Min(0.5) @Max(1) nearest: number = 1;
}

/** What was answered by what is sent: to the letter first, then without case, accents and punctuation. */
const tableOf = remembered((options: string) => options, readTable);
function readTable(options: string): { exact: Map<string, string>; loose: Map<string, string> } {
  const list = readOptionList(options);
  // A pair counts before an option that is listed.
  const pairs = [
    ...list.pairs.map(({ answer, option }): [string, string] => [answer, option]),
    ...list.listed
      .filter(each => !list.pairs.some(({ answer }) => answer === each))
      .map((each): [string, string] => [each, each]),
  ];
  const loose = new Map<string, string>();
  for (const [from, to] of pairs) {
    if (!loose.has(plainText(from))) loose.set(plainText(from), to);
    if (!loose.has(plainText(to))) loose.set(plainText(to), to);
  }
  return { exact: new Map(pairs), loose };
}

/** The option that is most alike, when it is alike enough and the only one so. Likeness is by changed letters (Levenshtein 1966). */
function nearestOf(text: string, loose: Map<string, string>, least: number): string | undefined {
  const ranked = [...loose]
    .map(([option, to]) => ({ to, alike: 1 - distance(text, option) / Math.max(1, text.length, option.length) }))
    .sort((a, b) => b.alike - a.alike);
  const [best] = ranked;
  const next = ranked.find(each => each.to !== best?.to);
  return best && best.alike >= least && best.alike > (next?.alike ?? 0) ? best.to : undefined;
}

/** Brings answers to the options that the target knows. */
export const matchChoice = defineTransform<MatchChoiceParams>({
  id: 'choice.match',
  family: 'choice',
  label: 'Match to options',
  summary: 'Matches an answer to one of the target’s options, by spelling or by a table.',
  params: MatchChoiceParams,
  asks: [
    { name: 'options', label: 'Options', kind: 'pairs', hint: 'one per line; answer = option' },
    {
      name: 'otherwise',
      label: 'If no match',
      choices: Object.entries(misses).map(([value, label]) => ({ value, label })),
    },
    { name: 'nearest', label: 'Least similarity', kind: 'number', hint: '0.8 for nearly alike, 1 for never' },
  ],
  accepts: ['choice', 'choices', 'text', 'boolean', 'number'],
  returns: 'choice',
  explain: ({ options, otherwise, nearest }) =>
    `matched to ${linesOf(options).length} options${nearest < 1 ? ' or the nearest' : ''}, no match is ${misses[otherwise]}`,
  apply(value, { options, otherwise, nearest }): Json | Problem {
    const { exact, loose } = tableOf(options);
    const one = (each: Json): Json | Problem => {
      const text = asText(each).trim();
      const found =
        exact.get(text) ??
        loose.get(plainText(text)) ??
        (nearest < 1 ? nearestOf(plainText(text), loose, nearest) : undefined);
      if (found !== undefined) return found;
      if (otherwise === 'keep') return each;
      return otherwise === 'blank' ? '' : new Problem('choice.unknown', `“${text}” is none of the options.`, value);
    };
    if (!Array.isArray(value)) return one(value);
    const matched: Json[] = [];
    for (const each of value) {
      const result = one(each);
      if (result instanceof Problem) return result;
      if (result !== '') matched.push(result);
    }
    return matched;
  },
  examples: [
    {
      params: { options: 'Dead fish\nOil sheen', otherwise: 'problem', nearest: 0.8 },
      in: 'Oil shean',
      out: 'Oil sheen',
    },
    { params: { options: 'AB-01\nAB-02', otherwise: 'blank', nearest: 0.8 }, in: 'AB-03', out: '' },
    { params: { options: 'AB-07\nAB-02', otherwise: 'problem', nearest: 1 }, in: 'ab 07', out: 'AB-07' },
    { params: { options: 'Low = 1\nSevere = 3', otherwise: 'problem', nearest: 1 }, in: 'severe', out: '3' },
    { params: { options: 'Foam\nLitter', otherwise: 'blank', nearest: 1 }, in: ['foam', 'Other: eels'], out: ['Foam'] },
    { params: { options: 'Foam', otherwise: 'keep', nearest: 1 }, in: 'Eels', out: 'Eels' },
    { params: { options: 'Foam', otherwise: 'problem', nearest: 1 }, in: 'Eels', out: { problem: 'choice.unknown' } },
  ],
});
