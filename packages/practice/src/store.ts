import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** A piece of the yard's state, kept in a JSON file of its own. */
export class Kept<T extends object> {
  readonly value: T;
  readonly #file: string;

  constructor(folder: string, name: string, initial: T) {
    mkdirSync(folder, { recursive: true });
    this.#file = path.join(folder, `${name}.json`);
    this.value = { ...initial, ...this.#read() };
  }

  #read(): Partial<T> {
    try {
      return JSON.parse(readFileSync(this.#file, 'utf8')) as Partial<T>;
    } catch {
      return {};
    }
  }

  save(): void {
    writeFileSync(this.#file, JSON.stringify(this.value));
  }
}
