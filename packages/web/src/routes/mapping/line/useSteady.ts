import { replaceEqualDeep } from '@tanstack/react-query';
import type { LineFare } from '@grammata/core/rehearse';
import type { Outcome } from '@grammata/core/request';
import { useMemo, useState } from 'react';
import { useSame, useWorkbench } from '../../workbench';

// Lines that did not change are not rendered: what is worked out for all of them anew is, for each, the same as before where it is equal.

/** How each line fares, by its identifier. */
export function useFares(): ReadonlyMap<string, LineFare> {
  const { rehearsal } = useWorkbench('rehearsed');
  const lines = useSame(rehearsal?.lines ?? null);
  return useMemo(() => new Map(lines?.map(each => [each.lineId, each])), [lines]);
}

/** What lines give. */
export function useOutcomes(outcomes: Outcome[] | null): Outcome[] | null {
  const [kept, setKept] = useState(outcomes);
  const steady = steadied(kept, outcomes);
  if (steady !== kept) setKept(steady);
  return steady;
}

/** Outcomes, each as it was before where that is equal; all as they were where all are. */
export function steadied(before: Outcome[] | null, now: Outcome[] | null): Outcome[] | null {
  if (before === now || !before || !now) return now;
  const each = now.map((outcome, index) => (isSame(before[index], outcome) ? before[index]! : outcome));
  return each.length === before.length && each.every((outcome, index) => outcome === before[index]) ? before : each;
}

const isSame = (before: Outcome | undefined, now: Outcome): boolean =>
  before !== undefined &&
  before.state === now.state &&
  before.stops === now.stops &&
  before.problem?.message === now.problem?.message &&
  replaceEqualDeep(before.value, now.value) === before.value;
