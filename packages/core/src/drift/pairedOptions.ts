import { assigned } from '../match';
import { alike } from './alike';

/** What became of the options of what is chosen from. */
export interface OptionChanges {
  added: string[];
  gone: string[];
  renamed: [was: string, now: string][];
}

/** How alike two options must be to be one that was renamed. */
export const KIN = 0.6;

/**
 * Options that are not there any more and ones that were not there before, paired where one is the other under another name: where they are
 * alike, or where surely one went and surely one came.
 * @param gone those of the missing that surely are not there any more
 * @param fresh those of the unseen that surely were not there before
 */
export function pairedOptions(
  missing: readonly string[],
  unseen: readonly string[],
  gone = missing,
  fresh = unseen,
  mayPair: (was: string, now: string) => boolean = () => true,
): OptionChanges {
  const isOnlyPair = gone.length === 1 && fresh.length === 1;
  const scores = missing.map(was =>
    unseen.map(now => ({
      score: mayPair(was, now)
        ? Math.max(alike(was, now), isOnlyPair && gone.includes(was) && fresh.includes(now) ? KIN : 0)
        : 0,
    })),
  );
  const renamed = assigned(scores, KIN).flatMap((column, row): [string, string][] =>
    column < 0 ? [] : [[missing[row]!, unseen[column]!]],
  );
  return {
    renamed,
    gone: gone.filter(each => !renamed.some(([was]) => was === each)),
    added: fresh.filter(each => !renamed.some(([, now]) => now === each)),
  };
}
