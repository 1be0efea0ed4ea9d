import { isRehearsed, isTroubled } from '@grammata/core/rehearse';
import { useMemo } from 'react';
import { useWorkbench, type Seen } from '../workbench';

export const shows = { all: 'all', trouble: 'with problems', out: 'left out' } as const;
export type Shown = keyof typeof shows;

/** A sample, and what became of it in the rehearsal. */
export interface Row {
  sample: Seen;
  /** Its place among all, from 0. */
  index: number;
  /** False while it was not rehearsed yet: neither fine nor in trouble. */
  isKnown: boolean;
  goes: boolean;
  sends: boolean;
  isTroubled: boolean;
}

/** True for a row that is among those that are looked at. */
export const isAmong = ({ isKnown, goes, sends, isTroubled: troubled }: Row, shown: Shown): boolean =>
  shown === 'all' || (isKnown && (shown === 'out' ? !goes : goes && (troubled || !sends)));

/** All samples with what became of them, and how many there are of each kind; null while nothing is rehearsed. */
export function useRows() {
  const { samples, rehearsal, run } = useWorkbench('walk', 'rehearsed');
  return useMemo(() => {
    const rows = samples.map((sample, index): Row => ({
      sample,
      index,
      isKnown: run !== null && isRehearsed(run, sample.place),
      goes: run?.goes[sample.place] === 1,
      sends: run?.sends[sample.place] === 1,
      isTroubled: rehearsal !== null && isTroubled(rehearsal, sample.place),
    }));
    const countOf = (shown: Shown) => (run ? rows.filter(row => isAmong(row, shown)).length : null);
    return {
      rows,
      counts: { all: rows.length, trouble: countOf('trouble'), out: countOf('out') } as Record<Shown, number | null>,
    };
  }, [samples, rehearsal, run]);
}
