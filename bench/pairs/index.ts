import type { MatchTarget, SourceField } from '@grammata/core/match';
import mended from './mended.json';
import seen from './seen.json';
import tuned from './tuned.json';
import unseen from './unseen.json';

/** A form and a target with the lines that a person would draw: target key to source key, null for none. */
export interface Pair {
  name: string;
  from: SourceField[];
  to: MatchTarget[];
  lines: Record<string, string | null>;
}

/** Pairs looked at while the matcher was written. */
export const seenPairs = seen as unknown as Pair[];
/** Pairs that were unseen at first, then mended for. */
export const repairedPairs = mended as unknown as Pair[];
/** More pairs looked at while the matcher was tuned. */
export const tunedPairs = tuned as unknown as Pair[];
/** Pairs written before the matcher was last worked on, and left alone. */
export const unseenPairs = unseen as unknown as Pair[];
