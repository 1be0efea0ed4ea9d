import { IsIn, IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const misses = { problem: 'a problem', keep: 'kept as it is', blank: 'blank' } as const;
type Miss = keyof typeof misses;

class MatchChoiceParams {
  /** One a line; `ours = theirs` where they differ. */
  @IsString() @MaxLength(20000) options: string = '';
  @IsIn(Object.keys(misses)) otherwise: Miss = 'problem';
}

const plain = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** What was answered by what is sent: to the letter first, then without case, accents and punctuation. */
function tableOf(options: string): { exact: Map<string, string>; loose: Map<string, string> } {
  const pairs = options
    .split('\n')
    .map(line => line.trim())
    .filter(line => line !== '')
    .map((line): [string, string] => {
      const [from, ...to] = line.split('=');
      return to.length === 0 ? [line, line] : [from!.trim(), to.join('=').trim()];
    });
  const loose = new Map<string, string>();
  for (const [from, to] of pairs) {
    if (!loose.has(plain(from))) loose.set(plain(from), to);
    if (!loose.has(plain(to))) loose.set(plain(to), to);
  }
  return { exact: new Map(pairs), loose };
}

/** Brings answers to the options that the target knows. */
export const matchChoice = defineTransform<MatchChoiceParams>({
  id: 'choice.match',
  family: 'choice',
  label: 'Match to options',
  summary: 'Brings an answer to one of the target’s options, by spelling or by a table.',
  params: MatchChoiceParams,
  asks: [
    { name: 'options', label: 'Options', kind: 'lines', hint: 'one a line; ours = theirs' },
    {
      name: 'otherwise',
      label: 'No match is',
      choices: Object.entries(misses).map(([value, label]) => ({ value, label })),
    },
  ],
  accepts: ['choice', 'choices', 'text', 'boolean', 'number'],
  returns: 'choice',
  explain: ({ options, otherwise }) =>
    `matched to ${options.split('\n').filter(line => line.trim() !== '').length} options, no match is ${misses[otherwise]}`,
  apply(value, { options, otherwise }): Json | Problem {
    const { exact, loose } = tableOf(options);
    const one = (each: Json): Json | Problem => {
      const text = asText(each).trim();
      const found = exact.get(text) ?? loose.get(plain(text));
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
    { params: { options: 'AB-07\nAB-02', otherwise: 'problem' }, in: 'ab 07', out: 'AB-07' },
    { params: { options: 'Low = 1\nSevere = 3', otherwise: 'problem' }, in: 'severe', out: '3' },
    { params: { options: 'Foam\nLitter', otherwise: 'blank' }, in: ['foam', 'Other: eels'], out: ['Foam'] },
    { params: { options: 'Foam', otherwise: 'keep' }, in: 'Eels', out: 'Eels' },
    { params: { options: 'Foam', otherwise: 'problem' }, in: 'Eels', out: { problem: 'choice.unknown' } },
  ],
});
