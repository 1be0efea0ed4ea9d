import type { CallInput, RouteView } from '@grammata/contract';
import { useCallback, useEffect, useMemo, type ReactNode } from 'react';
import { useDraft } from '../draft';
import { useShelf } from '../samples';
import { useCallAtHand } from './useCallAtHand';
import { useOffers } from './useOffers';
import { useRecorded } from './useRecorded';
import { useRehearsed } from './useRehearsed';
import { useWalk } from './useWalk';
import { contexts } from './useWorkbench';

/** Opens a route for everything below: what is known of it is put together here, each part by a hook of its own. */
export function WorkbenchOf({ route, children }: { route: RouteView; children: ReactNode }) {
  const editing = useDraft(route);
  const { calls } = editing.draft;
  const atHand = useCallAtHand(route, calls);
  const shelf = useShelf(route.formId);
  const { schema } = route.form;
  const { recorded, newest, gone } = useRecorded(schema, shelf.samples);
  const { run, stock } = useRehearsed(editing.draft, atHand, shelf, recorded);
  const { shown } = shelf;
  const isSeen = run !== null || stock.state === 'failed';
  useEffect(() => {
    if (isSeen) shown();
  }, [isSeen, shown]);
  const { id: callId } = atHand.call;
  const rehearsal = run?.calls[run.callIds.indexOf(callId)] ?? null;
  const walk = useWalk(shelf.samples, calls, atHand, rehearsal);
  const offered = useOffers(schema, calls, atHand, newest);
  const { edit } = editing;
  const editCall = useCallback(
    (change: (call: CallInput) => CallInput) =>
      edit(before => ({ ...before, calls: before.calls.map(each => (each.id === callId ? change(each) : each)) })),
    [edit, callId],
  );
  const parts = {
    route: useMemo(() => ({ route }), [route]),
    editing: useMemo(() => ({ editing }), [editing]),
    call: useMemo(() => ({ ...atHand, editCall }), [atHand, editCall]),
    offers: useMemo(() => ({ ...offered, gone }), [offered, gone]),
    rehearsed: useMemo(() => ({ stock, rehearsal, run }), [stock, rehearsal, run]),
  };
  return (
    <contexts.route value={parts.route}>
      <contexts.editing value={parts.editing}>
        <contexts.call value={parts.call}>
          <contexts.walk value={walk}>
            <contexts.offers value={parts.offers}>
              <contexts.rehearsed value={parts.rehearsed}>{children}</contexts.rehearsed>
            </contexts.offers>
          </contexts.walk>
        </contexts.call>
      </contexts.editing>
    </contexts.route>
  );
}
