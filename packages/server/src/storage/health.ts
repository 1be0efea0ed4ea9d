import type { StorageView } from '@grammata/contract';
import type { Logger } from 'pino';
import { iso, now } from '../clock';
import type { LiveHub } from '../live';

const reasons: [codes: RegExp, words: string][] = [
  [/FULL|ENOSPC|EDQUOT/, 'The disk of the data folder is full.'],
  [/READONLY|EROFS|EACCES|EPERM/, 'The data folder can’t be written.'],
  [/IOERR|EIO|CANTOPEN|EMFILE|ENFILE|CORRUPT|NOTADB/, 'The data folder can’t be read or written as it should.'],
  [/BUSY|LOCKED/, 'The database is locked by another program.'],
];

/** An error and what it says it comes of: whoever runs statements wraps what the database says. */
export function* causesOf(error: unknown): Generator<Error & { code?: unknown }> {
  let at = error;
  for (let depth = 0; depth < 5 && typeof at === 'object' && at !== null && 'message' in at; depth++) {
    yield at as Error & { code?: unknown };
    at = (at as Error).cause;
  }
}

/** What is wrong with the disk, in words; null for an error of another kind. */
export function storageFault(error: unknown): string | null {
  for (const { code } of causesOf(error)) {
    const reason = typeof code === 'string' ? reasons.find(([codes]) => codes.test(code)) : undefined;
    if (reason) return reason[1];
  }
  return null;
}

/** Whether what comes can be kept. Whoever writes says how that went; what is wrong is logged once and shown in the interface. */
export class StorageHealth {
  #trouble: StorageView | null = null;

  constructor(
    private readonly live: LiveHub,
    private readonly log: Logger,
  ) {}

  get trouble(): StorageView | null {
    return this.#trouble;
  }

  /** Takes note of an error where it is one of the disk; true when it is. */
  failed(error: unknown): boolean {
    const message = storageFault(error);
    if (message === null) return false;
    if (this.#trouble === null) {
      this.#trouble = { since: iso(now()), message };
      this.log.error(
        { err: error },
        `${message} Intakes answer 503 and deliveries wait until it can be written again.`,
      );
      this.live.publish({ type: 'storage' });
    }
    return true;
  }

  /** Something was written: all is well again. */
  fine(): void {
    if (this.#trouble === null) return;
    this.#trouble = null;
    this.log.warn('The data folder can be written again.');
    this.live.publish({ type: 'storage' });
  }
}
