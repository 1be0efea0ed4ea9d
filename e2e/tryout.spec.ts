import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, removeSecondRoutes, secondRoute } from './people';

// A route is tried out before it is live; and a workspace is taken away, checked, edited and brought back.

test.afterEach(({ page }) => removeSecondRoutes(page));

const parts = (page: Page) => page.getByRole('navigation', { name: 'Parts of the route' });

test('a request at a time, what people try by hand in one batch, and a sample sent as its builder does', async ({
  page,
}) => {
  const { id } = await secondRoute(page, 'A tried way');
  await page.goto(`/routes/${id}`);
  await parts(page).getByRole('link', { name: 'Test' }).press('Enter');
  await page.getByRole('button', { name: 'Show first request' }).press('Enter');
  const next = page.getByRole('region', { name: 'Next request', exact: true });
  await expect(next).toContainText('POST');
  await expect(page.getByText('Accepted with 201.')).toHaveCount(0);
  await expectAccessible(page);
  await next.getByRole('button', { name: 'Send this request' }).press('Enter');
  await expect(page.getByText('Accepted with 201.')).toBeVisible();
  await expect(page.getByText('Done: no more requests.')).toBeVisible();

  await page.getByRole('radio', { name: 'Several samples' }).press('Enter');
  await page.getByRole('button', { name: 'Clear selection' }).click();
  await expect(page.getByRole('button', { name: 'Test', exact: true })).toBeDisabled();
  for (const name of [/^Unchanged/, /^Two options/, /^All options/]) await page.getByRole('checkbox', { name }).check();
  await page.getByRole('button', { name: 'Test 3' }).press('Enter');
  // Where it really goes is said first.
  await expect(page.getByText(/No test address: this sends real data to Register/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Send', exact: true }).press('Enter');
  const report = page.getByRole('region', { name: 'Report' });
  await expect(report.getByRole('listitem')).toHaveCount(3);
  await expect(report.getByRole('listitem', { name: 'Unchanged' })).toContainText('1 created.');
  await expect(report.getByRole('listitem', { name: 'All options' })).toContainText(/takes \d+ characters/);
  await expect(report.getByRole('heading')).toContainText('1 of 3 samples failed');
  await report.getByRole('listitem', { name: 'Two options' }).getByRole('button', { name: '1 request' }).click();
  await expect(report).toContainText('POST /register');
  await expectAccessible(page);

  await page.getByRole('radio', { name: 'End to end' }).press('Enter');
  await expect(page.getByText(/Delivered as real data by the live routes/)).toBeVisible();
  await page.getByRole('radio', { name: /^Same ID/ }).check();
  await page.getByRole('button', { name: 'Send to the intake' }).press('Enter');
  await expect(page.getByText(/Response of the intake: 202/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Open intake' }).click();
  // It is known to be the same as one that came before.
  await expect(page.getByRole('main')).toContainText(/the same|came before|again/);
});

const grammata = (...args: string[]): Promise<{ code: number; out: string }> =>
  new Promise(resolve =>
    execFile(
      process.execPath,
      [path.resolve(import.meta.dirname, '../packages/cli/bin/grammata.mjs'), ...args],
      (error, out) => resolve({ code: error ? Number(error.code) : 0, out }),
    ),
  );

test('a folder is exported, refused by its proofs when it is edited, mended, and imported with its difference shown first', async ({
  page,
}) => {
  const { id } = await secondRoute(page, 'A kept way');
  const { samples } = (await (await page.request.post(`/api/routes/${id}/proofs/propose`)).json()) as {
    samples: { sampleId: string }[];
  };
  await page.request.post(`/api/routes/${id}/proofs`, {
    data: { sampleIds: samples.slice(0, 4).map(each => each.sampleId) },
  });
  const folder = await mkdtemp(path.join(tmpdir(), 'grammata-workspace-'));
  const file = path.join(folder, 'routes/a-kept-way.json');
  interface RouteFile {
    format: number;
    terms: { hours: number };
    calls: { lines: { to: string; source: { field: string } | null }[] }[];
  }
  const edit = async (change: (route: RouteFile) => void) => {
    const route = JSON.parse(await readFile(file, 'utf8')) as RouteFile;
    change(route);
    await writeFile(file, JSON.stringify(route));
  };
  const choose = () => page.getByLabel('Choose a folder…').setInputFiles(folder);
  const difference = page.getByRole('region', { name: 'Changes' });
  try {
    expect((await grammata('export', folder, '--server', demo.url)).code).toBe(0);
    const proof = () => grammata('proof', '--workspace', folder, '--route', 'A kept way');
    expect((await proof()).code).toBe(0);

    await page.goto('/routes');
    await page.getByRole('link', { name: 'Export or import' }).press('Enter');
    await choose();
    await expect(difference).toContainText('No changes.');

    // A line that gives different is refused in the pipeline, and told before it is brought back.
    const before = await readFile(file, 'utf8');
    await edit(route => {
      const { lines } = route.calls[0]!;
      lines.find(each => each.to === 'observer')!.source = lines.find(each => each.to === 'site')!.source;
    });
    const refused = await proof();
    expect(refused.code).toBe(1);
    expect(refused.out).toContain('/values/observer');
    await choose();
    await expect(difference).toContainText('1 file would change.');
    await expect(difference).toContainText('lines › observer › source › field');
    await expect(difference).toContainText('Proofs that would differ');
    await expectAccessible(page);
    await difference.getByRole('button', { name: 'Cancel' }).press('Enter');
    await expect(difference).toHaveCount(0);

    await writeFile(file, before);
    await edit(route => (route.terms.hours = 5));
    expect((await proof()).code).toBe(0);
    await choose();
    await expect(difference).toContainText('terms › hours');
    await expect(difference).not.toContainText('Proofs that would differ');
    await difference.getByRole('button', { name: 'Import all' }).press('Enter');
    await expect(page.getByText('1 file was imported.')).toBeVisible();
    await page.goto(`/routes/${id}`);
    await expect(parts(page)).toContainText('retries for 5 hours');

    // What is no workspace says what is wrong.
    await edit(route => (route.format = 7));
    await page.goto('/workspace');
    await choose();
    await expect(difference).toContainText('It can’t be imported.');
    await expect(difference).toContainText('routes/a-kept-way.json');
  } finally {
    await rm(folder, { recursive: true });
  }
});
