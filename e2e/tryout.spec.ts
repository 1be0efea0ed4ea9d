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
  await parts(page).getByRole('link', { name: 'Trying out' }).press('Enter');
  await page.getByRole('button', { name: 'Show the first request' }).press('Enter');
  const next = page.getByRole('region', { name: 'The next request', exact: true });
  await expect(next).toContainText('POST');
  await expect(page.getByText('Accepted with 201.')).toHaveCount(0);
  await expectAccessible(page);
  await next.getByRole('button', { name: 'Make this request' }).press('Enter');
  await expect(page.getByText('Accepted with 201.')).toBeVisible();
  await expect(page.getByText('That was all: nothing is left to be made.')).toBeVisible();

  await page.getByRole('radio', { name: 'Many samples at once' }).press('Enter');
  await page.getByRole('button', { name: 'Pick none' }).click();
  await expect(page.getByRole('button', { name: 'Try them' })).toBeDisabled();
  for (const name of [/^As it was recorded/, /^Two options/, /^All options/])
    await page.getByRole('checkbox', { name }).check();
  await page.getByRole('button', { name: 'Try these 3' }).press('Enter');
  // Where it really goes is said first.
  await expect(page.getByText(/There is no address for tests: it is really sent, to Register/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Really send them' }).press('Enter');
  const report = page.getByRole('region', { name: 'Report' });
  await expect(report.getByRole('listitem')).toHaveCount(3);
  await expect(report.getByRole('listitem', { name: 'As it was recorded' })).toContainText('1 made.');
  await expect(report.getByRole('listitem', { name: 'All options' })).toContainText(/takes \d+ characters/);
  await expect(report.getByRole('heading')).toContainText('1 sample of 3 did not go as');
  await report.getByRole('listitem', { name: 'Two options' }).getByRole('button', { name: '1 request' }).click();
  await expect(report).toContainText('POST /register');
  await expectAccessible(page);

  await page.getByRole('radio', { name: 'The whole way' }).press('Enter');
  await expect(page.getByText(/It is really delivered by what is live/)).toBeVisible();
  await page.getByRole('radio', { name: /^Exactly as it came/ }).check();
  await page.getByRole('button', { name: 'Send it to the intake' }).press('Enter');
  await expect(page.getByText(/The intake answered 202/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'See it arrive' }).click();
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
  const difference = page.getByRole('region', { name: 'What it would change' });
  try {
    expect((await grammata('export', folder, '--server', demo.url)).code).toBe(0);
    const proof = () => grammata('proof', '--workspace', folder, '--route', 'A kept way');
    expect((await proof()).code).toBe(0);

    await page.goto('/routes');
    await page.getByRole('link', { name: 'Workspace as files' }).press('Enter');
    await choose();
    await expect(difference).toContainText('Nothing: all of it is here already.');

    // A line that gives something else is refused in the pipeline, and told before it is brought back.
    const before = await readFile(file, 'utf8');
    await edit(route => {
      const { lines } = route.calls[0]!;
      lines.find(each => each.to === 'observer')!.source = lines.find(each => each.to === 'site')!.source;
    });
    const refused = await proof();
    expect(refused.code).toBe(1);
    expect(refused.out).toContain('/values/observer');
    await choose();
    await expect(difference).toContainText('1 file would be otherwise.');
    await expect(difference).toContainText('lines › observer › source › field');
    await expect(difference).toContainText('Proofs that would differ from what was approved');
    await expectAccessible(page);
    await difference.getByRole('button', { name: 'Not now' }).press('Enter');
    await expect(difference).toHaveCount(0);

    await writeFile(file, before);
    await edit(route => (route.terms.hours = 5));
    expect((await proof()).code).toBe(0);
    await choose();
    await expect(difference).toContainText('terms › hours');
    await expect(difference).not.toContainText('Proofs that would differ');
    await difference.getByRole('button', { name: 'Take all of it over' }).press('Enter');
    await expect(page.getByText('1 file was taken over.')).toBeVisible();
    await page.goto(`/routes/${id}`);
    await expect(parts(page)).toContainText('tried for 5 hours');

    // What is no workspace says what is wrong.
    await edit(route => (route.format = 7));
    await page.goto('/workspace');
    await choose();
    await expect(difference).toContainText('It can’t be taken over as it is.');
    await expect(difference).toContainText('routes/a-kept-way.json');
  } finally {
    await rm(folder, { recursive: true });
  }
});
