/** A day is cut open where it is this many times as high as every other. */
const FAR_ABOVE = 2.5;

/** How high the scale of days goes: to the highest, unless a single one dwarfs all others; never below 4. */
export function topOf(totals: readonly number[]): number {
  const [first = 0, second = 0] = totals.toSorted((a, b) => b - a);
  const isAlone = second > 0 && first > FAR_ABOVE * second;
  return Math.max(4, isAlone ? second * 1.15 : first);
}
