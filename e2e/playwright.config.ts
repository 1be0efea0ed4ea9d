import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { defineConfig } from '@playwright/test';
import { demo, fresh, lane, secondLane } from './addresses';

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

const filesOfSecond = secondLane.map(name => `${name}.spec.ts`);

export default defineConfig({
  testDir: '.',
  ...(lane === 1 && { testIgnore: filesOfSecond }),
  ...(lane === 2 && { testMatch: filesOfSecond }),
  outputDir: path.join(root, 'test-results', String(lane)),
  workers: 1,
  // Waits, not pauses: on a busy machine things take their time.
  timeout: 300_000,
  expect: { timeout: 90_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: demo.url,
    locale: 'en-GB',
    timezoneId: 'Europe/London',
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
      env: {
        GRAMMATA_ROOT: root,
        GRAMMATA_DATA: folder('fresh'),
        GRAMMATA_PORT: String(fresh.port),
        GRAMMATA_ALLOW_PRIVATE: new URL(demo.practice).host,
      },
    },
  ],
});
