/** Tells whether the bundle is older than what it is made of. Kept apart so that a fresh bundle starts without loading the bundler. */
import { readdir, stat } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import path from 'node:path';

const here = path.dirname(fileURLToPath(import.meta.url));
export const packages = path.resolve(here, '../..');
export const bundle = path.resolve(here, '../dist/grammata.mjs');

const modifiedAt = file =>
  stat(file).then(
    s => s.mtimeMs,
    () => 0,
  );

/** True when the bundle is missing or a source file is newer; false where the sources are not shipped. */
export async function bundleIsStale() {
  const made = await modifiedAt(bundle);
  for (const folder of ['core/src', 'cli/src']) {
    const root = path.join(packages, folder);
    const names = await readdir(root, { recursive: true }).catch(() => []);
    const stamps = await Promise.all(names.map(name => modifiedAt(path.join(root, name))));
    if (Math.max(0, ...stamps) > made) return true;
  }
  return false;
}
