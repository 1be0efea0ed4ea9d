import { closeSync, fsyncSync, openSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';

/** Writes all of a chunk: the system may take only a part of it at a time (write(2)), and says so. */
export async function writeAll(handle: Pick<FileHandle, 'write'>, chunk: Uint8Array): Promise<void> {
  for (let at = 0; at < chunk.length;) {
    const { bytesWritten } = await handle.write(chunk, at, chunk.length - at);
    if (bytesWritten <= 0) throw Object.assign(new Error('Nothing more can be written.'), { code: 'ENOSPC' });
    at += bytesWritten;
  }
}

/** Makes the content of a file last (fsync(2)). */
export async function syncFile(file: string): Promise<void> {
  const handle = await open(file, 'r+');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Makes the names in a folder last: a file that was written through may still be missing from its folder (fsync(2)). */
export function syncFolder(folder: string): void {
  const descriptor = openSync(folder, 'r');
  try {
    fsyncSync(descriptor);
  } finally {
    closeSync(descriptor);
  }
}
