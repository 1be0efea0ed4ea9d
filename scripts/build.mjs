/** Builds the server, the demo, the command line and the interface into dist/. Does nothing when all is fresh. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './root.mjs';

const stampFile = path.join(root, 'dist/stamp');
const sources = [
  'packages/core/src',
  'packages/contract/src',
  'packages/server/src',
  'packages/practice/src',
  'packages/web',
  'demo/src',
  'package-lock.json',
  'tsconfig.json',
  'scripts/build.mjs',
  'scripts/threads.mjs',
];

/** A hash over everything the build is made of. */
function stamp() {
  const hash = createHash('sha256');
  const add = file => hash.update(path.relative(root, file)).update('\0').update(readFileSync(file));
  for (const source of sources) {
    const at = path.join(root, source);
    if (!existsSync(at)) continue;
    if (source.includes('.')) add(at);
    else
      for (const entry of readdirSync(at, { recursive: true, withFileTypes: true }).sort((a, b) =>
        a.parentPath + a.name < b.parentPath + b.name ? -1 : 1,
      ))
        if (
          entry.isFile() &&
          !/[\\/](dist|node_modules)([\\/]|$)/.test(entry.parentPath) &&
          !/\.test\.tsx?$/.test(entry.name)
        )
          add(path.join(entry.parentPath, entry.name));
  }
  return hash.digest('hex');
}

/** The version of a package that is found from a folder. */
function versionFrom(folder, name) {
  for (let at = folder; ; at = path.dirname(at)) {
    const file = path.join(at, 'node_modules', name, 'package.json');
    if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8')).version;
    if (at === path.dirname(at)) return null;
  }
}

/** What is built runs from dist/ and finds its packages from there: they must be those that each part was written for. */
function sameFromDist() {
  for (const part of ['packages/core', 'packages/contract', 'packages/server', 'packages/practice', 'demo']) {
    const { dependencies = {} } = JSON.parse(readFileSync(path.join(root, part, 'package.json'), 'utf8'));
    for (const name of Object.keys(dependencies).filter(each => !each.startsWith('@grammata/'))) {
      const [own, fromDist] = [versionFrom(path.join(root, part), name), versionFrom(path.join(root, 'dist'), name)];
      if (own !== fromDist)
        throw new Error(
          `${part} uses ${name} ${own}, the build would find ${fromDist}. Add it to the root's package.json.`,
        );
    }
  }
}

/** Makes the build when it is missing or older than its sources. */
export async function build({ force = false, say = console.log } = {}) {
  const now = stamp();
  const entries = [
    'dist/server.mjs',
    'dist/ledgerWorker.cjs',
    'dist/decodeWorker.cjs',
    'dist/demo.mjs',
    'dist/web/index.html',
  ].map(file => path.join(root, file));
  if (!force && entries.every(existsSync) && existsSync(stampFile) && readFileSync(stampFile, 'utf8') === now) return;
  say('Building…');
  sameFromDist();
  const [{ build: bundle }, vite] = await Promise.all([import('esbuild'), import('vite')]);
  const { bundleThreads, core, json, workspaces } = await import('./threads.mjs');
  // Parts of builds before are of no use to anybody.
  rmSync(path.join(root, 'dist/chunks'), { recursive: true, force: true });
  await bundle({
    entryPoints: {
      server: path.join(root, 'packages/server/src/main.ts'),
      demo: path.join(root, 'demo/src/main.ts'),
    },
    outdir: path.join(root, 'dist'),
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    chunkNames: 'chunks/[name]-[hash]',
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    alias: workspaces,
    plugins: [core, json],
    sourcemap: true,
    tsconfig: path.join(root, 'tsconfig.json'),
    logLevel: 'warning',
  });
  await bundleThreads(path.join(root, 'dist'));
  await vite.build({
    configFile: path.join(root, 'packages/web/vite.config.ts'),
    root: path.join(root, 'packages/web'),
    logLevel: 'warn',
  });
  mkdirSync(path.dirname(stampFile), { recursive: true });
  writeFileSync(stampFile, now);
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  await build({ force: process.argv.includes('--force') });
