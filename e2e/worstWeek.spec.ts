import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, pointBuilderHome } from './people';

// A bad week: forms and targets change at once. It is noticed, repaired by what the interface offers, and nothing is lost.

test.afterEach(async ({ page }) => {
  for (const [place, body] of [
    ['/builders/sampling-report/form', { what: 'back' }],
    ['/register/columns', { table: 'samples', what: 'back' }],
  ] as const)
    await page.request.post(`${demo.practice}${place}`, { form: body });
});

const change = (page: Page, words: RegExp) =>
  page.getByRole('list', { name: 'Changes', exact: true }).getByRole('listitem', { name: words });
/** Publishes the repair of a change for a route that it breaks, and comes back to the change. */
async function mend(page: Page, words: RegExp, says: RegExp, name = 'Sampling report to Register'): Promise<void> {
  const row = change(page, words);
  const open = row.getByRole('button', { name: 'Show repair' }).first();
  const repair = row.getByRole('region', { name: 'Repair' });
  await expect(open.or(repair).first()).toBeVisible();
  if ((await repair.count()) === 0) await open.press('Enter');
  await expect(repair).toContainText(says);
  const touched = row.getByRole('listitem').filter({ hasText: name });
  await expect(touched).toContainText(/breaks|may break/);
  const other = touched.getByRole('button', { name: 'Show repair' });
  if ((await other.count()) > 0) await other.press('Enter');
  await expect(repair).toContainText(/can be sent/);
  await expectAccessible(page);
  await repair.getByRole('button', { name: 'Publish repair…' }).press('Enter');
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  const publish = page.getByRole('button', { name: 'Publish now' });
  await expect(publish).toBeEnabled();
  await publish.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Changes' })).toBeVisible();
  await expect(row).toBeVisible();
  // Another route that it touches is mended on its own, or somebody says that it is settled.
  const settle = row.getByRole('button', { name: 'Mark resolved' });
  await expect(async () => {
    // It may be settled by the repair in the moment in which it is looked at.
    if ((await settle.count()) > 0) await settle.press('Enter', { timeout: 5000 });
    await expect(row).toContainText('resolved by', { timeout: 5000 });
  }).toPass();
}

/** This week's deliveries in a state. */
async function idsIn(page: Page, state: 'held' | 'dead'): Promise<string[]> {
  const { deliveries } = (await (await page.request.get(`/api/deliveries?state=${state}&limit=50`)).json()) as {
    deliveries: { id: string; about: string }[];
  };
  return deliveries
    .filter(each =>
      /Withy Bridge.*(Mira Teal|Oskar Sedge|June Alder|Lio Marsh)|(9\.8|10\.1|9\.5|9\.9) °C/.test(each.about),
    )
    .map(each => each.id);
}

test('a bad week is noticed, repaired in the interface, and nothing is lost', async ({ page }) => {
  test.setTimeout(300_000);
  await pointBuilderHome(page);
  await page.goto(demo.practice);
  await page.getByRole('button', { name: 'Play a bad week' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sampling report' })).toBeVisible();

  await page.goto('/changes');
  await expect(change(page, /^Key of “Which site/)).toBeVisible();
  await expect(change(page, /^New question: .*Dissolved oxygen/)).toContainText('Affects no route');
  await expect(page.getByRole('navigation', { name: 'Main' })).toContainText(/Changes\s*\d/);
  await expectAccessible(page);
  await mend(page, /^Key of “Which site/, /Use “s1n” instead of “s1”; where it is missing, “s1”/);
  // Somebody says of the other that nothing is to be done.
  await change(page, /Dissolved oxygen/)
    .getByRole('button', { name: 'Dismiss' })
    .press('Enter');
  await expect(change(page, /Dissolved oxygen/)).toHaveCount(0);

  // What the target takes otherwise is noticed when it is read.
  await page.goto('/targets');
  await page
    .getByRole('main')
    .getByRole('link', { name: /^Register/ })
    .click();
  await page
    .getByRole('button', { name: /Read again|Read again|Test and read/ })
    .first()
    .click();
  await page.goto('/changes');
  await expect(change(page, /^Option of .* renamed: “Withy Bridge \(AB-07\)”/)).toBeVisible();
  await mend(page, /^Option of .* renamed: “Withy Bridge/, /is sent as “Withy Bridge, upper \(AB-07\)”/);

  const [held, dead] = [await idsIn(page, 'held'), await idsIn(page, 'dead')];
  const ids = [...held, ...dead];
  expect(ids).toHaveLength(4);
  // What was held, and what the target rejected, goes from where it was mended.
  const send = change(page, /^Key of “Which site/).getByRole('button', { name: /^Send what was held \(\d+\)/ });
  await expect(send).toBeVisible();
  await expectAccessible(page);
  await send.press('Enter');
  await expect(change(page, /^Key of “Which site/).getByRole('status')).toContainText('Sending');
  if (dead.length > 0)
    await change(page, /^Option of .* renamed: “Withy Bridge/)
      .getByRole('button', { name: /^Send what failed \(\d+\)/ })
      .press('Enter');
  await expect
    .poll(
      async () => {
        const states = await Promise.all(
          ids.map(
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
  await expect(change(page, /^Key of “Which site/)).toContainText('resolved by Rowan');
  await expect(change(page, /Dissolved oxygen/)).toContainText('dismissed by Rowan');
});
