import { closeSync, fsyncSync, mkdirSync, openSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** A piece of the yard's state, kept in a JSON file of its own; the file is the one before or the one after, never a part. */
export class FileStore<T extends object> {
  readonly value: T;
  readonly #folder: string;
  readonly #file: string;

  constructor(folder: string, name: string, initial: T) {
    mkdirSync(folder, { recursive: true });
    this.#folder = folder;
    this.#file = path.join(folder, `${name}.json`);
    this.value = { ...initial, ...this.#read() };
  }

  #read(): Partial<T> {
    let text: string;
    try {
      text = readFileSync(this.#file, 'utf8');
    } catch {
      return {};
    }
    try {
      return JSON.parse(text) as Partial<T>;
    } catch {
      // What can't be read is laid aside, not written over.
      renameSync(this.#file, `${this.#file}.broken`);
      return {};
    }
  }

  save(): void {
    const part = `${this.#file}.part`;
    writeFileSync(part, JSON.stringify(this.value), { flush: true });
    renameSync(part, this.#file);
    const folder = openSync(this.#folder, 'r');
    fsyncSync(folder);
    closeSync(folder);
  }
}
