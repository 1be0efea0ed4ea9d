import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, part } from './people';

// A route is hung on another form and another target: every line goes along, and loose ends are shown.

const hangs = (page: Page) => page.getByRole('region', { name: 'Form and targets' });
const row = (page: Page, name: string) =>
  hangs(page)
    .getByRole('row')
    .filter({ has: page.getByRole('rowheader', { name, exact: true }) });

async function putAnother(page: Page, at: number, label: string, pick: string): Promise<void> {
  await hangs(page)
    .getByRole('button', { name: /^Switch/ })
    .nth(at)
    .press('Enter');
  const box = page.getByLabel(label);
  await box.press('Enter');
  await page.keyboard.type(pick);
  await page.keyboard.press('Enter');
  await expect(hangs(page).getByRole('table')).toBeVisible();
}

test('a copy of a route is hung elsewhere, by keyboard', async ({ page }) => {
  await page.goto('/routes');
  await page
    .getByRole('main')
    .getByRole('link', { name: /^Sampling report to Register/ })
    .first()
    .click();
  await part(page, 'Delivery').press('Enter');
  await page.getByRole('button', { name: 'Duplicate route' }).press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: /, copy/ })).toBeVisible();

  await putAnother(page, 1, 'New target', 'Lab desk');
  await expect(row(page, 'Site')).toContainText('place');
  await expect(row(page, 'pH')).toContainText('unresolved');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Apply to draft' }).press('Enter');
  await expect(hangs(page)).toContainText(/Target\s*Lab desk/);

  await putAnother(page, 0, 'New form', 'Site access log');
  await expect(row(page, 'Which site?')).toContainText('Site');
  // Somebody knows better.
  await row(page, 'Your name').getByLabel('Replacement for Your name').press('Enter');
  await page.keyboard.type('Remarks');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Your name')).toContainText('Remarks');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Apply to draft' }).press('Enter');
  await expect(hangs(page)).toContainText(/Form\s*Site access log/);

  // No line is lost: those without a place say so, and offer one.
  await part(page, 'Mapping').press('Enter');
  await expect(page.getByText(/Field no longer exists: “ph”/).first()).toBeVisible();
  await part(page, 'Delivery').press('Enter');
  await page.getByRole('button', { name: 'Remove route…' }).press('Enter');
  // That it is gone is heard before its removal is answered.
  await page.route('**/api/routes/*', async route => {
    if (route.request().method() !== 'DELETE') return route.continue();
    const response = await route.fetch();
    await expect(page.getByText('No such route.')).toBeVisible();
    await route.fulfill({ response });
  });
  await page.getByRole('button', { name: 'Remove', exact: true }).press('Enter');
  await expect(page).toHaveURL(/\/routes$/);
});
