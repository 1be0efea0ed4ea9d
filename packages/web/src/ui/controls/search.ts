/** Something that is found by its words. */
export interface Findable {
  label: string;
  /** More words it is found by, such as its key. */
  words?: string;
}

/** How well something fits what is typed, 0 for not at all: every word has to be there, its label counts before the rest. */
export function fit({ label, words = '' }: Findable, typed: string): number {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const [first = ''] = wanted;
  const [own, all] = [label.toLowerCase(), `${label} ${words}`.toLowerCase()];
  if (wanted.every(word => own.includes(word))) return own.startsWith(first) ? 3 : 2;
  return wanted.every(word => all.includes(word)) ? 1 : 0;
}

/** What fits what is typed, the best first; those that fit alike stay in their order. */
export function found<T extends Findable>(all: readonly T[], typed: string): T[] {
  if (typed.trim() === '') return [...all];
  return all
    .map(each => ({ each, fits: fit(each, typed) }))
    .filter(({ fits }) => fits > 0)
    .sort((a, b) => b.fits - a.fits)
    .map(({ each }) => each);
}
