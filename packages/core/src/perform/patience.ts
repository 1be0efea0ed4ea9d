/** How long a target's answers are waited for, in seconds. */
export interface Patience {
  /** Until a connection stands. */
  connect: number;
  /** Until the answer begins. */
  firstByte: number;
  /** Until the answer is whole. */
  whole: number;
}

/** How much is asked of a target at once, and what is done when it fails. */
export interface Pace {
  /** Requests under way at once. */
  concurrency: number;
  /** Requests begun a second; null for as many as go. */
  perSecond: number | null;
  /** After so many failures in a row it is left alone for a while, and then asked with one request; 0 for never. */
  parkAfter: number;
}

export const usualPace: Pace = { concurrency: 8, perSecond: null, parkAfter: 5 };

/** First and longest time that a target is left alone, in ms. */
const FIRST_PARKED = 15_000;
const LONGEST_PARKED = 5 * 60_000;

/**
 * For how long a target that fails is left alone, in ms.
 * @param times how many times in a row it has been, from 1
 */
export const parkedFor = (times: number): number =>
  Math.min(LONGEST_PARKED, FIRST_PARKED * 2 ** Math.min(times - 1, 20));

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
