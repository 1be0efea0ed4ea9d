import { asText, type Json, type StatedOption } from '../../submission';
import type { Asked } from './profile';
import { chanceOfBoth, chanceOfOnlyHere } from '../chance';
import { alike } from '../alike';
import { KIN, pairedOptions, type OptionChanges } from '../pairedOptions';

/** Different answers beyond which a question is answered freely. */
const MOST_OPTIONS = 25;
/** From so many answers on a question without stated options may tell what its options are. */
const ENOUGH = 8;
/** Options as they were chosen, with how often, and the number of answers. */
interface Chosen {
  times: Map<string, number>;
  answers: number;
}

function chosen(values: readonly Json[], split: string | null): Chosen {
  const times = new Map<string, number>();
  for (const value of values)
    for (const each of Array.isArray(value) ? value : split ? asText(value).split(split) : [value]) {
      if (typeof each === 'object') continue;
      const text = asText(each).trim();
      if (text !== '') times.set(text, (times.get(text) ?? 0) + 1);
    }
  return { times, answers: values.length };
}

/** Signs between several options in one text. */
const signs = [';', '|', ',', '\n'];
const MOST_PARTS = 15;
/** Fewest different answers of several parts that tell of a list. */
const LEAST_LISTS = 3;

/** The sign between options, where answers are lists of few different parts in a text; null where they are none. */
function signBetween(values: readonly Json[]): string | null {
  const texts = values.filter(each => typeof each === 'string');
  if (texts.length < values.length || texts.length < 4) return null;
  for (const sign of signs) {
    const lists = texts.map(each => each.split(sign).map(part => part.trim()));
    // A name that is always written with the same sign in it is no list.
    const several = new Set(lists.filter(each => each.length > 1).map(each => each.join('\n'))).size;
    const parts = new Set(lists.flat());
    // The parts repeat; what they are put together to need not.
    if (several >= LEAST_LISTS && parts.size <= MOST_PARTS && parts.size <= lists.flat().length / 2) return sign;
  }
  return null;
}

/**
 * True for a question that is answered by choosing: the payload says so; or its answers are short, and hardly one of them was given once only
 * (Good 1953: what was seen once tells how much was not seen yet).
 */
function isChosen({ kinds, stated }: Asked, before: Chosen): boolean {
  if (stated || kinds.has('choices') || kinds.has('choice')) return true;
  const { times, answers } = before;
  if (times.size === 0 || times.size > MOST_OPTIONS || ![...kinds.keys()].every(kind => kind === 'text')) return false;
  const isShort = [...times.keys()].every(text => text.length <= LONGEST_OPTION && !text.includes('\n'));
  return answers >= ENOUGH && isShort && onceIn(before) <= times.size * MOST_ONCE;
}

/** Most characters of an option that nobody states, and the greatest share of options that were chosen once. */
const LONGEST_OPTION = 60;
const MOST_ONCE = 0.25;

/**
 * What became of a question's options. Where the messages state them, for sure; else as far as what was chosen tells.
 * @param limit how likely chance may be to show any one of them, where they are compared again and again
 */
export function optionChanges(was: Asked, now: Asked, limit: number | null = null): OptionChanges {
  if (was.stated && now.stated) return statedChanges(was.stated, now.stated);
  const sign = signBetween([...was.values, ...now.values]);
  const [before, after] = [chosen(was.values, sign), chosen(now.values, sign)];
  if (!isChosen(was, before) || after.times.size === 0 || after.times.size > MOST_OPTIONS)
    return { added: [], gone: [], renamed: [] };
  const missing = [...before.times.keys()].filter(each => !after.times.has(each));
  const unseen = [...after.times.keys()].filter(each => !before.times.has(each));
  // Of many options one or another is seldom chosen by chance; and where some were chosen once, others were not yet.
  const [many, once] = limit === null ? [before.times.size, onceIn(before)] : [1, onceIn(before)];
  const chances = {
    gone: (option: string) => many * chanceOfOnlyHere(before.times.get(option)!, before.answers, after.answers),
    fresh: (option: string) => (once + 1) * chanceOfOnlyHere(after.times.get(option)!, after.answers, before.answers),
  };
  const sure = limit === null ? SURE : { gone: limit, fresh: limit, both: limit };
  const both = limit === null ? (one: number, other: number) => one * other : chanceOfBoth;
  return pairedOptions(
    missing,
    unseen,
    missing.filter(each => chances.gone(each) < sure.gone),
    unseen.filter(each => after.times.get(each)! >= 2 && chances.fresh(each) < sure.fresh),
    (option, other) => both(chances.gone(option), chances.fresh(other)) < sure.both,
  );
}

/** What became of stated options: those with one identifier are one, whatever they are called; others by their wording. */
function statedChanges(was: readonly StatedOption[], now: readonly StatedOption[]): OptionChanges {
  const byId = new Map(now.flatMap(({ id, label }) => (id === undefined ? [] : [[id, label] as const])));
  const renamed = was.flatMap(({ id, label }): [string, string][] => {
    const is = id === undefined ? undefined : byId.get(id);
    return is !== undefined && is !== label ? [[label, is]] : [];
  });
  const isKept = (label: string) => now.some(each => each.label === label);
  const wasThere = (label: string) => was.some(each => each.label === label);
  // An identifier that another option took over renames nothing.
  const named = renamed.filter(([from, to]) => !isKept(from) && !wasThere(to));
  const idOf = (of: readonly StatedOption[], label: string) => of.find(each => each.label === label)?.id;
  const missing = was.map(each => each.label).filter(each => !isKept(each) && !named.some(([from]) => from === each));
  const fresh = now.map(each => each.label).filter(each => !wasThere(each) && !named.some(([, to]) => to === each));
  // Two with an identifier each are two, unless they are called alike: some builders make identifiers of the wording.
  const mayBeOne = (one: string, other: string) =>
    idOf(was, one) === undefined || idOf(now, other) === undefined || alike(one, other) >= KIN;
  const paired = pairedOptions(missing, fresh, missing, fresh, mayBeOne);
  return { ...paired, renamed: [...named, ...paired.renamed] };
}

/** How many different options of a question were chosen; none of one that is answered freely. */
export function optionsIn(asked: Asked): number {
  const before = chosen(asked.values, signBetween(asked.values));
  return isChosen(asked, before) ? before.times.size : 0;
}

/** Chances below which that an option is gone, new, or called otherwise, is no chance. */
const SURE = { gone: 0.02, fresh: 0.01, both: 0.01 };

/** How many options were chosen once. */
const onceIn = ({ times }: Chosen): number => [...times.values()].filter(each => each === 1).length;
