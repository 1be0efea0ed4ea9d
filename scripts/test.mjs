/** `npm test`: installs what is missing, then lint, types, unit and end-to-end tests. Ends with one line that counts them all. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ensureChromium } from './chromium.mjs';
import { ensureInstalled } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
const reports = mkdtempSync(path.join(tmpdir(), 'grammata-test-'));
const bin = name => path.join(root, 'node_modules/.bin', name);
/** Runs a command; what it says is shown as it comes, or all of it at its end. Resolves to whether it went well. */
const run = (title, command, args, { env = {}, isQuiet = false } = {}) =>
  new Promise(resolve => {
    if (!isQuiet) console.log(`\n— ${title}`);
    const child = spawn(command, args, {
      cwd: root,
      stdio: isQuiet ? ['ignore', 'pipe', 'pipe'] : 'inherit',
      env: { ...process.env, ...env },
    });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', chunk => said.push(chunk));
    child.on('error', () => resolve(false));
    child.on('close', code => {
      if (isQuiet) console.log(`\n— ${title}\n${Buffer.concat(said)}`);
      resolve(code === 0);
    });
  });
/** What a runner counted. One that ended badly without a failed test, or ran none, counts as a failure of its own. */
const report = (file, ok, read) => {
  try {
    const counted = read(JSON.parse(readFileSync(path.join(reports, file), 'utf8')));
    const fellOver = counted.failed === 0 && (!ok || counted.passed === 0);
    return fellOver ? { ...counted, failed: 1 } : counted;
  } catch {
    return { passed: 0, failed: 1 }; // it broke before it could say anything
  }
};
const one = ok => ({ passed: ok ? 1 : 0, failed: ok ? 0 : 1 });

// Both cores are used: what only computes runs beside what mostly waits.
const [lint, types] = await Promise.all([
  run('lint', bin('eslint'), ['.', '--max-warnings', '0'], { isQuiet: true }),
  run('types', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json'], { isQuiet: true }),
]);

async function unit() {
  const file = `--outputFile=${path.join(reports, 'unit.json')}`;
  // Building for people sets this process up for production: what is tested is what is developed.
  const env = { NODE_ENV: 'test' };
  // A server that a test forgot to stop must not hold up the whole run.
  const ok = await run('unit', bin('jest'), ['--forceExit', '--maxWorkers=1', '--json', file], { isQuiet: true, env });
  return report('unit.json', ok, ({ numPassedTests, numFailedTests, numFailedTestSuites }) => ({
    passed: numPassedTests,
    failed: Math.max(numFailedTests, numFailedTestSuites),
  }));
}

/** Finds Chromium and builds what the stories run against; gives back where Chromium is, or null. */
async function prepare() {
  const chromium = ensureChromium();
  if (chromium) await (await import('./build.mjs')).build();
  else console.error('\nThere is no Chromium, and it could not be installed. Install it, or set CHROMIUM to its path.');
  return chromium;
}

async function endToEnd(chromium, lane) {
  if (!chromium) return { passed: 0, failed: 1 };
  const file = `e2e-${lane}.json`;
  const env = {
    CHROMIUM: chromium,
    GRAMMATA_LANE: String(lane),
    PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(reports, file),
  };
  const ok = await run(`end to end, lane ${lane}`, bin('playwright'), ['test', '-c', 'e2e/playwright.config.ts'], {
    env,
    isQuiet: lane === 2,
  });
  return report(file, ok, ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky }));
}

const chromium = await prepare();
const lanes = [
  endToEnd(chromium, 1),
  // The second begins where the unit tests end: each core has one thing to do at a time.
  unit().then(async counted => [counted, await endToEnd(chromium, 2)]),
];
const results = [one(lint), one(types), ...(await Promise.all(lanes)).flat()];
rmSync(reports, { recursive: true, force: true });

const sum = name => results.reduce((total, result) => total + result[name], 0);
console.log(`\n${sum('passed')} passed, ${sum('failed')} failed`);
process.exit(sum('failed') > 0 || sum('passed') === 0 ? 1 : 0);
