import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, pick, part } from './people';

test('a target is read from its OpenAPI document, mapped by taking proposals, and a contact is delivered', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await test.step('reads the document with a key in a header', async () => {
    await page.goto('/targets?new');
    await page.getByLabel('Name').fill('People');
    await page.getByLabel('Base address').fill(`${demo.practice}/roster/v1`);
    await page.getByLabel('Operations from').selectOption({ label: 'an OpenAPI document' });
    await expect(page.getByLabel('Document path')).toHaveValue('/openapi.json');
    await page.getByLabel('Credentials').selectOption({ label: 'API key in a header' });
    await page.getByLabel('Header').fill('X-Roster-Key');
    await page.getByLabel('Key', { exact: true }).fill('yard-roster-91b4');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Add target' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'People' })).toBeVisible();
    const create = page.getByRole('region', { name: 'Create a contact' });
    await expect(create).toContainText('POST /contacts');
    await expect(create).toContainText('postal.town');
    await expect(page.getByText('credentials: API key in a header')).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('maps the sign-up by taking what is proposed', async () => {
    await page.goto('/routes?new');
    await pick(page, 'Form', /Volunteer sign-up/, 'Volunteer sign-up');
    await page.getByRole('combobox', { name: 'Target' }).click();
    await page.getByRole('dialog', { name: 'Target' }).getByRole('combobox').fill('contact');
    await expect(page.getByRole('option', { name: 'Find contacts' })).toHaveCount(0);
    await page
      .getByRole('option', { name: /^Create a contact/ })
      .first()
      .click();
    await page.getByLabel('Name').fill('Sign-ups to People');
    await page.getByRole('button', { name: 'Create route' }).click();
    await page.getByRole('button', { name: /Accept \d+ likely/ }).click();
    await expect(part(page, 'Mapping')).not.toContainText('required fields missing');
    await page.keyboard.press('w');
    const wire = page.getByRole('region', { name: 'Request body' });
    await expect(wire).toContainText('POST /roster/v1/contacts HTTP/1.1');
    await expect(wire).toContainText('x-roster-key: ••••••');
    await expect(page.getByRole('region', { name: 'Lines', exact: true })).toContainText('the town of the address');
  });

  await test.step('goes live, and a new volunteer becomes a contact', async () => {
    await page.getByRole('button', { name: 'Go live…' }).click();
    await page.getByRole('button', { name: 'Publish now' }).click();
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

test('a document that names another base address offers it, and stays where it is read from', async ({ page }) => {
  await page.goto('/targets?new');
  await page.getByLabel('Name').fill('Elsewhere');
  await page.getByLabel('Base address').fill(`${demo.practice}/roster`);
  await page.getByLabel('Operations from').selectOption({ label: 'an OpenAPI document' });
  await page.getByLabel('Document path').fill('/v1/openapi.json');
  await page.getByLabel('Credentials').selectOption({ label: 'none' });
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Elsewhere' })).toBeVisible();
  await page.getByRole('button', { name: `Use ${demo.practice}/roster/v1` }).click();
  await expect(page.getByRole('main').getByText(`${demo.practice}/roster/v1`, { exact: true })).toBeVisible();
  await expect(page.getByRole('main')).toContainText(`${demo.practice}/roster/v1/openapi.json`);
  await expect(page.getByText(/offers \d+ operations/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Use http/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Remove target…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
});

test('where a list of tables has what is pointed at before the target is stored', async ({ page }) => {
  await page.goto('/targets?new');
  await page.getByLabel('Name').fill('Pointed at');
  await page.getByLabel('Base address').fill(`${demo.practice}/register/v1`);
  await page.getByLabel('Operations from').selectOption({ label: 'a list of its tables and columns' });
  await page.getByLabel('Token').fill('yard-register-2f7c');
  await page.getByRole('button', { name: 'Custom response structure' }).click();
  await page.getByRole('button', { name: 'Send a request and point at the places' }).click();
  await expect(page.getByRole('radio', { name: 'column key' })).toBeChecked();
  await page.getByRole('radio', { name: 'column label' }).check();
  await page
    .getByRole('button', { name: /^type whole/ })
    .first()
    .click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Write the places as JSON Pointers' }).click();
  await expect(page.getByLabel('Column: label')).toHaveValue('/type');
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Pointed at' })).toBeVisible();
  await expect(page.getByRole('main')).toContainText('Add a record to Samples');
  await expect(page.getByRole('main')).toContainText('timestamp');
  await page.getByRole('button', { name: 'Remove target…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
});
