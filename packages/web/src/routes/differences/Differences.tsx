import { callName, differencesOf, type RouteDefinition } from '@grammata/core/route';
import { useMemo } from 'react';
import { Sides } from '../../ui';
import { useWorkbench } from '../workbench';
import { differenceWords } from './words';

/** In what two definitions differ, side by side. */
export function Differences({
  before,
  after,
  names: [older, newer],
}: {
  before: RouteDefinition;
  after: RouteDefinition;
  /** What the two are called. */
  names: [before: string, after: string];
}) {
  const { labelOf, operationOf } = useWorkbench('call', 'offers');
  const differenceRows = useMemo(
    () =>
      differencesOf(before, after).map(each =>
        differenceWords(each, { labelOf, callOf: call => callName(call, operationOf(call)) }),
      ),
    [before, after, labelOf, operationOf],
  );
  if (differenceRows.length === 0) return <p className="py-1.5 font-serif text-ink-2">None: both are the same.</p>;
  return <Sides heads={['Where', older, newer]} rows={differenceRows} />;
}
