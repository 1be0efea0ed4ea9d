/** Before the unit tests: builds the programs of the threads, which can't run TypeScript themselves. */
import path from 'node:path';
import { root } from './root.mjs';

export default async function setup() {
  const { bundleThreads } = await import('./threads.mjs');
  const folder = path.join(root, 'node_modules/.cache/grammata');
  await bundleThreads(folder);
  process.env.GRAMMATA_DECODER = path.join(folder, 'decodeWorker.cjs');
  process.env.GRAMMATA_LEDGER = path.join(folder, 'ledgerWorker.cjs');
}
