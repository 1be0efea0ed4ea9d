/** Installs the packages when they are missing or the lock file changed since. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import path from 'node:path';
import { root } from './root.mjs';

export function ensureInstalled() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) stopWith(`Grammata needs Node.js 20 or newer; this is ${process.version}.`);
  const lock = createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');
  const mark = path.join(root, 'node_modules/.grammata-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  console.log('Installing packages…');
  const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    shell: process.platform === 'win32',
  });
  if (status !== 0) stopWith('The packages could not be installed; npm says why above.');
  writeFileSync(mark, lock);
}

function stopWith(message) {
  console.error(`\n  ${message}\n`);
  process.exit(2);
}
