import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import promises from './promises.json';
import { root } from './server';

export interface PromiseFigures {
  promise: string;
  passed: number;
  failed: string[];
}

/** The tests behind each promise, attacks among them, counted by promise. */
export function checkPromises(): PromiseFigures[] {
  const report = path.join(mkdtempSync(path.join(tmpdir(), 'grammata-promises-')), 'report.json');
  const files = [...new Set(Object.values(promises).flat())];
  const jest = path.join(root, 'node_modules/.bin/jest');
  spawnSync(jest, ['--forceExit', '--json', `--outputFile=${report}`, ...files], { cwd: root, stdio: 'ignore' });
  const { testResults } = JSON.parse(readFileSync(report, 'utf8')) as {
    testResults: { name: string; assertionResults: { fullName: string; status: string }[] }[];
  };
  const byFile = new Map(testResults.map(each => [path.relative(root, each.name), each.assertionResults]));
  return Object.entries(promises).map(([promise, of]) => {
    // A file that ran no test keeps no promise.
    const all = of.flatMap(file => byFile.get(file) ?? [{ fullName: file, status: 'missing' }]);
    return {
      promise,
      passed: all.filter(each => each.status === 'passed').length,
      failed: all.filter(each => each.status !== 'passed').map(each => each.fullName),
    };
  });
}
