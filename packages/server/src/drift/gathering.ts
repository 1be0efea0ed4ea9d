import type { Timers } from '../timing';

/** ms after something happened before it is looked at: what happens at once is looked at once. */
const PAUSE = 1500;

/** Gathers what something happened to, and looks at each of it a moment later, once. */
export class Gathering {
  readonly #waiting = new Set<string>();
  #isSet = false;
  #isClosed = false;

  constructor(
    private readonly timers: Timers,
    private readonly name: string,
    private readonly look: (id: string) => void | Promise<void>,
  ) {}

  add(ids: Iterable<string>): void {
    for (const each of ids) this.#waiting.add(each);
    if (this.#waiting.size === 0 || this.#isSet || this.#isClosed) return;
    this.#isSet = true;
    this.timers.later(this.name, PAUSE, () => this.#lookAtAll());
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
