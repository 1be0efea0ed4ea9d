import type { ShelfState } from '../samples';
import type { Told } from './rehearsal.worker';

/** What of the shelf a worker holds: so many pages of a generation. */
export interface Held {
  generation: number;
  pages: number;
}

/** What a worker is to be told, so that it holds the whole shelf: pages are handed over once, and all anew for another generation. */
export const pagesToTell = (held: Held, shelf: Pick<ShelfState, 'generation' | 'pages'>): Told[] =>
  held.generation === shelf.generation
    ? shelf.pages.slice(held.pages).map(page => ({ page }))
    : [{ anew: true }, ...shelf.pages.map(page => ({ page }))];
