import { match } from '@grammata/core/match';
import type { Pair } from '.';

export interface PairTotals {
  /** Share of the proposed lines that a person would draw. */
  precision: number;
  /** Share of the lines a person would draw that were proposed. */
  recall: number;
  wrong: string[];
}

/** Proposals held against the lines that people would draw. */
export function pairTotals(pairs: readonly Pair[]): PairTotals {
  let [proposed, right, wanted] = [0, 0, 0];
  const wrong: string[] = [];
  for (const { name, from, to, lines } of pairs)
    for (const { to: key, from: source, score } of match(from, to)) {
      const should = lines[key] ?? null;
      if (should !== null) wanted += 1;
      if (source !== null) proposed += 1;
      if (source !== null && source === should) right += 1;
      else if (source !== should) wrong.push(`${name}: ${key} from ${source} (${score}), should be ${should}`);
    }
  return { precision: right / Math.max(1, proposed), recall: right / Math.max(1, wanted), wrong };
}
