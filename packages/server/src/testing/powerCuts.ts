import {
  copyFileSync,
  cpSync,
  existsSync,
  fstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { durable, Gate } from '../ledger';
import { Turns, type Order } from '../ledger/turn';

/**
 * What a data folder holds if power fails now: the database and its log as they were when they were last flushed, and of other files
 * only what was flushed (fsync(2)) by name and content. The worst that a disk may do is to keep nothing else.
 */
export class Mirror {
  readonly #flushed = mkdtempSync(path.join(tmpdir(), 'grammata-mirror-'));
  /** Inodes of files whose content was flushed: a copy is linked to what was staged, under another name. */
  readonly #synced = new Set<number>();
  readonly #undo: (() => void)[] = [];
  #isOver = false;

  constructor(private readonly dataDir: string) {}

  /** Begins to look at every flush of this process. The server has to have its ledger in this thread. */
  async install(): Promise<void> {
    // What is there before it begins is on disk.
    for (const part of ['bodies', 'copies'])
      for (const name of existsSync(path.join(this.dataDir, part)) ? readdirSync(path.join(this.dataDir, part)) : [])
        this.#synced.add(statSync(path.join(this.dataDir, part, name)).ino);
    this.#flush();
    const flush = () => this.#flush();
    // What stores what others wait for is on disk when its turn is over (PRAGMA synchronous = FULL) …
    const turn = Turns.prototype.do;
    Turns.prototype.do = function (this: Turns, orders: readonly Order[]) {
      const answers = turn.call(this, orders);
      if (orders.some(each => durable.has(each.name))) flush();
      return answers;
    };
    // … and what people set, when it is stored.
    const turnstile = Object.getOwnPropertyDescriptor(Gate.prototype, 'turnstile')!;
    Object.defineProperty(Gate.prototype, 'turnstile', {
      ...turnstile,
      get(this: Gate) {
        const { enter, leave } = turnstile.get!.call(this) as Gate['turnstile'];
        return { enter, leave: () => (leave(), flush()) };
      },
    });
    const handle = await open(this.#flushed, 'r');
    const prototype = Object.getPrototypeOf(handle) as FileHandle;
    await handle.close();
    const { sync } = prototype;
    const synced = this.#synced;
    prototype.sync = function (this: FileHandle) {
      synced.add(fstatSync(this.fd).ino);
      return sync.call(this);
    };
    this.#undo.push(
      () => (Turns.prototype.do = turn),
      () => Object.defineProperty(Gate.prototype, 'turnstile', turnstile),
      () => (prototype.sync = sync),
    );
  }

  #flush(): void {
    if (this.#isOver) return;
    for (const name of ['grammata.db', 'grammata.db-wal'])
      if (existsSync(path.join(this.dataDir, name)))
        copyFileSync(path.join(this.dataDir, name), path.join(this.#flushed, name));
  }

  /** A data folder as it is found when power is back. */
  cut(): string {
    const folder = mkdtempSync(path.join(tmpdir(), 'grammata-cut-'));
    cpSync(this.#flushed, folder, { recursive: true });
    for (const name of ['key', 'links']) copyFileSync(path.join(this.dataDir, name), path.join(folder, name));
    for (const part of ['bodies', 'copies']) {
      mkdirSync(path.join(folder, part));
      for (const name of readdirSync(path.join(this.dataDir, part))) {
        const [from, to] = [path.join(this.dataDir, part, name), path.join(folder, part, name)];
        if (this.#synced.has(statSync(from).ino)) copyFileSync(from, to);
        else writeFileSync(to, '');
      }
    }
    return folder;
  }

  remove(): void {
    this.#isOver = true;
    this.#undo.forEach(undo => undo());
    rmSync(this.#flushed, { recursive: true, force: true });
  }
}
