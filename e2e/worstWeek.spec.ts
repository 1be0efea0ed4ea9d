import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible } from './people';

// A bad week: a form asks for the site under another key, and a target calls a site otherwise. It is heard of, mended, and nothing is lost.

test.afterEach(async ({ page }) => {
  for (const [place, body] of [
    ['/builders/sampling-report/form', { what: 'back' }],
    ['/register/columns', { table: 'samples', what: 'back' }],
  ] as const)
    await page.request.post(`${demo.practice}${place}`, { form: body });
});

const change = (page: Page, words: RegExp) =>
  page.getByRole('list', { name: 'Changes', exact: true }).getByRole('listitem', { name: words });
const route = (page: Page) =>
  page
    .getByRole('main')
    .getByRole('link', { name: /^Sampling report to Register/ })
    .first();

/** Shows the repair of a change for the live route, and takes it. */
async function mend(page: Page, words: RegExp, says: RegExp, name = 'Sampling report to Register'): Promise<void> {
  const row = change(page, words);
  const touched = row.getByRole('listitem').filter({ hasText: name });
  await expect(touched).toContainText(/breaks|is a risk for/);
  await touched.getByRole('button', { name: 'Show a repair' }).press('Enter');
  const repair = row.getByRole('region', { name: 'A repair' });
  await expect(repair).toContainText(says);
  await expectAccessible(page);
  const taken = page.waitForResponse(/\/repair\/take$/);
  await repair.getByRole('button', { name: 'Take it into the draft' }).press('Enter');
  expect((await taken).status()).toBe(204);
  // It is settled when it is live, not when it is drafted.
  await page.reload();
  await expect(row).toBeVisible();
  await goLive(page);
  await page.goto('/changes');
  const list = page.getByRole('list', { name: 'Changes', exact: true });
  await expect(list.or(page.getByText('Nothing is open.'))).toBeVisible();
  // Another route that it touches is mended on its own, or somebody says that it is settled.
  if ((await row.count()) > 0) await row.getByRole('button', { name: 'Settled' }).press('Enter');
  await expect(row).toHaveCount(0);
}

async function goLive(page: Page): Promise<void> {
  await page.goto('/routes');
  await route(page).click();
  await page.getByRole('button', { name: 'Make it live…' }).click();
  await page.getByRole('button', { name: 'Go live now' }).click();
  await expect(page.getByRole('button', { name: 'Go live now' })).toHaveCount(0);
}

/** Sends what is held, or was refused, once more with today's mapping. */
async function sendAgain(page: Page, state: 'held' | 'dead', ids: Set<string>): Promise<void> {
  const { deliveries } = (await (await page.request.get(`/api/deliveries?state=${state}&limit=50`)).json()) as {
    deliveries: { id: string; about: string }[];
  };
  const own = deliveries.filter(each =>
    /Withy Bridge.*(Mira Teal|Oskar Sedge|June Alder|Lio Marsh)|(9\.8|10\.1|9\.5|9\.9) °C/.test(each.about),
  );
  for (const each of own) ids.add(each.id);
  await page.request.post('/api/deliveries/resend', { data: { ids: own.map(each => each.id), mapping: 'now' } });
}

test('a bad week is heard of, mended in the interface, and nothing is lost', async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto(demo.practice);
  await page.getByRole('button', { name: 'Play a bad week' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sampling report' })).toBeVisible();

  await page.goto('/changes');
  await expect(change(page, /comes under another key/)).toBeVisible();
  await expect(change(page, /Dissolved oxygen.*is asked, and was not before/)).toContainText('does nothing to');
  await expect(page.getByRole('navigation', { name: 'Places' })).toContainText(/Changes\s*\d/);
  await expectAccessible(page);
  await mend(
    page,
    /comes under another key/,
    /What came from “s1” comes from “s1n”; from “s1” where that is still sent/,
  );
  // Somebody says of the other that nothing is to be done.
  await change(page, /Dissolved oxygen/)
    .getByRole('button', { name: 'Nothing to do' })
    .press('Enter');
  await expect(change(page, /Dissolved oxygen/)).toHaveCount(0);

  // What the target takes otherwise is heard of when it is read.
  await page.goto('/targets');
  await page
    .getByRole('main')
    .getByRole('link', { name: /^Register/ })
    .click();
  await page
    .getByRole('button', { name: /Read it again|Read again|Test and read/ })
    .first()
    .click();
  await page.goto('/changes');
  await expect(change(page, /calls the option “Withy Bridge \(AB-07\)”/)).toBeVisible();
  await mend(page, /calls the option “Withy Bridge/, /is sent as “Withy Bridge, upper \(AB-07\)”/);

  const ids = new Set<string>();
  await sendAgain(page, 'held', ids);
  await sendAgain(page, 'dead', ids);
  expect(ids.size).toBe(4);
  await expect
    .poll(
      async () => {
        const states = await Promise.all(
          [...ids].map(
            async id => ((await (await page.request.get(`/api/deliveries/${id}`)).json()) as { state: string }).state,
          ),
        );
        return states.every(each => each === 'delivered') ? 'all delivered' : states.join(' ');
      },
      { timeout: 30_000 },
    )
    .toBe('all delivered');
  // All of it stays to be read later, with who settled it.
  await page.goto('/changes?show=all');
  await expect(change(page, /comes under another key/)).toContainText('settled by Rowan');
  await expect(change(page, /Dissolved oxygen/)).toContainText('nothing to do, said Rowan');
});
