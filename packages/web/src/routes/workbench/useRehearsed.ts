import type { RouteParts } from '@grammata/core/rehearse';
import type { RouteDefinition } from '@grammata/core/route';
import { useMemo } from 'react';
import { wordsFor } from '../../api';
import { useRehearsal } from '../rehearsal/useRehearsal';
import type { Shelved, ShelfState } from '../samples';
import type { CallAtHand, Stock } from './workbench';

/** The route over all samples, as the draft stands: how each call fares, and what is known of the samples as a whole. */
export function useRehearsed(
  { condition, calls, terms }: RouteDefinition,
  { operationOf, targetOf }: CallAtHand,
  shelf: ShelfState & { again(): void },
  recorded: readonly Shelved[],
) {
  const parts = useMemo<RouteParts>(
    () => ({
      condition,
      calls: calls.map(each => ({
        call: each,
        operation: operationOf(each),
        answered: targetOf(each)?.answers[each.operationId],
        ...(each.find && { finder: operationOf({ ...each, operationId: each.find.operationId }) }),
        baseUrl: targetOf(each)?.baseUrl ?? '',
      })),
      context: { timeZone: terms.timeZone },
    }),
    [condition, calls, terms.timeZone, operationOf, targetOf],
  );
  const [rehearsed, anew] = useRehearsal(parts, shelf);
  const run = rehearsed && 'answer' in rehearsed ? rehearsed.answer : null;
  const isOlder = run !== null && rehearsed!.asked.route !== parts;
  const broken = rehearsed && 'fault' in rehearsed ? rehearsed.fault : null;
  const fares = useMemo(() => {
    if (!run) return null;
    const over = (flags: Uint8Array) => recorded.filter(({ place }) => flags[place] === 1).length;
    return { going: over(run.goes), sendable: over(run.sends) };
  }, [run, recorded]);
  const { total, state, fault, again } = shelf;
  const stock = useMemo<Stock>(
    () => ({
      recorded: recorded.length,
      total,
      fares,
      isOlder,
      state: broken ? 'failed' : state,
      fault: broken ?? (state === 'failed' ? wordsFor(fault) : null),
      again: broken ? anew : again,
    }),
    [recorded, total, fares, isOlder, broken, state, fault, again, anew],
  );
  return { run, stock };
}
