/** Something that is found by its words. */
export interface Findable {
  label: string;
  /** More words it is found by, such as its key. */
  words?: string;
}

const folded = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/**
 * How well something fits what is typed, from 0 (not at all) to 1: a label that begins with it stands before one whose words
 * begin so, that before one that contains it, and last what holds all of its words anywhere. Letters that are merely strewn about
 * fit nothing.
 */
export function fit({ label, words = '' }: Findable, typed: string): number {
  const wanted = folded(typed).split(/\s+/).filter(Boolean);
  const own = folded(label);
  const ownWords = own.split(/[^\p{L}\p{N}]+/u);
  if (own.startsWith(wanted.join(' '))) return 1;
  if (wanted.every(each => ownWords.some(word => word.startsWith(each)))) return 0.8;
  if (wanted.every(each => own.includes(each))) return 0.6;
  const all = `${own} ${folded(words)}`;
  return wanted.every(each => all.includes(each)) ? 0.4 : 0;
}

/** What fits what is typed, the best first; those that fit alike by what else speaks for them, else in their order. */
export function found<T extends Findable>(all: readonly T[], typed: string, suits: (each: T) => number = () => 0): T[] {
  if (typed.trim() === '') return [...all];
  return all
    .map(each => ({ each, fits: fit(each, typed) }))
    .filter(({ fits }) => fits > 0)
    .map(({ each, fits }) => ({ each, fits, suited: suits(each) }))
    .sort((a, b) => b.fits - a.fits || b.suited - a.suited)
    .map(({ each }) => each);
}
