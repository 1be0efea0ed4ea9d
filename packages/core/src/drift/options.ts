import { assigned } from '../match';
import { asText, type Json } from '../submission';
import { alike } from './alike';
import type { Asked } from './profile';
import { unlikely } from './chance';

/** What became of the options of a question. */
export interface OptionChanges {
  added: string[];
  gone: string[];
  renamed: [was: string, now: string][];
}

/** Different answers beyond which a question is answered freely. */
const MOST_OPTIONS = 25;
/** From so many answers on a question without stated options may tell what its options are. */
const ENOUGH = 8;
/** How alike two options must be to be one that was renamed. */
const KIN = 0.6;

/** Options as they were chosen, with how often. */
function chosen(values: readonly Json[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const value of values)
    for (const each of Array.isArray(value) ? value : [value]) {
      if (typeof each === 'object') continue;
      const text = asText(each).trim();
      if (text !== '') counts.set(text, (counts.get(text) ?? 0) + 1);
    }
  return counts;
}

/** True for a question that is answered by choosing: the payload says so, or its answers repeat. */
function isChosen({ kinds, values, stated }: Asked, counts: ReadonlyMap<string, number>): boolean {
  if (stated || kinds.has('choices') || kinds.has('choice')) return true;
  if (
    counts.size === 0 ||
    counts.size > MOST_OPTIONS ||
    ![...kinds.keys()].every(kind => kind === 'text' || kind === 'name')
  )
    return false;
  const answers = values.length;
  return answers >= ENOUGH && counts.size <= answers / 2 && [...counts.keys()].every(text => text.length <= 60);
}

/** What became of a question's options. Where the messages state them, for sure; else as far as what was chosen tells. */
export function optionChanges(was: Asked, now: Asked): OptionChanges {
  if (was.stated && now.stated) {
    const gone = was.stated.filter(each => !now.stated!.includes(each));
    const fresh = now.stated.filter(each => !was.stated!.includes(each));
    return told(gone, fresh, gone, fresh);
  }
  const [before, after] = [chosen(was.values), chosen(now.values)];
  if (!isChosen(was, before) || after.size === 0 || after.size > MOST_OPTIONS)
    return { added: [], gone: [], renamed: [] };
  const missing = [...before.keys()].filter(each => !after.has(each));
  const unseen = [...after.keys()].filter(each => !before.has(each));
  const rare = [...before.values()].filter(times => times === 1).length;
  // Where some were chosen only once, others that exist may not have been chosen at all.
  const isSurelyNew = (option: string) =>
    after.get(option)! >= 3 ||
    (after.get(option)! === 2 ? rare <= before.size / 4 : rare === 0 && was.values.length >= ENOUGH);
  return told(
    missing,
    unseen,
    missing.filter(each => unlikely(before.get(each)!, was.values.length, now.values.length, 0.01)),
    unseen.filter(isSurelyNew),
  );
}

/**
 * Options that are not there any more and ones that were not there before, paired where one is the other under another name: where they are
 * alike, or where surely one went and surely one came.
 */
function told(
  missing: readonly string[],
  unseen: readonly string[],
  gone: readonly string[],
  fresh: readonly string[],
): OptionChanges {
  const isOnlyPair = gone.length === 1 && fresh.length === 1;
  const scores = missing.map(was =>
    unseen.map(now => ({
      score: Math.max(alike(was, now), isOnlyPair && gone.includes(was) && fresh.includes(now) ? KIN : 0),
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
