/**
 * fast-check for the unit tests, drawing the same cases in every run: a test that also counts how often it saw
 * each side of its property must not fail by chance. `GRAMMATA_SEED=17 npx jest` draws others.
 */
import fc from '../node_modules/fast-check/lib/cjs/fast-check.js';

fc.configureGlobal({ seed: Number(process.env.GRAMMATA_SEED ?? 4) });
export * from '../node_modules/fast-check/lib/cjs/fast-check.js';
export default fc;
