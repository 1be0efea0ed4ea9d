import path from 'node:path';
import { fileURLToPath } from 'node:url';

/** The repository's root folder. */
export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
