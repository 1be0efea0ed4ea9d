import { longestPause, pauseAfter } from '@grammata/core/perform';
import type { DeliveryRow } from '../store';

const HOUR = 3_600_000;

/**
 * When a delivery that is tried again is given up, in ms since the epoch, if it can be tried from now on; null for one that did not fail.
 * Only time in which it was tried, or waited for its next try, counts: none while its target is left alone, its route is paused, or the
 * machine is off.
 * @param hours that its route has it tried
 */
export function endOfTries(
  { state, spent, nextAttemptAt }: Pick<DeliveryRow, 'state' | 'spent' | 'nextAttemptAt'>,
  hours: number,
): number | null {
  if (state !== 'waiting' || spent === 0 || nextAttemptAt === null) return null;
  return nextAttemptAt + Math.max(0, hours * HOUR - spent);
}

/** What is left of the time for tries after one that took so long, and what is used up when the next is due; both in ms. */
export function afterTry(spent: number, took: number, hours: number) {
  const used = spent + took;
  const left = Math.max(0, hours * HOUR - used);
  return { left, spentBy: (pause: number) => used + Math.min(left, pause) };
}

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
