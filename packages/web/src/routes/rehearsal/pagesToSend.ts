import type { ShelfState } from '../samples';
import type { RehearsalInput } from './rehearsal.worker';

/** What of the shelf a worker holds: so many pages of a generation. */
export interface PagesSent {
  generation: number;
  pages: number;
}

/** What a worker is to be told, so that it holds the whole shelf: pages are handed over once, and all anew for another generation. */
export const pagesToSend = (held: PagesSent, shelf: Pick<ShelfState, 'generation' | 'pages'>): RehearsalInput[] =>
  held.generation === shelf.generation
    ? shelf.pages.slice(held.pages).map(page => ({ page }))
    : [{ anew: true }, ...shelf.pages.map(page => ({ page }))];
