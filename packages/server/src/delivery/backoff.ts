/** First and longest pause between tries, in ms. */
const FIRST = 1000;
const LONGEST = 30 * 60 * 1000;

/**
 * How long to wait before the next try: exponential with full jitter, so that deliveries which failed together
 * do not come back together. What the target asked for is the least.
 * @param tried tries made so far, from 1
 * @param random 0 to 1
 * @returns ms
 */
export function pauseBefore(tried: number, retryAfter: number | null, random: number = Math.random()): number {
  const ceiling = Math.min(LONGEST, FIRST * 2 ** Math.min(tried - 1, 20));
  return Math.max(retryAfter ?? 0, Math.round(ceiling * random));
}
