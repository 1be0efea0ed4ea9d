import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, mkdirSync, rmSync } from 'node:fs';
import { open } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { fileTypeFromBuffer } from 'file-type';
import { writeAll } from '../storage';

/** A file on this machine's disk, on its way to a target. */
export interface Staged {
  path: string;
  /** Bytes. */
  size: number;
  /** SHA-256, in hexadecimal. */
  digest: string;
  /** Media type by its first bytes; as stated, or octets, where they do not tell. */
  type: string;
  /** The type that was stated, where its bytes say another; null where they do not. */
  misstated: string | null;
  /** What whoever gave it calls it, where that was said. */
  name?: string | null;
  open(): Readable;
  remove(): void;
}

/** A file is larger than it may be. */
export class TooLarge extends Error {}

/** How many bytes tell a type. */
const TELLING = 4100;

/** Writes a file to disk chunk by chunk, so that its size and checksum are known before it goes on. Throws TooLarge. */
export async function stage(
  folder: string,
  chunks: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  stated: string | null,
  most: number,
): Promise<Staged> {
  mkdirSync(folder, { recursive: true });
  const file = path.join(folder, randomUUID());
  const hash = createHash('sha256');
  let size = 0;
  const beginning: Uint8Array[] = [];
  const handle = await open(file, 'wx');
  try {
    for await (const chunk of chunks) {
      if (size < TELLING) beginning.push(chunk);
      size += chunk.length;
      if (size > most) throw new TooLarge(`It is larger than ${Math.floor(most / 1e6)} MB.`);
      hash.update(chunk);
      await writeAll(handle, chunk);
    }
  } catch (error) {
    rmSync(file, { force: true });
    throw error;
  } finally {
    await handle.close();
  }
  const plain = stated?.split(';')[0]!.trim().toLowerCase() || null;
  const found = await fileTypeFromBuffer(Buffer.concat(beginning).subarray(0, TELLING));
  return {
    path: file,
    size,
    digest: hash.digest('hex'),
    type: found?.mime ?? plain ?? 'application/octet-stream',
    misstated: found && plain !== 'application/octet-stream' && found.mime !== plain ? plain : null,
    open: () => createReadStream(file),
    remove: () => rmSync(file, { force: true }),
  };
}
