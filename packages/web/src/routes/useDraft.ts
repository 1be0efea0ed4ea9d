import type { RouteView } from '@grammata/contract';
import type { RouteDefinition } from '@grammata/core/route';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { saveDraft } from './queries';

export interface Editing {
  draft: RouteDefinition;
  edit(change: (draft: RouteDefinition) => RouteDefinition): void;
  undo(): void;
  redo(): void;
  canUndo: boolean;
  canRedo: boolean;
  saving: 'saved' | 'unsaved' | 'failed';
  /** Why it could not be stored. */
  fault: unknown;
  /** Resolves when everything edited so far is stored. */
  flush(): Promise<void>;
}

interface History {
  past: RouteDefinition[];
  present: RouteDefinition;
  future: RouteDefinition[];
}

/** How long after the last edit it is stored, in ms. Edits within it are one step of undo. */
const PAUSE = 500;

/** A route's draft under the hands: edits show at once, are stored by themselves, and can be undone. */
export function useDraft(route: RouteView): Editing {
  const client = useQueryClient();
  const [history, setHistory] = useState<History>({ past: [], present: route.draft, future: [] });
  const [saving, setSaving] = useState<Editing['saving']>('saved');
  const [fault, setFault] = useState<unknown>(null);
  const revision = useRef(route.revision);
  const stored = useRef(route.draft);
  const present = useRef(history.present);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const underWay = useRef<Promise<void> | null>(null);
  const editedAt = useRef(0);

  const save = useCallback(async (): Promise<void> => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    if (underWay.current) await underWay.current;
    if (present.current === stored.current) {
      setSaving('saved');
      return;
    }
    const sent = present.current;
    underWay.current = saveDraft(route.id, { definition: sent, revision: revision.current }).then(
      view => {
        revision.current = view.revision;
        stored.current = sent;
        client.setQueryData(['routes', route.id], view);
        setFault(null);
        setSaving(present.current === sent ? 'saved' : 'unsaved');
      },
      (error: unknown) => {
        setFault(error);
        setSaving('failed');
      },
    );
    await underWay.current;
    underWay.current = null;
  }, [client, route.id]);

  const become = useCallback(
    (next: (history: History) => History) => {
      setHistory(before => {
        const after = next(before);
        present.current = after.present;
        return after;
      });
      setSaving('unsaved');
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), PAUSE);
    },
    [save],
  );

  const edit = useCallback(
    (change: (draft: RouteDefinition) => RouteDefinition) => {
      const isBurst = Date.now() - editedAt.current < PAUSE;
      editedAt.current = Date.now();
      become(({ past, present: now }) => ({
        past: isBurst && past.length > 0 ? past : [...past, now].slice(-100),
        present: change(now),
        future: [],
      }));
    },
    [become],
  );
  const undo = useCallback(
    () =>
      become(({ past, present: now, future }) =>
        past.length === 0
          ? { past, present: now, future }
          : { past: past.slice(0, -1), present: past.at(-1)!, future: [now, ...future] },
      ),
    [become],
  );
  const redo = useCallback(
    () =>
      become(({ past, present: now, future }) =>
        future.length === 0
          ? { past, present: now, future }
          : { past: [...past, now], present: future[0]!, future: future.slice(1) },
      ),
    [become],
  );

  // An edit made elsewhere is taken over, as long as nothing of ours is unsaved.
  useEffect(() => {
    if (route.revision <= revision.current || present.current !== stored.current) return;
    revision.current = route.revision;
    stored.current = route.draft;
    present.current = route.draft;
    setHistory({ past: [], present: route.draft, future: [] });
  }, [route.draft, route.revision]);

  // Nothing is lost by leaving the page.
  useEffect(() => () => void save(), [save]);

  return {
    draft: history.present,
    edit,
    undo,
    redo,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    saving,
    fault,
    flush: save,
  };
}
