/** Before the unit tests: builds the program of the threads that decode, which can't run TypeScript themselves. */
import path from 'node:path';
import { root } from './root.mjs';

export default async function setup() {
  const { bundle } = await import('./decoder.mjs');
  const outfile = path.join(root, 'node_modules/.cache/grammata/decoder.mjs');
  await bundle(outfile);
  process.env.GRAMMATA_DECODER = outfile;
}
