import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { defineConfig } from '@playwright/test';
import { demo, fresh, lane } from './addresses';

const root = path.resolve(import.meta.dirname, '..');
// Made once: the processes that run the tests find what the servers keep there.
process.env.GRAMMATA_E2E ??= mkdtempSync(path.join(tmpdir(), 'grammata-e2e-'));
const folder = (name: string) => path.join(process.env.GRAMMATA_E2E!, name);
const browserArgs = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Stories of the second of two runs side by side, together about as long as the others; both are run where neither is named. */
const second = ['compare', 'correcting', 'forms', 'places', 'states'].map(name => `${name}.spec.ts`);
const lanes = {
  '0': { testIgnore: second },
  '1': { testMatch: second },
}[process.env.GRAMMATA_E2E_LANE ?? ''];

export default defineConfig({
  testDir: '.',
  ...lanes,
  outputDir: path.join(root, 'test-results', String(lane)),
  workers: 1,
  // Waits, not pauses: on a busy machine things take their time.
  timeout: 180_000,
  expect: { timeout: 45_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: demo.url,
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: browserArgs },
    permissions: ['clipboard-read', 'clipboard-write'],
    contextOptions: { reducedMotion: 'reduce' },
    screenshot: 'only-on-failure',
  },
  webServer: [
    {
      command: `node ${path.join(root, 'dist/demo.mjs')}`,
      url: `${demo.url}/api/session`,
      env: {
        GRAMMATA_ROOT: root,
        GRAMMATA_DATA: folder('demo'),
        GRAMMATA_PORT: String(demo.port),
        GRAMMATA_PRACTICE_PORT: String(demo.practicePort),
      },
    },
    {
      command: `node ${path.join(root, 'dist/server.mjs')}`,
      url: `${fresh.url}/api/session`,
      env: { GRAMMATA_ROOT: root, GRAMMATA_DATA: folder('fresh'), GRAMMATA_PORT: String(fresh.port) },
    },
  ],
});
