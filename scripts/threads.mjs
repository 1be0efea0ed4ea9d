/** The programs of the threads, a file each: those that decode, and the ledger's. */
import { createRequire } from 'node:module';
import path from 'node:path';
import { build } from 'esbuild';
import { root } from './root.mjs';

/** Lets workspaces be found by their names. */
export const workspaces = Object.fromEntries(
  ['contract', 'server', 'practice'].map(name => [
    `@grammata/${name}`,
    path.join(root, `packages/${name}/src/index.ts`),
  ]),
);

/** Each folder of the core has a door of its own. */
export const core = {
  name: 'core',
  setup: build =>
    build.onResolve({ filter: /^@grammata\/core\// }, ({ path: name }) => ({
      path: path.join(root, 'packages/core/src', name.slice('@grammata/core/'.length), 'index.ts'),
    })),
};

/** Data of packages is taken in: Node.js would want every such import marked. */
export const json = {
  name: 'json',
  setup: build =>
    build.onResolve({ filter: /\.json$/ }, ({ path: name, resolveDir }) => ({
      path: createRequire(path.join(resolveDir, 'x.js')).resolve(name),
    })),
};

/** Where each thread begins. */
const threads = {
  decodeWorker: path.join(root, 'packages/server/src/decoding/worker.ts'),
  ledgerWorker: path.join(root, 'packages/server/src/ledger/worker.ts'),
};

/**
 * A file each, with all its packages but what is machine code: a thread begins several times as fast. Not as ES modules: a pool requires
 * its program, and Node.js 20 aborts the whole process where a thread is ended while it requires an ES module.
 */
export const bundleThreads = outdir =>
  build({
    entryPoints: threads,
    outdir,
    outExtension: { '.js': '.cjs' },
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    mainFields: ['module', 'main'],
    external: ['better-sqlite3'],
    alias: workspaces,
    plugins: [core, json],
    minifySyntax: true,
    minifyWhitespace: true,
    tsconfig: path.join(root, 'tsconfig.json'),
    logLevel: 'warning',
  });
