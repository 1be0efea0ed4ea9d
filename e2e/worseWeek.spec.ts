import { expect, test, type Locator, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, settle } from './people';

// A worse week: a form and a target change in several ways at once. Somebody who only follows what the interface offers mends all of it.

test.afterEach(async ({ page }) => {
  for (const place of ['/builders/volunteer-sign-up/form', '/roster/changes', '/roster/key'])
    await page.request.post(`${demo.practice}${place}`, { form: { what: 'back' } });
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
