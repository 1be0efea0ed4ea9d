import { createHmac, timingSafeEqual } from 'node:crypto';
import { createReadStream, existsSync, linkSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { safeFileName } from '@grammata/core/request';
import type { Request, Response } from 'express';
import { now } from '../clock';
import { syncFile, syncFolder } from '../storage';
import type { Copies as CopyTable } from '../store';
import type { Staged } from './staging';

/** Keeps copies of files and hands out links to them that are signed and end. */
export class Copies {
  readonly #folder: string;

  constructor(
    private readonly table: CopyTable,
    private readonly publicUrl: string,
    private readonly key: Buffer,
    dataDir: string,
  ) {
    this.#folder = path.join(dataDir, 'copies');
    mkdirSync(this.#folder, { recursive: true });
  }

  /**
   * Keeps a staged file as a copy, durably, and gives the link to it; the staged one stays its owner's to remove. The same `purpose` with
   * the same content has the same link, so that a request that is tried again is the same request. `days` is how long it is good; it goes
   * with its submission before that.
   */
  async keep(staged: Staged, name: string, submissionId: string, purpose: string, days: number): Promise<string> {
    const { type, size, digest } = staged;
    const id = createHmac('sha256', this.key).update(`${purpose}\n${digest}`).digest('hex').slice(0, 32);
    const file = path.join(this.#folder, id);
    const before = this.table.byId(id);
    const isKept = before !== undefined && before.expiresAt > now() && existsSync(file);
    const expiresAt = isKept ? before.expiresAt : now() + days * 86_400_000;
    // On disk, content and name, before anybody is given its link. What is staged may go along with the request as well.
    if (!isKept) {
      await syncFile(staged.path);
      rmSync(file, { force: true });
      linkSync(staged.path, file);
      syncFolder(this.#folder);
      this.table.put({ id, submissionId, name: safeFileName(name), type, size, digest, expiresAt });
    }
    const place = `/copies/${id}/${encodeURIComponent(safeFileName(isKept ? before.name : name))}`;
    return `${this.publicUrl}${place}?until=${expiresAt}&sig=${this.#signature(id, expiresAt)}`;
  }

  /** Serves a copy to whoever has its link. */
  serve = (request: Request<{ id: string }>, response: Response): void => {
    const { id } = request.params;
    const [until, signature] = [
      Number(request.query.until),
      typeof request.query.sig === 'string' ? request.query.sig : '',
    ];
    const row = this.table.byId(id);
    const file = path.join(this.#folder, id);
    const isSigned = same(signature, this.#signature(id, until));
    const refuse = (status: number, words: string) => void response.status(status).type('text/plain').send(words);
    if (!isSigned) return refuse(403, 'This link is incomplete or was changed.');
    if (!row || until < now() || !existsSync(file)) return refuse(410, 'This link has expired.');
    response
      .set({
        'content-type': row.type,
        'content-length': String(row.size),
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(row.name)}`,
        'x-content-type-options': 'nosniff',
        'content-security-policy': "default-src 'none'; sandbox",
        'cache-control': 'private, no-store',
      })
      .status(200);
    // Whoever breaks off, or a file that goes meanwhile, ends this download and nothing else.
    pipeline(createReadStream(file), response).catch(() => response.destroy());
  };

  /** Deletes copies whose links have ended, and those whose submission is gone. */
  sweep(): void {
    this.table.removeEnded(now());
    const known = this.table.ids();
    for (const name of readdirSync(this.#folder))
      if (!known.has(name)) rmSync(path.join(this.#folder, name), { force: true });
  }

  #signature(id: string, until: number): string {
    return createHmac('sha256', this.key).update(`${id}.${until}`).digest('base64url');
  }
}

function same(a: string, b: string): boolean {
  const [one, two] = [Buffer.from(a), Buffer.from(b)];
  return one.length === two.length && timingSafeEqual(one, two);
}
