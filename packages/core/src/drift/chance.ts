/**
 * How likely it is that something seen in `times` of `of` cases is in none of the next `next`, if nothing changed: the posterior predictive
 * of a binomial with Jeffreys' prior, Beta(½, ½) (Jeffreys 1946; the beta-binomial distribution).
 */
export function chanceOfNone(times: number, of: number, next: number): number {
  let chance = 1;
  for (let each = 0; each < next; each++) chance *= (of - times + 0.5 + each) / (of + 1 + each);
  return chance;
}

/** How likely it is that something seen in `times` of `of` cases is in all of the next `next`, if nothing changed: as {@link chanceOfNone}. */
export const chanceOfAll = (times: number, of: number, next: number): number => chanceOfNone(of - times, of, next);

/**
 * How likely it is that all `times` sightings of something among `of` cases on one side fall on that side, if it were as common on the
 * other, with `others` cases: the hypergeometric tail of Fisher's exact test.
 */
export function chanceOfOneSide(times: number, of: number, others: number): number {
  let chance = 1;
  for (let each = 0; each < Math.min(times, of); each++) chance *= (of - each) / (of + others - each);
  return chance;
}

/**
 * How likely it is that something is in `times` or more of `of` cases and in none of `others`, however common it is: at its most likely, by
 * the tail of the binomial.
 */
export function chanceOfOnlyHere(times: number, of: number, others: number): number {
  const common = times / (of + others);
  let [below, term] = [0, (1 - common) ** of];
  for (let each = 0; each < times; each++) {
    below += term;
    term *= ((of - each) / (each + 1)) * (common / (1 - common));
  }
  return common >= 1 ? 1 : Math.max(0, 1 - below) * (1 - common) ** others;
}

/** True where that is less likely than `limit`. */
export const unlikely = (times: number, of: number, next: number, limit: number): boolean =>
  next > 0 && chanceOfNone(times, of, next) < limit;

/** What 1 / (n ln² n) adds up to over n from 2 on, a little more than that. */
const ALL_SHARES = 2.11;

/**
 * The share of a chance of 1 that is spent by the `looks`-th look, if looks go on for ever: their sum stays below 1 however many there are, so
 * that chance alone raises less than one alarm in all of them, as far as the chances held against it are right (spending a level over looks:
 * Lan and DeMets 1983).
 */
export const shareOfLook = (looks: number): number => {
  const at = Math.max(2, looks);
  return 1 / (ALL_SHARES * at * Math.log(at) ** 2);
};

/** How likely it is that two things that are independent are both as unlikely as this (Fisher's combination of two chances, 1932). */
export const chanceOfBoth = (one: number, other: number): number => {
  const both = Math.min(1, one * other);
  return both === 0 ? 0 : both * (1 - Math.log(both));
};
