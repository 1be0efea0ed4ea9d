/** How long a target's answers are waited for, in seconds. */
export interface Patience {
  /** Until a connection stands. */
  connect: number;
  /** Until the answer begins. */
  firstByte: number;
  /** Until the answer is whole. */
  whole: number;
}

export const usualPatience: Patience = { connect: 10, firstByte: 60, whole: 120 };

/** First and longest pause between tries, in ms. */
const FIRST = 1000;
const LONGEST = 30 * 60 * 1000;

/** The longest pause before the next try, in ms: twice that of the try before, up to half an hour. */
export const longestPause = (tried: number): number => Math.min(LONGEST, FIRST * 2 ** Math.min(tried - 1, 20));

/**
 * The pause before the next try: between half of the longest and all of it, so that deliveries which failed together do
 * not come back together, and the tries still last as long as they are meant to.
 * @param tried tries made so far, from 1
 * @param random 0 to 1
 * @returns ms
 */
export const pauseAfter = (tried: number, random: number): number =>
  Math.round(longestPause(tried) * (0.5 + random / 2));

/** About when tries are made within so many ms, in ms since the first, which is included. */
export function triesWithin(span: number): number[] {
  const times: number[] = [];
  for (let at = 0; at <= span; at += pauseAfter(times.length, 0.5)) times.push(at);
  return times;
}
