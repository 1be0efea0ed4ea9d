import { expect, test, type Locator, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, pointBuilderHome, settle } from './people';

// A bad week: forms and targets change at once. It is noticed, repaired by what the interface offers, and nothing is lost.

test.afterEach(async ({ page }) => {
  for (const [place, body] of [
    ['/builders/sampling-report/form', { what: 'back' }],
    ['/register/columns', { table: 'samples', what: 'back' }],
    ['/builders/volunteer-sign-up/form', { what: 'back' }],
    ['/roster/changes', { what: 'back' }],
    ['/roster/key', { what: 'back' }],
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
  await expect(change(page, /^Key of/)).toBeVisible();
  await expect(change(page, /^New question: .*Dissolved oxygen/)).toContainText('Affects no route');
  await expect(page.getByRole('navigation', { name: 'Main' })).toContainText(/Changes\s*\d/);
  await expectAccessible(page);
  await mend(page, /^Key of/, /Use “s1n” instead of “s1”; where it is missing, “s1”/);
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
  // What was held goes from where it was mended; what the target refused, from the deliveries.
  const send = change(page, /^Key of/).getByRole('button', { name: /^Send what was held \(\d+\)/ });
  await expect(send).toBeVisible();
  await expectAccessible(page);
  await send.press('Enter');
  await expect(change(page, /^Key of/).getByRole('status')).toContainText('Sending');
  await page.request.post('/api/deliveries/resend', { data: { ids: dead, mapping: 'now' } });
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
  await expect(change(page, /^Key of/)).toContainText('resolved by Rowan');
  await expect(change(page, /Dissolved oxygen/)).toContainText('dismissed by Rowan');
});

/** Enters the key that the practice roster shows, on the target's page. */
async function enterKey(page: Page, open: Locator): Promise<true> {
  await open.press('Enter');
  const change = page.getByRole('button', { name: 'Change', exact: true });
  if ((await change.getAttribute('aria-expanded')) === 'false') await change.press('Enter');
  await page.getByLabel('Key', { exact: true }).fill(await keyOfRoster(page));
  await page.getByRole('button', { name: 'Save and read' }).press('Enter');
  await page.getByRole('button', { name: 'Test and read again' }).press('Enter');
  await expect(page.getByText(/The credentials work/)).toBeVisible();
  return true;
}

const keyOfRoster = async (page: Page): Promise<string> =>
  /Key: <code>([^<]+)/.exec(await (await page.request.get(`${demo.practice}/roster`)).text())![1]!;

/**
 * Does the one thing that the list of changes offers first, knowing of no change what it is: sends what waits, enters credentials, publishes a repair,
 * or dismisses what affects no route. False where nothing is left to do.
 */
async function doWhatIsOffered(page: Page): Promise<boolean> {
  await page.goto('/changes');
  await expect(page.getByRole('heading', { level: 1, name: 'Changes' })).toBeVisible();
  await settle(page);
  const list = page.getByRole('list', { name: 'Changes', exact: true });
  const entries = list.locator('> li');
  for (let at = 0; at < (await entries.count()); at++) {
    const entry = entries.nth(at);
    const asked = entry.getByRole('link', { name: 'Enter credentials' });
    const repair = entry.getByRole('button', { name: 'Show repair' }).first();
    const send = entry.getByRole('button', { name: /^Send (what|again)/ }).first();
    if (await asked.isVisible()) return enterKey(page, asked);
    if (await send.isVisible()) {
      await send.press('Enter');
      await expect(entry.getByRole('status').filter({ hasText: 'Sending' }).first()).toBeVisible();
      return true;
    }
    const region = entry.getByRole('region', { name: 'Repair' });
    if ((await repair.isVisible()) && !(await region.isVisible())) await repair.press('Enter');
    const publish = entry.getByRole('button', { name: 'Publish repair…' });
    const drafted = entry.getByRole('link', { name: 'Review and publish' });
    const none = entry.getByText(/No repair is needed|No automatic repair/);
    const dismiss = entry.getByRole('button', { name: 'Dismiss' });
    if (!(await dismiss.isVisible())) continue;
    if (await entry.getByText('Affects no route').isVisible()) {
      await dismiss.press('Enter');
      await expect(dismiss).toBeHidden();
      return true;
    }
    await expect(publish.or(drafted).or(none).first()).toBeVisible();
    if (!(await none.isVisible())) {
      await publish.or(drafted).first().press('Enter');
      const now = page.getByRole('button', { name: 'Publish now' });
      const atTarget = page
        .getByRole('region', { name: 'Before going live' })
        .getByRole('link', { name: 'Open target' });
      await expect(atTarget.or(page.locator('button:enabled', { hasText: 'Publish now' })).first()).toBeVisible();
      // What prevents it is mended first: the draft has the repair.
      if (await atTarget.isVisible()) return enterKey(page, atTarget);
      await now.press('Enter');
      await expect(page.getByRole('heading', { level: 1, name: 'Changes' })).toBeVisible();
    } else await entry.getByRole('button', { name: 'Mark resolved' }).press('Enter');
    return true;
  }
  return false;
}

test('a worse week is mended by somebody who only follows what the interface offers, and every record stands at its target once', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await page.goto(demo.practice);
  await page.getByRole('button', { name: 'Play a worse week' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Volunteer sign-up' })).toBeVisible();
  const key = await keyOfRoster(page);
  const mails = ['juno.reed', 'ivo.sallow', 'tess.rushen', 'milo.burnet'].map(each => `${each}@example.org`);
  const known = async (mail: string) => {
    const found = await page.request.get(`${demo.practice}/roster/v1/people?email=${mail}`, {
      headers: { 'x-roster-key': key },
    });
    const { contacts } = (await found.json()) as { contacts: { telephone?: string; interests?: string[] }[] };
    return contacts.map(each => ({ phone: each.telephone, interests: each.interests?.toSorted() }));
  };
  await expect(async () => {
    for (let rounds = 0; rounds < 20 && (await doWhatIsOffered(page)); rounds++);
    expect(await Promise.all(mails.map(known))).toEqual([
      [{ phone: '+442079460610', interests: ['Bank walks', 'Fundraising', 'Sampling of water'] }],
      [{ phone: '+442079460611', interests: ['School visits'] }],
      [{ phone: '+442079460612', interests: ['Sampling of water'] }],
      [{ phone: '+442079460613', interests: ['Data entry', 'Sampling of water'] }],
    ]);
    await page.goto('/changes');
    await expect(page.getByText('No open changes')).toBeVisible();
  }).toPass({ timeout: 240_000 });
  await expectAccessible(page);
});
