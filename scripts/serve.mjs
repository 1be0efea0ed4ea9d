/** `npm start`: installs what is missing, builds, and runs the server for real use, configured by the environment. */
import { spawn } from 'node:child_process';
import path from 'node:path';
import { ensureInstalled } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
await (await import('./build.mjs')).build();
const child = spawn(process.execPath, ['--enable-source-maps', path.join(root, 'dist/server.mjs')], {
  stdio: 'inherit',
  env: { ...process.env, GRAMMATA_ROOT: root },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('exit', code => process.exit(code ?? 0));
