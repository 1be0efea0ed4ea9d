import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { demo, fresh } from './addresses';
import { expectAccessible } from './people';

const tokenFile = path.join(process.env.GRAMMATA_E2E!, 'fresh/setup-token');

test('the first start makes the owner’s account; afterwards the password opens', async ({ page }) => {
  await page.goto(fresh.url);
  await expect(page.getByRole('heading', { name: 'The owner’s account' })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Your name').fill('Rowan');
  await page.getByLabel('Password').fill('short');
  await page.getByLabel('Setup token').fill('guessed');
  await page.getByRole('button', { name: 'Create account' }).click();
  await expect(page.getByText('Use at least 10 characters.')).toBeVisible();
  await page.getByLabel('Password').fill('withy bridge at dawn');
  await page.getByRole('button', { name: 'Create account' }).click();
  await expect(page.getByText('Wrong setup token.')).toBeVisible();
  await page.getByLabel('Setup token').fill(readFileSync(tokenFile, 'utf8'));
  await page.getByRole('button', { name: 'Create account' }).click();
  await expect(page.getByText('Connect your first form')).toBeVisible();
  expect(existsSync(tokenFile)).toBe(false);
  await expectAccessible(page);

  for (const place of ['/intakes', '/routes', '/targets', '/deliveries', '/practice']) {
    await page.goto(`${fresh.url}${place}`);
    await expect(page.getByRole('main')).toContainText(/yet|not running/);
    await expectAccessible(page);
  }

  await page.keyboard.press('Control+k');
  await page.keyboard.type('sign out');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.getByLabel('Password').fill('not the password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('Wrong password.');
  await page.getByLabel('Password').fill('withy bridge at dawn');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Practice' })).toBeVisible();

  await test.step('the guide leads from nothing to the first delivered record, each step in place', async () => {
    await page.getByRole('link', { name: 'Desk', exact: true }).click();
    const step = (name: string) => page.getByRole('listitem').filter({ has: page.getByRole('heading', { name }) });
    await expect(step('Receive')).toHaveAttribute('aria-current', 'step');
    await page.getByLabel('Name').fill('Field team forms');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('status').filter({ hasText: 'Waiting for the first message' })).toBeVisible();
    const address = await step('Receive').locator('code').innerText();
    const message = (site: string) =>
      page.request.post(address, {
        data: {
          site,
          sampled_at: '2026-11-04T07:55:00Z',
          observer_email: 'm.adeyemi@example.org',
          observer: 'Morenike',
        },
      });
    await message('Withy Bridge (AB-07)');
    await expect(step('Read')).toHaveAttribute('aria-current', 'step');
    await expect(step('Read').locator('dl')).toContainText('Withy Bridge (AB-07)');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Continue to Map' }).press('Enter');
    const { targets } = (await (await page.request.get(`${demo.practice}/parts`)).json()) as {
      targets: { id: string; facts: { label: string; value: string }[] }[];
    };
    const fact = (label: string) =>
      targets.find(each => each.id === 'register')!.facts.find(each => each.label === label)!.value;
    await page.getByRole('button', { name: 'Add target' }).press('Enter');
    const form = page.getByRole('form', { name: 'Target' });
    await form.getByLabel('Name').fill('Register');
    await form.getByLabel('Base address').fill(fact('Base address'));
    await form.getByLabel('Bearer token').fill(fact('Bearer token'));
    await form.getByRole('button', { name: 'Add target' }).press('Enter');
    await page.getByLabel('Target and operation').press('Enter');
    await page.getByRole('option', { name: /Add a record to Samples/ }).click();
    await page.getByRole('button', { name: /^Accept \d+ confident/ }).press('Enter');
    await expect(page.getByText('All required fields have a source.')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Continue to Check' }).press('Enter');
    await expect(step('Check')).toContainText('POST');
    await expect(page.getByText('The submission can be sent.')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Continue to Go live' }).press('Enter');
    const publish = page.getByRole('button', { name: 'Publish now' });
    await expect(publish).toBeEnabled();
    await publish.press('Enter');
    await expect(step('Go live')).toContainText('Send a new submission');
    await message('Otter Weir (AB-02)');
    await expect(step('Go live')).toContainText('delivered');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Finish' }).press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Nothing needs attention' })).toBeVisible();
  });
});

// RFC 9110 §7.2 and §15.5.20: a name that is none of this server's, as after DNS rebinding, is misdirected.
test('the demo signs in by itself on loopback only: under another name nobody is let in', async ({ request }) => {
  const session = await request.get('/api/session', { headers: { host: 'grammata.example.org' } });
  expect(session.status()).toBe(421);
  expect(await session.text()).not.toContain('Rowan');
});
