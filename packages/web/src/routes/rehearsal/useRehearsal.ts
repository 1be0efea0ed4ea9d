import type { RouteParts } from '@grammata/core/rehearse';
import { useCallback, useEffect, useRef, useState } from 'react';
import { openWorker, type Rehearsed } from './rehearsing';
import type { ShelfState } from '../samples';
import { takeWorker, warmUp } from './warm';

warmUp();

/**
 * The rehearsal of a route over all samples, made off the main thread; null until the first is there. And a way to begin anew with another
 * worker, where one failed.
 */
export function useRehearsal(route: RouteParts | null, shelf: ShelfState): [Rehearsed | null, anew: () => void] {
  const [rehearsed, setRehearsed] = useState<Rehearsed | null>(null);
  const worker = useRef<ReturnType<typeof openWorker> | null>(null);
  const [times, setTimes] = useState(0);
  const { generation, pages } = shelf;

  useEffect(() => {
    const opened = openWorker(takeWorker(), setRehearsed);
    worker.current = opened;
    return () => opened.close();
  }, [times]);

  useEffect(() => worker.current?.hold({ generation, pages }), [generation, pages, times]);

  useEffect(() => {
    if (route && generation > 0) worker.current?.rehearse(route);
  }, [route, generation, pages, times]);
  const anew = useCallback(() => {
    setRehearsed(null);
    setTimes(before => before + 1);
  }, []);

  // What was said of other samples is not said of these.
  return [rehearsed?.generation === generation ? rehearsed : null, anew];
}
