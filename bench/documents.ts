import { readFileSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { request } from 'undici';
import { startBuilt } from './built';

export interface DocumentFigures {
  /** ms until the document is read and kept, and the longest that another request waited meanwhile. */
  read: number;
  stall: number;
  /** Bytes of the list of targets. */
  list: number;
  operations: number;
  /** ms until the target's page, and the picker of operations, are there; the middle of several. */
  page: number;
  picker: number;
}

const LOOKS = 7;
const middle = (all: number[]) => all.toSorted((a, b) => a - b)[Math.floor(all.length / 2)]!;
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const started = performance.now();
  await work();
  return performance.now() - started;
};

/** Takes on a target by a document of 14 MB with some 700 operations: the largest public one in the registry (@octokit/openapi). */
export async function documentFigures(executablePath: string): Promise<DocumentFigures> {
  const file = path.resolve('node_modules/@octokit/openapi/generated/api.github.com.deref.json');
  const document = readFileSync(file, 'utf8');
  const built = await startBuilt();
  const browser = await chromium.launch({ executablePath });
  try {
    let isReading = true;
    let stall = 0;
    const others = (async () => {
      while (isReading) stall = Math.max(stall, await timed(() => built.call('GET', '/things')));
    })();
    let target: { id: string; operations: unknown[] } | null = null;
    const read = await timed(async () => {
      target = await built.call('POST', '/targets', {
        name: 'Large',
        baseUrl: 'http://127.0.0.1:9',
        reads: 'openapi',
        discoveryPath: '/',
        document,
      });
    });
    isReading = false;
    await others;
    const { operations } = target!;
    const list = JSON.stringify(await built.call('GET', '/targets')).length;
    const intake = await built.call<{ address: string }>('POST', '/intakes', { name: 'Bench' });
    // A route is begun from a form: one has to be known.
    await (await request(`${built.url}${new URL(intake.address).pathname}?site=AB-07&ph=7`)).body.dump();
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.context().addCookies([built.cookie()]);
    // The interface itself is loaded once before.
    await page.goto(`${built.url}/targets`);
    const pages: number[] = [];
    for (let look = 0; look < LOOKS; look++) {
      await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Targets' }).click();
      const link = page.getByRole('link', { name: /^Large/ });
      await link.waitFor();
      pages.push(
        await timed(async () => {
          await link.click();
          await page.getByRole('searchbox', { name: /^Find among/ }).waitFor();
        }),
      );
    }
    const pickers: number[] = [];
    for (let look = 0; look < LOOKS; look++) {
      await page.goto(`${built.url}/routes?new`);
      const box = page.getByRole('combobox', { name: 'To the target' });
      await box.waitFor();
      pickers.push(
        await timed(async () => {
          await box.click();
          await page.getByRole('option').first().waitFor();
        }),
      );
    }
    return { read, stall, list, operations: operations.length, page: middle(pages), picker: middle(pickers) };
  } finally {
    await browser.close();
    await built.stop();
  }
}
