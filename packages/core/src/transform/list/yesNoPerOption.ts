import { IsString, MaxLength } from 'class-validator';
import { asText, setOwn, type Json, type JsonObject } from '../../submission';
import { defineTransform } from '../define';
import { linesOf } from '../linesOf';

class YesNoPerOptionParams {
  /** One a line; `answer = name` where the target calls it otherwise. */
  @IsString() @MaxLength(5000) options: string = '';
}

const plain = (text: string) => text.trim().toLowerCase();

/** One yes or no for every option, under the option's name. */
export const yesNoPerOption = defineTransform<YesNoPerOptionParams>({
  id: 'list.flags',
  family: 'list',
  label: 'One yes or no per option',
  summary: 'Turns the chosen options into a yes or no for each option.',
  params: YesNoPerOptionParams,
  asks: [{ name: 'options', label: 'Options', kind: 'lines', hint: 'one per line; answer = name' }],
  accepts: ['choices', 'choice', 'text'],
  returns: 'json',
  takesEmptyLists: true,
  explain: ({ options }) => `a yes or no for each of ${linesOf(options).length} options`,
  apply(value, { options }): Json {
    const chosen = new Set((Array.isArray(value) ? value : [value]).map(each => plain(asText(each))));
    const flags: JsonObject = {};
    for (const line of linesOf(options)) {
      const [answer, ...name] = line.split('=');
      setOwn(flags, name.length > 0 ? name.join('=').trim() : line, chosen.has(plain(answer!)));
    }
    return flags;
  },
  examples: [
    { params: { options: 'Foam\nLitter' }, in: ['foam'], out: { Foam: true, Litter: false } },
    {
      params: { options: 'Bank walks = walks\nSampling = samples' },
      in: 'Sampling',
      out: { walks: false, samples: true },
    },
    { params: { options: 'Foam' }, in: [], out: { Foam: false } },
    { params: { options: '' }, in: ['Foam'], out: {} },
  ],
});
