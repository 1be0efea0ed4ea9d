import { longestPause, pauseAfter } from '@grammata/core/perform';

/**
 * How long to wait before the next try, in ms: longer from try to try, and never the same for those that failed together.
 * What the target asked for is the least; those that it asked together come back spread out behind it.
 * @param tried tries made so far, from 1
 * @param random 0 to 1
 */
export function pauseBefore(tried: number, retryAfter: number | null, random: number = Math.random()): number {
  if (retryAfter === null) return pauseAfter(tried, random);
  return Math.round(
    Math.max(retryAfter, pauseAfter(tried, random)) + (random / 2) * Math.max(retryAfter, longestPause(tried)),
  );
}
