import type { RouteParts } from '@grammata/core/rehearse';
import { useEffect, useRef, useState } from 'react';
import { openWorker, type Rehearsed } from './rehearsing';
import type { ShelfState } from '../samples';

const newWorker = () => new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' });

/** Begun as soon as a route is gone to: its program is there by the time that the route and its samples are. */
let warm: Worker | null = newWorker();

/** The rehearsal of a route over all samples, made off the main thread; null until the first is there. */
export function useRehearsal(route: RouteParts | null, shelf: ShelfState): Rehearsed | null {
  const [rehearsed, setRehearsed] = useState<Rehearsed | null>(null);
  const worker = useRef<ReturnType<typeof openWorker> | null>(null);
  const { generation, pages } = shelf;

  useEffect(() => {
    const opened = openWorker(warm ?? newWorker(), setRehearsed);
    warm = null;
    worker.current = opened;
    return () => opened.close();
  }, []);

  useEffect(() => worker.current?.hold({ generation, pages }), [generation, pages]);

  useEffect(() => {
    if (route && generation > 0) worker.current?.rehearse(route);
  }, [route, generation, pages]);

  // What was said of other samples is not said of these.
  return rehearsed?.generation === generation ? rehearsed : null;
}
