import { linkSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { open } from 'node:fs/promises';
import path from 'node:path';
import { syncFolder, writeAll } from '../storage';

/** Bodies too large for the database, each in a file of its own. */
export class Bodies {
  readonly #folder: string;

  constructor(dataDir: string) {
    this.#folder = path.join(dataDir, 'bodies');
    mkdirSync(this.#folder, { recursive: true });
  }

  fileOf(arrivalId: string): string {
    return path.join(this.#folder, arrivalId);
  }

  /** Writes chunks as they come; when it resolves they are on disk, name and all. Nothing is left of a body that breaks off. */
  async write(arrivalId: string, chunks: AsyncIterable<Buffer> | Iterable<Buffer>): Promise<void> {
    const file = this.fileOf(arrivalId);
    const handle = await open(file, 'wx');
    try {
      for await (const chunk of chunks) await writeAll(handle, chunk);
      await handle.sync();
      syncFolder(this.#folder);
    } catch (error) {
      rmSync(file, { force: true });
      throw error;
    } finally {
      await handle.close();
    }
  }

  /** Gives another arrival the same body; on disk when it returns. */
  share(arrivalId: string, otherId: string): void {
    linkSync(this.fileOf(arrivalId), this.fileOf(otherId));
    syncFolder(this.#folder);
  }

  remove(arrivalId: string): void {
    rmSync(this.fileOf(arrivalId), { force: true });
  }

  /** Removes files whose arrivals are gone; gives back how many. */
  sweep(isKnown: (arrivalId: string) => boolean): number {
    const gone = readdirSync(this.#folder).filter(name => !isKnown(name));
    gone.forEach(name => this.remove(name));
    return gone.length;
  }
}
