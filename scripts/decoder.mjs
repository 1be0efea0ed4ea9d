/** The program of the threads that decode, as one file. */
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

export const bundle = outfile =>
  build({
    entryPoints: [path.join(root, 'packages/server/src/decoding/worker.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    alias: workspaces,
    plugins: [core],
    tsconfig: path.join(root, 'tsconfig.json'),
    logLevel: 'warning',
  });
