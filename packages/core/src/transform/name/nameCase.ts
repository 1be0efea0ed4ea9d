import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

class NameCaseParams {}

const particle = /^(van|von|der|den|de|del|della|di|da|das|do|dos|du|zu|zum|zur|ten|ter|af|av|y|ibn|bin)$/i;

function cased(word: string, isFirst: boolean): string {
  if (!isFirst && particle.test(word)) return word.toLowerCase();
  return word
    .toLowerCase()
    .replace(/(^|[-’'])(\p{Ll})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    .replace(/^Mc(\p{Ll})/u, (_, letter: string) => `Mc${letter.toUpperCase()}`)
    .replace(/[’']S\b/gu, each => each.toLowerCase());
}

/** Writes a name as names are written, where somebody typed all small or all large letters; else it is left alone. */
export const nameCase = defineTransform<NameCaseParams>({
  id: 'name.case',
  family: 'name',
  label: 'Name case',
  summary: 'Capitalises names; names in mixed case stay as they are.',
  params: NameCaseParams,
  asks: [],
  accepts: ['name', 'text'],
  returns: 'name',
  explain: () => 'name case',
  apply: (value): Json =>
    onText(value, text => {
      const tidy = text.replace(/\s+/g, ' ').trim();
      const isMixed = /\p{Ll}/u.test(tidy) && /\p{Lu}/u.test(tidy.slice(1)) && /^\P{Ll}/u.test(tidy);
      return isMixed
        ? tidy
        : tidy
            .split(' ')
            .map((word, index) => cased(word, index === 0))
            .join(' ');
    }),
  examples: [
    { params: {}, in: 'ELODIE  MARCHAND', out: 'Elodie Marchand' },
    { params: {}, in: 'jonas van der linden', out: 'Jonas van der Linden' },
    { params: {}, in: "aoife o'rourke", out: "Aoife O'Rourke" },
    { params: {}, in: 'gwen pryce-hughes', out: 'Gwen Pryce-Hughes' },
    { params: {}, in: 'Bo MacLeod', out: 'Bo MacLeod' },
    { params: {}, in: 'IAN MCKAY', out: 'Ian McKay' },
  ],
});
