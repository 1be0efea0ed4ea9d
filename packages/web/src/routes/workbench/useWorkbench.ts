import type { CallInput, RouteView } from '@grammata/contract';
import { useCallback, useEffect, useMemo } from 'react';
import { useDraft } from '../draft';
import { useShelf } from '../samples';
import { useCallAtHand } from './useCallAtHand';
import { useOffers } from './useOffers';
import { useRecorded } from './useRecorded';
import { useRehearsed } from './useRehearsed';
import { useWalk } from './useWalk';
import type { Workbench } from './workbench';

/** Puts together what is known of a route; each part is known by a hook of its own. */
export function useWorkbench(route: RouteView): Workbench {
  const editing = useDraft(route);
  const { calls } = editing.draft;
  const atHand = useCallAtHand(route, calls);
  const shelf = useShelf(route.formId);
  const { recorded, newest, gone } = useRecorded(route, shelf.samples);
  const { run, stock } = useRehearsed(editing.draft, atHand, shelf, recorded);
  const { shown } = shelf;
  const isSeen = run !== null || stock.state === 'failed';
  useEffect(() => {
    if (isSeen) shown();
  }, [isSeen, shown]);
  const { id: callId } = atHand.call;
  const rehearsal = run?.calls[run.callIds.indexOf(callId)] ?? null;
  const walk = useWalk(shelf.samples, calls, atHand, rehearsal);
  const offers = useOffers(route, calls, atHand, newest);
  const { edit } = editing;
  const editCall = useCallback(
    (change: (call: CallInput) => CallInput) =>
      edit(before => ({ ...before, calls: before.calls.map(each => (each.id === callId ? change(each) : each)) })),
    [edit, callId],
  );
  return useMemo(
    () => ({ route, editing, ...atHand, editCall, ...walk, ...offers, stock, rehearsal, run, gone }),
    [route, editing, atHand, editCall, walk, offers, stock, rehearsal, run, gone],
  );
}
