import { newId } from '../ids';

/** A request to an address that no intake has: most often a slip in a form builder. */
export interface Stray {
  id: string;
  /** ms since the epoch. */
  at: number;
  method: string;
  /** Without secrets. */
  url: string;
  sender: string | null;
  /** Bytes. */
  size: number;
}

/** How many are kept, the newest. */
const MOST = 100;

/** Requests to unknown addresses, kept in memory: whoever sends them writes nothing to disk. */
export class Strays {
  #kept: Stray[] = [];

  keep(stray: Omit<Stray, 'id'>): void {
    this.#kept = [{ id: newId(stray.at), ...stray }, ...this.#kept.slice(0, MOST - 1)];
  }

  /** The newest first. */
  list(): readonly Stray[] {
    return this.#kept;
  }

  get count(): number {
    return this.#kept.length;
  }

  forget(): void {
    this.#kept = [];
  }
}
