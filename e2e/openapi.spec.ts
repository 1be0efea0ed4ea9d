import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, pick } from './people';

test('a target is read from its OpenAPI document, mapped by taking proposals, and a contact is delivered', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await test.step('reads the document with a key in a header', async () => {
    await page.goto('/targets?new');
    await page.getByLabel('Name').fill('People');
    await page.getByLabel('Base address').fill(`${demo.practice}/roster/v1`);
    await page.getByLabel('Is read from').selectOption({ label: 'an OpenAPI document' });
    await expect(page.getByLabel('Has its document at')).toHaveValue('/openapi.json');
    await page.getByLabel('Credentials').selectOption({ label: 'an API key in a header' });
    await page.getByLabel('Header').fill('X-Roster-Key');
    await page.getByLabel('Key', { exact: true }).fill('yard-roster-91b4');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Add and read it' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'People' })).toBeVisible();
    const create = page.getByRole('region', { name: 'Create a contact' });
    await expect(create).toContainText('POST /contacts');
    await expect(create).toContainText('postal.town');
    await expect(page.getByText('credentials: an API key in a header')).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('maps the sign-up by taking what is proposed', async () => {
    await page.goto('/routes?new');
    await pick(page, 'From the form', /Volunteer sign-up/, 'Volunteer sign-up');
    await page.getByRole('combobox', { name: 'To the target' }).click();
    await page.getByRole('dialog', { name: 'To the target' }).getByRole('combobox').fill('contact');
    await expect(page.getByRole('option', { name: 'Find contacts' })).toHaveCount(0);
    await page
      .getByRole('option', { name: /^Create a contact/ })
      .first()
      .click();
    await page.getByLabel('Name').fill('Sign-ups to People');
    await page.getByRole('button', { name: 'Start mapping' }).click();
    await page.getByRole('button', { name: /likely ones/ }).click();
    await expect(page.getByRole('link', { name: /^What/ })).not.toContainText('required but empty');
    await page.keyboard.press('w');
    const wire = page.getByRole('region', { name: 'Outgoing message' });
    await expect(wire).toContainText('POST /roster/v1/contacts HTTP/1.1');
    await expect(wire).toContainText('x-roster-key: ••••••');
    await expect(page.getByRole('region', { name: 'Lines', exact: true })).toContainText('the town of the address');
  });

  await test.step('goes live, and a new volunteer becomes a contact', async () => {
    await page.getByRole('button', { name: 'Go live…' }).click();
    await page.getByRole('button', { name: 'Go live now' }).click();
    await expect(page.getByText('version 1')).toBeVisible();
    await page.goto(`${demo.practice}/builders/volunteer-sign-up`);
    await page.getByLabel(/^Full name/).fill('Gwenllian Pryce-Hughes');
    await page.getByLabel(/^E-mail/).fill('gwen.openapi@example.org');
    await page.getByRole('textbox', { name: /^Address(?! that)/ }).fill('14 Weir Lane, Fernhollow, FH3 9ZZ');
    await page.getByLabel('I agree that you keep my details').check();
    await page.getByRole('button', { name: 'Sign up' }).click();
    await expect(async () => {
      await page.goto(`${demo.practice}/roster`);
      const row = page.getByRole('row').filter({ hasText: 'gwen.openapi@example.org' });
      await expect(row).toContainText('Gwenllian', { timeout: 500 });
      await expect(row).toContainText('14 Weir Lane, Fernhollow, FH3 9ZZ', { timeout: 500 });
    }).toPass();
  });
});
