import path from 'node:path';
import Libsql from 'libsql';

/** ms that a predecessor is given to end. */
const PATIENCE = 3000;

/** The data folder is in use by another process. */
export class FolderInUse extends Error {}

/**
 * Holds a data folder for this process: two that deliver from one database would send twice. The lock is one of the
 * operating system on a file of its own, so that it goes with the process however that ends.
 * Throws FolderInUse when another holds it.
 */
export function lockFolder(folder: string): { release(): void } {
  const file = new Libsql(path.join(folder, 'lock'));
  try {
    file.pragma(`busy_timeout = ${PATIENCE}`);
    file.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    file.close();
    if (!/BUSY|LOCKED/.test(String((error as { code?: unknown }).code))) throw error;
    throw new FolderInUse(`Another Grammata works on ${folder}.`);
  }
  return {
    release() {
      file.exec('ROLLBACK');
      file.close();
    },
  };
}
