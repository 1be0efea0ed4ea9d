import type { RouteView } from '@grammata/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { api, isConflict, keys } from '../../api';
import { saveDraft } from '../queries';
import { DraftKeeper, type DraftState, type Rescued } from './keeper';

export interface Editing extends Pick<DraftState, 'saving' | 'fault' | 'theirs' | 'isRescued'> {
  draft: DraftState['present'];
  edit: DraftKeeper['edit'];
  undo: DraftKeeper['undo'];
  redo: DraftKeeper['redo'];
  canUndo: boolean;
  canRedo: boolean;
  flush: DraftKeeper['flush'];
  storedAs: DraftKeeper['storedAs'];
  keepMine: DraftKeeper['keepMine'];
  takeTheirs: DraftKeeper['takeTheirs'];
}

/** Edits that could not be stored, in this browser, by the route's id. */
const rescueOf = (id: string) => ({
  read(): Rescued | null {
    try {
      return JSON.parse(localStorage.getItem(`grammata.unsaved.${id}`) ?? 'null') as Rescued | null;
    } catch {
      return null;
    }
  },
  write(rescued: Rescued | null) {
    try {
      if (rescued) localStorage.setItem(`grammata.unsaved.${id}`, JSON.stringify(rescued));
      else localStorage.removeItem(`grammata.unsaved.${id}`);
    } catch {
      // A browser without room for it: the page itself still has it.
    }
  },
});

/** The draft of a route that is shown, under the hands. */
export function useDraft(route: RouteView): Editing {
  const client = useQueryClient();
  const [keeper] = useState(
    () =>
      new DraftKeeper(route, {
        async save(definition, revision) {
          const view = await saveDraft(route.id, { definition, revision });
          client.setQueryData(keys.routes.view(route.id), view);
          return view;
        },
        isConflict,
        load: () => api<RouteView>(`/routes/${route.id}`),
        rescue: rescueOf(route.id),
      }),
  );
  const state = useSyncExternalStore(keeper.subscribe, keeper.state);
  useEffect(() => keeper.heard(route), [keeper, route]);
  useEffect(() => {
    window.addEventListener('pagehide', keeper.leave);
    return () => {
      window.removeEventListener('pagehide', keeper.leave);
      keeper.leave();
    };
  }, [keeper]);
  const { past, present, future, saving, fault, theirs, isRescued } = state;
  const { edit, undo, redo, flush, storedAs, keepMine, takeTheirs } = keeper;
  return useMemo(
    () => ({
      draft: present,
      canUndo: past.length > 0,
      canRedo: future.length > 0,
      saving,
      fault,
      theirs,
      isRescued,
      edit,
      undo,
      redo,
      flush,
      storedAs,
      keepMine,
      takeTheirs,
    }),
    [past, present, future, saving, fault, theirs, isRescued, edit, undo, redo, flush, storedAs, keepMine, takeTheirs],
  );
}
