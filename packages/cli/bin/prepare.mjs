/** Run by npm after an install. */
import { buildBundle } from './build.mjs';

await buildBundle();
