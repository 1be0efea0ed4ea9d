import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { fresh } from './addresses';
import { expectAccessible } from './people';

const tokenFile = path.join(process.env.GRAMMATA_E2E!, 'fresh/setup-token');

test('the first start makes the owner’s account; afterwards the password opens', async ({ page }) => {
  await page.goto(fresh.url);
  await expect(page.getByRole('heading', { name: 'The owner’s account' })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Your name').fill('Rowan');
  await page.getByLabel('A password').fill('short');
  await page.getByLabel('The token of this start').fill('guessed');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('Use at least 10 characters.')).toBeVisible();
  await page.getByLabel('A password').fill('withy bridge at dawn');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('This is not the token that the server printed')).toBeVisible();
  await page.getByLabel('The token of this start').fill(readFileSync(tokenFile, 'utf8'));
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('A clean desk.')).toBeVisible();
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
  await expect(page.getByRole('alert')).toContainText('That is not the password.');
  await page.getByLabel('Password').fill('withy bridge at dawn');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Practice' })).toBeVisible();
});

// RFC 9110 §7.2 and §15.5.20: a name that is none of this server's, as after DNS rebinding, is misdirected.
test('the demo signs in by itself on loopback only: under another name nobody is let in', async ({ request }) => {
  const session = await request.get('/api/session', { headers: { host: 'grammata.example.org' } });
  expect(session.status()).toBe(421);
  expect(await session.text()).not.toContain('Rowan');
});
