/** `npm run demo`: installs what is missing, builds, and starts Grammata with demo data and the practice yard; `--empty` without data, `--fresh` with new. */
import { spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import path from 'node:path';
import { ensureInstalled } from './install.mjs';
import { root } from './root.mjs';

const isEmpty = process.argv.includes('--empty');
const data = path.resolve(process.env.GRAMMATA_DATA ?? path.join(root, isEmpty ? 'data/empty' : 'data/demo'));
try {
  ensureInstalled();
  await (await import('./build.mjs')).build();
  if (process.argv.includes('--fresh')) rmSync(data, { recursive: true, force: true });
} catch (error) {
  if (!['EACCES', 'EROFS', 'EPERM'].includes(error.code)) throw error;
  console.error(
    `\n  ${error.path ?? root} can't be written (${error.code}). Run this in a folder of your own, or set GRAMMATA_DATA to one.\n`,
  );
  process.exit(2);
}
const child = spawn(process.execPath, ['--enable-source-maps', path.join(root, 'dist/demo.mjs')], {
  stdio: 'inherit',
  env: { ...process.env, GRAMMATA_ROOT: root, GRAMMATA_DATA: data, ...(isEmpty && { GRAMMATA_EMPTY: 'on' }) },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('exit', code => process.exit(code ?? 0));
