/** Installs the packages when they are missing or the lock file changed since. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
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
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock && isComplete()) return;
  console.log('Installing packages…');
  const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    shell: process.platform === 'win32',
  });
  if (status !== 0) stopWith('The packages could not be installed; npm says why above.');
  writeFileSync(mark, lock);
}

/** Whether every package that a part names is there: an install may have been broken off, or cleared in part. */
function isComplete() {
  const folders = [root, ...['packages', '.'].flatMap(each => workspacesIn(path.join(root, each)))];
  return folders.every(folder => {
    const { dependencies = {}, devDependencies = {} } = JSON.parse(
      readFileSync(path.join(folder, 'package.json'), 'utf8'),
    );
    return Object.keys({ ...dependencies, ...devDependencies }).every(name =>
      [folder, root].some(at => existsSync(path.join(at, 'node_modules', name, 'package.json'))),
    );
  });
}

/** Folders in a folder that are packages of their own. */
const workspacesIn = folder =>
  readdirSync(folder, { withFileTypes: true })
    .filter(each => each.isDirectory() && !each.name.startsWith('.') && each.name !== 'node_modules')
    .map(each => path.join(folder, each.name))
    .filter(each => existsSync(path.join(each, 'package.json')));

function stopWith(message) {
  console.error(`\n  ${message}\n`);
  process.exit(2);
}
