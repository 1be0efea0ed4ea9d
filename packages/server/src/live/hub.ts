import { randomUUID } from 'node:crypto';
import type { LiveEvent } from '@grammata/contract';

type Listener = (event: LiveEvent) => void;

/** Tells whoever listens what happened. Things that happened while nobody listened are not kept: places read them. */
export class LiveHub {
  readonly #listeners = new Set<Listener>();
  readonly #run = randomUUID();
  #told = 0;

  /** Says what was told so far: whoever saw the same mark before has missed nothing since. */
  get mark(): string {
    return `${this.#run}.${this.#told}`;
  }

  /** What one listener fails at is no matter to the others, nor to whoever tells. */
  publish(event: LiveEvent): void {
    this.#told += 1;
    for (const listener of [...this.#listeners])
      try {
        listener(event);
      } catch {
        this.#listeners.delete(listener);
      }
  }

  /** Gives back the function that stops listening. */
  subscribe(listener: Listener): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }
}

/** Tells of deliveries that wait to be sent. */
export function tellQueued(live: LiveHub, queued: readonly { id: string; routeId: string }[]): void {
  for (const { id, routeId } of queued) live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
}
