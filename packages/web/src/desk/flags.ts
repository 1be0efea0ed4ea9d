import type { PaceView } from '@grammata/contract';
import { count, lasting, utcDay } from '../ui';

type RoutePace = PaceView['routes'][number];
type IntakePace = PaceView['intakes'][number];

/** Fewest deliveries of a day that say that it is slow; times as long as usual that is slow. */
const LEAST = 5;
const SLOW = 2;
/** Shorter than this, nobody waits. */
const SHORT = 1000;
/** Times as many as usual, and how many more, that are unusual. */
const MANY = 2;
const MORE = 3;

/** 8 ms, 0.4 s, 12 s, 3 min. */
export function took(ms: number): string {
  if (ms < 100) return `${Math.round(ms)} ms`;
  return ms < 9950 ? `${(ms / 1000).toFixed(1)} s` : lasting(ms);
}

/** Says that a route delivers far slower today than usual; null where it does not. */
export function latencyFlag({ today, usual }: Pick<RoutePace, 'today' | 'usual'>): string | null {
  if (!today || !usual || today.count < LEAST || today.p95 < SHORT || today.p95 <= SLOW * usual.p95) return null;
  return `95 % in ${took(today.p95)}; usually ${took(usual.p95)}`;
}

/** Says that an intake receives nothing any more, or far more than usual; null where it does neither. */
export function intakeFlag({ today, usual, silentSince }: Omit<IntakePace, 'intakeId' | 'name'>): string | null {
  if (silentSince !== null && today === 0) return `none since ${utcDay(silentSince)}`;
  if (usual && today > MANY * usual.most + MORE) return `${count(today)}; usually up to ${count(usual.most)}`;
  return null;
}

const MOST_ROWS = 8;

/** Rows that have something to say first, a few in all, and how many are left out. */
export function flaggedFirst<T>(all: readonly T[], flag: (each: T) => string | null): { rows: T[]; more: number } {
  const rows = all.toSorted((one, other) => Number(flag(one) === null) - Number(flag(other) === null));
  return { rows: rows.slice(0, MOST_ROWS), more: Math.max(0, all.length - MOST_ROWS) };
}

const steps = [1, 10, 100, 1000, 10_000, 60_000, 600_000, 3_600_000, 36_000_000, 86_400_000, 864_000_000];
const stepWords = ['1 ms', '10 ms', '0.1 s', '1 s', '10 s', '1 min', '10 min', '1 h', '10 h', '1 day', '10 days'];

/** Steps of a logarithmic scale of durations (ms) that hold all of these, two at least. */
export function latencyTicks(durations: readonly number[]): { ms: number; words: string }[] {
  const [least, most] = [Math.min(...durations, 1000), Math.max(...durations, 0)];
  const first = Math.max(
    0,
    steps.findLastIndex(each => each <= least),
  );
  const last = steps.findIndex(each => each >= most);
  return steps
    .map((ms, index) => ({ ms, words: stepWords[index]! }))
    .slice(first, last < 0 ? undefined : Math.max(last, first + 1) + 1);
}
