import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startYard } from '@grammata/practice';

/** The practice yard in a process of its own; says over its channel where its register is. */
const folder = mkdtempSync(path.join(tmpdir(), 'grammata-yard-'));
const { register } = await startYard({ host: '127.0.0.1', port: 0, dataDir: folder });
process.send!(register);
process.on('disconnect', () => {
  rmSync(folder, { recursive: true, force: true });
  process.exit();
});
