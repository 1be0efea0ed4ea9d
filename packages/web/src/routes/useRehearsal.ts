import type { RouteRehearsal, RouteParts, Sample } from '@grammata/core/rehearse';
import { useEffect, useRef, useState } from 'react';
import type { Answer, Question } from './rehearsal.worker';

/** A worker that rehearses. While one rehearsal is under way only the newest state waits, however fast people type. */
function openWorker(onSummary: (summary: RouteRehearsal) => void) {
  const worker = new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' });
  let number = 0;
  let isBusy = false;
  let waiting: RouteParts | null = null;
  const tell = (question: Question) => worker.postMessage(question);
  const rehearse = (route: RouteParts) => {
    number += 1;
    if (isBusy) {
      waiting = route;
      return;
    }
    isBusy = true;
    waiting = null;
    tell({ route, number });
  };
  worker.onmessage = ({ data }: MessageEvent<Answer>) => {
    isBusy = false;
    // What is behind the newest edit is not shown: the answer to that one is on its way.
    if (data.number === number) onSummary(data.summary);
    if (waiting) rehearse(waiting);
  };
  return { rehearse, hold: (samples: Sample[]) => tell({ samples }), close: () => worker.terminate() };
}

/** The rehearsal of a route over all samples, made off the main thread; null until the first is there. */
export function useRehearsal(route: RouteParts | null, samples: Sample[]): RouteRehearsal | null {
  const [summary, setSummary] = useState<RouteRehearsal | null>(null);
  const worker = useRef<ReturnType<typeof openWorker> | null>(null);

  useEffect(() => {
    const opened = openWorker(setSummary);
    worker.current = opened;
    return () => opened.close();
  }, []);

  useEffect(() => worker.current?.hold(samples), [samples]);

  useEffect(() => {
    if (route) worker.current?.rehearse(route);
  }, [route, samples]);

  return summary;
}
