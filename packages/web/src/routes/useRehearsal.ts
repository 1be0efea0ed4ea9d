import type { RouteParts, RouteRehearsal } from '@grammata/core/rehearse';
import { useEffect, useRef, useState } from 'react';
import type { Answer, Question } from './rehearsal.worker';
import type { ShelfState } from './samples';

/** A rehearsal over the samples that were there, of one generation of them; or why there is none. */
export type Rehearsed = { generation: number } & ({ summary: RouteRehearsal } | { fault: string });

/** A worker that rehearses. While one rehearsal is under way only the newest state waits, however fast people type. */
export function openWorker(
  worker: Pick<Worker, 'postMessage' | 'terminate' | 'onmessage' | 'onerror'>,
  told: (rehearsed: Rehearsed) => void,
) {
  let number = 0;
  let isBusy = false;
  let waiting: RouteParts | null = null;
  let generation = -1;
  let pages = 0;
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
  const answered = (answer: Answer) => {
    isBusy = false;
    // What is behind the newest edit is not shown: the answer to that one is on its way.
    if (answer.number === number) told({ generation, ...answer });
    if (waiting) rehearse(waiting);
  };
  worker.onmessage = ({ data }: MessageEvent<Answer>) => answered(data);
  // What fails outside a rehearsal must not leave the page waiting for ever.
  worker.onerror = event => answered({ number, fault: event.message });
  return {
    rehearse,
    /** Hands over what of the shelf is not there yet. */
    hold(shelf: Pick<ShelfState, 'generation' | 'pages'>) {
      if (shelf.generation !== generation) {
        tell({ anew: true });
        generation = shelf.generation;
        pages = 0;
      }
      for (const page of shelf.pages.slice(pages)) tell({ page });
      pages = shelf.pages.length;
    },
    close: () => worker.terminate(),
  };
}

/** The rehearsal of a route over all samples, made off the main thread; null until the first is there. */
export function useRehearsal(route: RouteParts | null, shelf: ShelfState): Rehearsed | null {
  const [rehearsed, setRehearsed] = useState<Rehearsed | null>(null);
  const worker = useRef<ReturnType<typeof openWorker> | null>(null);
  const { generation, pages } = shelf;

  useEffect(() => {
    const opened = openWorker(
      new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' }),
      setRehearsed,
    );
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
