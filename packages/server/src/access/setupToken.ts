import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { timingSafeEqual } from 'node:crypto';
import path from 'node:path';
import { randomPart } from '../ids';

/**
 * What whoever makes the owner's account has to know: it is printed on the console and stands in a file of the data folder,
 * so that only someone who may look there can claim a fresh server. It goes once the account is made.
 */
export class SetupToken {
  readonly file: string;

  constructor(dataDir: string) {
    this.file = path.join(dataDir, 'setup-token');
  }

  /** The token; made when it is first asked for, the same after a restart. */
  value(): string {
    if (!existsSync(this.file)) writeFileSync(this.file, [4, 4, 4].map(randomPart).join('-'), { mode: 0o600 });
    return readFileSync(this.file, 'utf8').trim();
  }

  fits(given: string): boolean {
    const [a, b] = [Buffer.from(given.trim().toLowerCase()), Buffer.from(this.value())];
    return a.length === b.length && timingSafeEqual(a, b);
  }

  end(): void {
    rmSync(this.file, { force: true });
  }
}
