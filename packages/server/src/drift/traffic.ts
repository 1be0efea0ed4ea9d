import { iso } from '../clock';
import type { TrafficChange } from '../store';

const DAY = 86_400_000;
/** Fewest submissions, and days over which they came, that say what is usual. */
const LEAST = 20;
const LEAST_DAYS = 14;
/** How much longer than ever before nothing has come, and how many times as much as ever came in a day. */
const TIMES = 3;
const LEAST_SILENCE = 2 * DAY;
const LEAST_FLOOD = 30;

/**
 * Whether a form fell silent, or sends far more than usual.
 * @param times of its submissions, ms since the epoch, the newest first
 */
export function trafficChange(times: readonly number[], now: number): TrafficChange | null {
  const [last] = times;
  const first = times.at(-1);
  if (last === undefined || first === undefined || times.length < LEAST || last - first < LEAST_DAYS * DAY) return null;
  const longest = times.slice(1).reduce((most, time, at) => Math.max(most, times[at]! - time), 0);
  if (now - last > Math.max(LEAST_SILENCE, TIMES * longest))
    return { change: 'silent', question: null, was: iso(last).slice(0, 10) };
  const days = new Map<number, number>();
  for (const time of times) {
    const day = Math.floor((now - time) / DAY);
    days.set(day, (days.get(day) ?? 0) + 1);
  }
  const today = days.get(0) ?? 0;
  const most = Math.max(...[...days].map(([day, count]) => (day === 0 ? 0 : count)));
  return today >= LEAST_FLOOD && today > TIMES * most
    ? { change: 'flood', question: null, was: most, now: today }
    : null;
}
