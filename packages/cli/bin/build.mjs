/** Bundles the command line into dist/, so that it starts fast and needs no build step of the user's. */
import { build } from 'esbuild';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import { bundle, packages } from './staleness.mjs';

export async function buildBundle() {
  await rm(path.dirname(bundle), { recursive: true, force: true });
  await build({
    entryPoints: { grammata: path.join(packages, 'cli/src/main.ts') },
    outdir: path.dirname(bundle),
    outExtension: { '.js': '.mjs' },
    splitting: true,
    // Half the bytes to read at every start.
    minify: true,
    mainFields: ['module', 'main'],
    // Its build for browsers: the other one wants a worker, and a name that the banner has taken.
    alias: { fflate: 'fflate/browser' },
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
