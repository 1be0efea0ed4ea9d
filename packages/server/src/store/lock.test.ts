import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FolderInUse, lockFolder } from './lock';

let folder: string;
beforeEach(() => (folder = mkdtempSync(path.join(tmpdir(), 'grammata-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

test('a folder is held until it is let go of', () => {
  const lock = lockFolder(folder);
  expect(() => lockFolder(folder)).toThrow(FolderInUse);
  lock.release();
  lockFolder(folder).release();
});

test('a process that is killed holds nothing', async () => {
  const program = `
    const Libsql = require(${JSON.stringify(require.resolve('libsql'))});
    new Libsql(${JSON.stringify(path.join(folder, 'lock'))}).exec('BEGIN EXCLUSIVE');
    console.log('held');
    setInterval(() => undefined, 1000);`;
  const other = spawn(process.execPath, ['-e', program], { stdio: ['ignore', 'pipe', 'inherit'] });
  await once(other.stdout, 'data');
  expect(() => lockFolder(folder)).toThrow('Another Grammata works on');
  other.kill('SIGKILL');
  await once(other, 'exit');
  lockFolder(folder).release();
});
