import { expect, test } from '@playwright/test';
import { fresh } from './addresses';
import { expectAccessible } from './people';

test('the first start makes the owner’s account; afterwards the password opens', async ({ page }) => {
  await page.goto(fresh.url);
  await expect(page.getByRole('heading', { name: 'The owner’s account' })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Your name').fill('Rowan');
  await page.getByLabel('A password').fill('short');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('Use at least 10 characters.')).toBeVisible();
  await page.getByLabel('A password').fill('withy bridge at dawn');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('A clean desk.')).toBeVisible();
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

test('the demo signs in by itself on loopback only: under another name it asks', async ({ request }) => {
  const session = await request.get('/api/session', { headers: { host: 'grammata.example.org' } });
  expect(await session.json()).toMatchObject({ user: null, demo: true });
});
