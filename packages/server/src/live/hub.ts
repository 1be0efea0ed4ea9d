import type { LiveEvent } from '@grammata/contract';

type Listener = (event: LiveEvent) => void;

/** Tells whoever listens what happened. Things that happened while nobody listened are not kept: places read them. */
export class LiveHub {
  readonly #listeners = new Set<Listener>();

  /** What one listener fails at is no matter to the others, nor to whoever tells. */
  publish(event: LiveEvent): void {
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
