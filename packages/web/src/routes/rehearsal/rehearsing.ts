import type { RouteParts, RouteRehearsal } from '@grammata/core/rehearse';
import type { Answer, Question } from './rehearsal.worker';
import type { ShelfState } from '../samples';

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
