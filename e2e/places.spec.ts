import { expect, test, type Page } from '@playwright/test';
import type { PaceView } from '@grammata/contract';
import { demo } from './addresses';
import { expectAccessible, settle, part } from './people';

const first = async (page: Page, list: string, name: string) => {
  await page.goto(list);
  await page
    .getByRole('main')
    .getByRole('link', { name: new RegExp(`^${name}`) })
    .click();
};

const places: [string, (page: Page) => Promise<unknown>, string | RegExp][] = [
  ['Desk', page => page.goto('/'), /attention/],
  ['Intakes', page => page.goto('/intakes?new'), 'Intakes'],
  ['an intake', page => first(page, '/intakes', 'Field team forms'), 'Field team forms'],
  ['Routes', page => page.goto('/routes?new'), 'Routes'],
  [
    'Filter',
    async page => {
      await first(page, '/routes', 'Worrying signs');
      await part(page, 'Filter').click();
    },
    'Worrying signs to Follow-ups',
  ],
  ['Mapping', page => first(page, '/routes', 'Worrying signs'), 'Worrying signs to Follow-ups'],
  [
    'an open line and the submissions behind its bar',
    async page => {
      await first(page, '/routes', 'Worrying signs');
      await page.getByRole('button', { name: /^reported_on over all samples/ }).click();
      await page.getByRole('button', { name: /^reported_on(required|\*|$)/ }).click();
    },
    'Worrying signs to Follow-ups',
  ],
  [
    'the threads',
    async page => {
      await first(page, '/routes', 'Worrying signs');
      await page.getByRole('radio', { name: 'Threads' }).click();
      await expect(page.getByText('Dashed: suggestions.')).toBeVisible();
    },
    'Worrying signs to Follow-ups',
  ],
  [
    'the handover sheet',
    async page => {
      await first(page, '/routes', 'Worrying signs');
      await page.getByRole('button', { name: 'More' }).click();
      await page.getByRole('menuitem', { name: 'Handover sheet' }).click();
      await expect(page.getByRole('article', { name: 'Handover sheet' })).toBeVisible();
    },
    'Worrying signs to Follow-ups',
  ],
  [
    'Delivery',
    async page => {
      await first(page, '/routes', 'Worrying signs');
      await part(page, 'Delivery').click();
    },
    'Worrying signs to Follow-ups',
  ],
  ['Targets', page => page.goto('/targets?new'), 'Targets'],
  ['a target', page => first(page, '/targets', 'Register'), 'Register'],
  [
    'an operation that is edited by hand, with a field opened',
    async page => {
      await first(page, '/targets', 'Roster');
      await page.getByRole('link', { name: 'Edit Create a contact' }).click();
      await page.getByRole('button', { name: 'More of email' }).click();
      await page.getByRole('button', { name: 'Send this request' }).click();
    },
    'Create a contact',
  ],
  [
    'proofs that suggested',
    async page => {
      await first(page, '/routes', 'Volunteer sign-up to Roster');
      await part(page, 'Proofs').click();
      await page.getByRole('button', { name: 'Suggest samples to approve' }).click();
      await expect(page.getByRole('region', { name: 'Proposed samples' })).toBeVisible();
    },
    /Volunteer sign-up/,
  ],
  [
    'trying out many samples at once',
    async page => {
      await first(page, '/routes', 'Worrying signs');
      await part(page, 'Test').click();
      await page.getByRole('radio', { name: 'Several samples' }).click();
    },
    'Worrying signs to Follow-ups',
  ],
  ['the workspace as files', page => page.goto('/workspace'), 'Workspace'],
  [
    'Changes, and what if',
    async page => {
      await page.goto('/changes?show=all');
      await page.getByRole('button', { name: 'What if…' }).click();
    },
    'Changes',
  ],
  [
    'two schemas held against each other',
    async page => {
      await page.goto('/changes/compare');
      const schema = (maxLength: number) =>
        JSON.stringify({ type: 'object', properties: { name: { type: 'string', maxLength } } });
      for (const [side, most] of [
        ['Before', 40],
        ['After', 20],
      ] as const)
        await page.getByRole('region', { name: side }).getByLabel('Message or document').fill(schema(most));
      await expect(page.getByText(/Stricter limit for “name”/)).toBeVisible();
    },
    'Compare two',
  ],
  [
    'Desk with long names',
    async page => {
      await page.route('**/api/pace', async route => {
        const response = await route.fetch();
        const pace = (await response.json()) as PaceView;
        const long = <T extends { name: string }>(each: T): T => ({ ...each, name: each.name.repeat(8) });
        await route.fulfill({
          response,
          json: { routes: pace.routes.map(long), intakes: pace.intakes.map(long) },
        });
      });
      await page.goto('/');
      await expect(page.getByRole('region', { name: 'Intakes today' })).toBeVisible();
    },
    /attention/,
  ],
  ['Forms', page => page.goto('/forms'), 'Forms'],
  ['Deliveries', page => page.goto('/deliveries'), 'Deliveries'],
  ['held deliveries', page => page.goto('/deliveries?state=held'), 'Deliveries'],
  ['Practice', page => page.goto('/practice'), 'Practice'],
  ['nothing at the address', page => page.goto('/no/such/place'), 'Page not found.'],
];

for (const [name, go, heading] of places) {
  test(`axe finds nothing on ${name}, in light, in dark, and at 320 px without scrolling sideways`, async ({
    page,
  }) => {
    await go(page);
    await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible();
    await settle(page);
    await expectAccessible(page);
    // The dark differs from the light in its colours alone; a page is put into it as the switch does.
    await page.locator('html').evaluate(html => (html.dataset.theme = 'dark'));
    await expectAccessible(page, ['color-contrast']);
    // What is left of 1280 px at 400 % (WCAG 2.2, 1.4.10): tables and drawings scroll within themselves, pages do not.
    await page.setViewportSize({ width: 320, height: 640 });
    await expect
      .poll(() =>
        page.evaluate(() => {
          const place = document.getElementById('place')!;
          return Math.max(
            place.scrollWidth - place.clientWidth,
            document.documentElement.scrollWidth - window.innerWidth,
          );
        }),
      )
      .toBeLessThanOrEqual(0);
    await expectAccessible(page);
  });
}

for (const path of [
  '/',
  '/builders/sampling-report',
  '/builders/kit-request',
  '/builders/school-visit',
  '/register',
  '/roster',
]) {
  test(`axe finds nothing on the practice yard’s ${path}`, async ({ page }) => {
    await page.goto(`${demo.practice}${path}`);
    await expectAccessible(page);
  });
}

test('the palette finds and does, by keyboard alone', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('worrying');
  await expect(page.getByRole('option', { name: 'Worrying signs to Follow-ups', selected: true })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Worrying signs to Follow-ups' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('dark');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
});

test('? lists the keys of the place, g goes to another', async ({ page }) => {
  await page.goto('/deliveries');
  await expect(page.getByRole('listitem').first()).toBeVisible();
  await page.keyboard.press('?');
  const keys = page.getByRole('dialog', { name: 'Keyboard shortcuts' });
  await expect(keys).toContainText('select it');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await page.keyboard.press('g');
  await page.keyboard.press('t');
  await expect(page.getByRole('heading', { level: 1, name: 'Targets' })).toBeVisible();
});

test('the first load takes at most 300 kB of script, compressed', async ({ page }) => {
  const { gzipSync } = await import('node:zlib');
  const scripts: Promise<number>[] = [];
  page.on('response', response => {
    if (response.request().resourceType() === 'script')
      scripts.push(response.body().then(body => gzipSync(body).length));
  });
  await page.goto('/');
  await settle(page);
  const total = (await Promise.all(scripts)).reduce((sum, size) => sum + size, 0);
  expect(total).toBeGreaterThan(10_000);
  expect(total).toBeLessThan(300_000);
});
