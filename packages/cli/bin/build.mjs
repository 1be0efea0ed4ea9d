/** Bundles the command line into dist/, so that it starts fast and needs no build step of the user's. */
import { build } from 'esbuild';
import path from 'node:path';
import { bundle, packages } from './staleness.mjs';

export async function buildBundle() {
  await build({
    entryPoints: [path.join(packages, 'cli/src/main.ts')],
    outfile: bundle,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    minifySyntax: true,
    tsconfig: path.resolve(packages, '../tsconfig.json'),
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
    logLevel: 'error',
  });
}
