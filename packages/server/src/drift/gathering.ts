import type { Timers } from '../timing';

/** Gathers what something happened to, and looks at each of it a moment later, once. */
export class Gathering {
  readonly #waiting = new Set<string>();
  #isSet = false;
  #isClosed = false;

  constructor(
    private readonly timers: Timers,
    private readonly name: string,
    /** ms after something happened before it is looked at: what happens at once is looked at once. Null where nothing is looked at. */
    private readonly pause: number | null,
    private readonly look: (id: string) => void | Promise<void>,
  ) {}

  add(ids: Iterable<string>): void {
    if (this.pause === null || this.#isClosed) return;
    for (const each of ids) this.#waiting.add(each);
    if (this.#waiting.size === 0 || this.#isSet) return;
    this.#isSet = true;
    this.timers.later(this.name, this.pause, () => this.#lookAtAll());
  }

  close(): void {
    this.#isClosed = true;
  }

  async #lookAtAll(): Promise<void> {
    this.#isSet = false;
    const all = [...this.#waiting];
    this.#waiting.clear();
    for (const id of all) {
      if (this.#isClosed) return;
      // What one of them fails for is no matter to the others.
      await this.timers.run(this.name, () => this.look(id));
      await this.timers.turn();
    }
  }
}
