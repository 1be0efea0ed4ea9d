/** `npm test`: installs what is missing, then lint, types, unit and end-to-end tests. Ends with one line that counts them all. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ensureChromium } from './chromium.mjs';
import { ensureInstalled } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
const reports = mkdtempSync(path.join(tmpdir(), 'grammata-test-'));
const bin = name => path.join(root, 'node_modules/.bin', name);
const run = (title, command, args, env = {}) => {
  console.log(`\n— ${title}`);
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;
};
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

const results = [
  one(run('lint', bin('eslint'), ['.', '--max-warnings', '0'])),
  one(run('types', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json'])),
];
// A server that a test forgot to stop must not hold up the whole run.
const unit = run('unit', bin('jest'), ['--forceExit', '--json', `--outputFile=${path.join(reports, 'unit.json')}`]);
results.push(
  report('unit.json', unit, ({ numPassedTests, numFailedTests, numFailedTestSuites }) => ({
    passed: numPassedTests,
    failed: Math.max(numFailedTests, numFailedTestSuites),
  })),
);

const chromium = ensureChromium();
if (chromium) {
  await (await import('./build.mjs')).build();
  const endToEnd = run('end to end', bin('playwright'), ['test', '-c', 'e2e/playwright.config.ts'], {
    CHROMIUM: chromium,
    PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(reports, 'e2e.json'),
  });
  results.push(
    report('e2e.json', endToEnd, ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky })),
  );
} else {
  console.error('\nThere is no Chromium, and it could not be installed. Install it, or set CHROMIUM to its path.');
  results.push({ passed: 0, failed: 1 });
}
rmSync(reports, { recursive: true, force: true });

const sum = name => results.reduce((total, result) => total + result[name], 0);
console.log(`\n${sum('passed')} passed, ${sum('failed')} failed`);
process.exit(sum('failed') > 0 || sum('passed') === 0 ? 1 : 0);
