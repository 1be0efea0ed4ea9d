import type { Answers, Filled } from '@grammata/practice';
import { DateTime } from 'luxon';
import { randomFrom, type Random } from '../random';

/** One past answer and when it came, in ms since the epoch. */
export interface PastAnswer {
  receivedAt: number;
  filled: Filled;
  /** The payload generation its builder had then. */
  generation?: 'now' | 'earlier';
}

export const zone = 'Europe/London';

export interface PastOf {
  seed: number;
  count: number;
  /** Over how many days they came. */
  days: number;
  /** The first letter of their identifiers. */
  letter: string;
  answers(random: Random, at: DateTime, index: number): Answers;
}

/** Past answers up to a moment, oldest first: invented, and the same at every start. */
export function pastOf({ seed, count, days, letter, answers }: PastOf, until: number): PastAnswer[] {
  const random = randomFrom(seed);
  const times = Array.from({ length: count }, () => {
    const day = DateTime.fromMillis(until, { zone }).minus({ days: random.below(days) });
    const at = day.set({ hour: 7 + random.below(14), minute: random.below(60), second: random.below(60) });
    // Of today only what can have come already.
    return (at.toMillis() < until - 600_000 ? at : at.minus({ days: 1 })).toMillis();
  }).sort((a, b) => a - b);
  return times.map((receivedAt, index) => ({
    receivedAt,
    filled: {
      entry: `${letter}-${(0x3a00 + index * 53).toString(16)}`,
      sent: new Date(receivedAt - 1500).toISOString(),
      answers: answers(random, DateTime.fromMillis(receivedAt, { zone }), index),
      client: { addr: `192.0.2.${10 + random.below(200)}`, agent: 'practice' },
    },
  }));
}

/** Takes out what nobody answered. */
export const given = (answers: Record<string, Answers[string] | undefined>): Answers =>
  Object.fromEntries(Object.entries(answers).filter(([, answer]) => answer !== undefined)) as Answers;
