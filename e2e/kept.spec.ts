import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, openIntake, pick } from './people';

/** Sends one message to an address. */
const send = (page: Page, address: string, body: object) => page.request.post(address, { data: body });

const settings = (page: Page) => page.getByRole('form', { name: 'Settings' });
const openSettings = async (page: Page) => {
  await page.getByRole('button', { name: 'Change', exact: true }).first().click();
  await expect(settings(page)).toBeVisible();
};

test('fields refuse what they can’t take, where it was typed, and nothing is changed by it', async ({ page }) => {
  await openIntake(page, 'Careful');
  await openSettings(page);
  await settings(page).getByLabel('Keep messages for, days').fill('3o');
  await settings(page).getByLabel('Ignore identical messages within, seconds').fill('');
  await settings(page).getByLabel('Maximum size, MB').fill('ten');
  await settings(page).getByRole('button', { name: 'Save' }).click();
  await expect(settings(page).getByLabel('Maximum size, MB')).toBeFocused();
  await expect(settings(page).getByLabel('Maximum size, MB')).toHaveAccessibleDescription(/Enter a size from 0.002/);
  await expect(settings(page).getByLabel('Keep messages for, days')).toHaveAccessibleDescription(
    '! Enter a whole number from 1 to 3,650, or leave empty to keep them.',
  );
  await expect(settings(page).getByLabel('Ignore identical messages within, seconds')).toHaveAccessibleDescription(
    '! Enter a whole number from 0 to 86,400.',
  );
  // What was typed stays as it was typed.
  await expect(settings(page).getByLabel('Keep messages for, days')).toHaveValue('3o');
  await expectAccessible(page);
  await settings(page).getByLabel('Maximum size, MB').fill('2,5');
  await settings(page).getByLabel('Ignore identical messages within, seconds').fill('0');
  await settings(page).getByLabel('Keep messages for, days').fill('30');
  await settings(page).getByLabel('Allowed IP addresses').fill('192.0.2.0/24, nowhere');
  await settings(page).getByRole('button', { name: 'Save' }).click();
  await expect(settings(page).getByLabel('Allowed IP addresses')).toHaveAccessibleDescription(/^!/);
  await settings(page).getByLabel('Allowed IP addresses').fill('');
  await settings(page).getByRole('button', { name: 'Save' }).click();
  await expect(settings(page)).toBeHidden();
  await expect(page.getByText(/up to 2\.5 MB/)).toBeVisible();
});

test('what is typed into settings outlives the page, but for secrets; or is put away', async ({ page }) => {
  await openIntake(page, 'Forgetful');
  await openSettings(page);
  await settings(page).getByLabel('Name', { exact: true }).fill('Unforgettable');
  await settings(page).getByLabel('Senders are verified by').selectOption('a secret in a header');
  await settings(page).getByLabel('Header', { exact: true }).fill('X-Secret');
  await settings(page).getByLabel('Secret', { exact: true }).fill('T0P-SECRET');
  await page.reload();
  await openSettings(page);
  await expect(settings(page).getByRole('status')).toContainText('restored');
  await expect(settings(page).getByLabel('Name', { exact: true })).toHaveValue('Unforgettable');
  await expect(settings(page).getByLabel('Header', { exact: true })).toHaveValue('X-Secret');
  await expect(settings(page).getByLabel('Secret', { exact: true })).toHaveValue('');
  expect(await page.evaluate(() => JSON.stringify(localStorage))).not.toContain('T0P-SECRET');
  await settings(page).getByRole('button', { name: 'Discard changes' }).click();
  await expect(settings(page).getByLabel('Name', { exact: true })).toHaveValue('Forgetful');
  await settings(page).getByLabel('Name', { exact: true }).fill('Something else');
  await settings(page).getByRole('button', { name: 'Cancel' }).click();
  await openSettings(page);
  await expect(settings(page).getByLabel('Name', { exact: true })).toHaveValue('Forgetful');
});

test('a save that fails says why, loses nothing, and goes through the next time', async ({ page }) => {
  await openIntake(page, 'Interrupted');
  await openSettings(page);
  await settings(page).getByLabel('Name', { exact: true }).fill('Interrupted, and back');
  await page.route('**/api/intakes/*', (route, request) =>
    request.method() === 'PATCH'
      ? route.fulfill({ status: 503, json: { type: 'about:blank', title: 'Nothing can be stored now.', status: 503 } })
      : route.fallback(),
  );
  await settings(page).getByRole('button', { name: 'Save' }).click();
  await expect(settings(page).getByRole('alert')).toContainText('Nothing can be stored now.');
  await expect(settings(page).getByLabel('Name', { exact: true })).toHaveValue('Interrupted, and back');
  await page.unroute('**/api/intakes/*');
  await settings(page).getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Interrupted, and back' })).toBeVisible();
});

test('a form and a question get names that people understand; what they came with stays beside, and is found', async ({
  page,
}) => {
  const address = await openIntake(page, 'Opaque');
  await send(page, address, { form_id: 'pt-1', r101: '7.4', r102: 'Foam' });
  await page.getByRole('link', { name: 'pt-1' }).first().click();
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByLabel('Name of the form').fill('Pond test');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Pond test' })).toBeVisible();
  await expect(page.getByText('named “pt-1” in the builder')).toBeVisible();
  await page.getByRole('button', { name: 'Rename “R101”' }).click();
  await page.getByLabel('Name of the question').fill('Acidity of the pond');
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  const questions = page.getByRole('region', { name: 'Questions' });
  await expect(questions).toContainText('Acidity of the pond');
  await expect(questions).toContainText('question text: “R101”');

  await page.keyboard.press('Control+k');
  await page.keyboard.type('pt-1');
  await expect(page.getByRole('option', { name: /^Pond test ?“pt-1”$/ })).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('acidity');
  await page.getByRole('option', { name: 'Acidity of the pond' }).click();
  await expect(page).toHaveURL(/question=r101/);

  await page.goto('/routes?new');
  await pick(page, 'Form', /Pond test/, 'pond');
  await pick(page, 'Target', 'Add a record to Samples');
  await page.getByRole('button', { name: 'Create route' }).click();
  await expect(page.getByRole('region', { name: 'Sample' })).toContainText('Acidity of the pond');

  await page.goBack();
  await page.getByRole('link', { name: 'Intakes' }).first().click();
  await page
    .getByRole('main')
    .getByRole('link', { name: /^Opaque/ })
    .click();
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Acidity of the pond');
  await page.getByRole('link', { name: 'Pond test' }).first().click();
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByRole('button', { name: 'Reset name to “pt-1”' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'pt-1' })).toBeVisible();
});

test('older arrivals are brought as they are walked to', async ({ page }) => {
  const address = await openIntake(page, 'Busy');
  for (let from = 0; from < 130; from += 26)
    await Promise.all(Array.from({ length: 26 }, (_, n) => send(page, address, { gate: `G-${from + n}`, badge: 'B' })));
  await page.reload();
  const strip = page.getByRole('list', { name: 'Messages, newest first' });
  await expect(strip.getByRole('button', { name: /POST/ })).toHaveCount(60);
  await strip.getByRole('button', { name: 'Older' }).click();
  await expect(strip.getByRole('button', { name: /POST/ })).toHaveCount(120);
  const last = strip.getByRole('button', { name: /POST/ }).last();
  await last.click();
  await expect(last).toHaveAttribute('aria-current', 'true');
  await page.keyboard.press('l');
  await expect(strip.getByRole('button', { name: /POST/ })).toHaveCount(130);
  await expect(strip.getByRole('button', { name: 'Older' })).toHaveCount(0);
  await expectAccessible(page);
});

test('the sender begins with what came last', async ({ page }) => {
  const address = await openIntake(page, 'Echo');
  await send(page, address, { gate: 'East', badge: 'B-7' });
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('B-7');
  await page.keyboard.press('s');
  await expect(page.getByLabel('Body', { exact: true })).toHaveValue(/"badge":"B-7"/);
});

test('filters, views and what is looked at stand in the address', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByRole('radio', { name: /^held/ }).click();
  await pick(page, 'Route', 'Sampling report to Register');
  await pick(page, 'Target', 'Register');
  await page.getByLabel('From').fill('2020-01-01');
  await expect(page).toHaveURL(/state=held.*route=.*target=.*from=2020-01-01/);
  const count = await page.getByRole('radio', { name: /^held/ }).innerText();
  await page.reload();
  await expect(page.getByRole('radio', { name: /^held/ })).toHaveText(count);
  await expect(page.getByRole('combobox', { name: 'Target' })).toHaveText('Register');
  await expect(page.getByLabel('From')).toHaveValue('2020-01-01');
  await page.getByLabel('To').fill('2020-01-02');
  await expect(page.getByText('No matches', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Clear filters' }).click();
  await expect(page).toHaveURL(/\/deliveries$/);

  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).click();
  await page.getByRole('radio', { name: 'Body' }).click();
  await expect(page).toHaveURL(/beside=message/);
  await page.getByRole('radio', { name: 'Threads' }).click();
  await page.reload();
  await expect(page.getByRole('radio', { name: 'Threads' })).toBeChecked();
  await page.goto(
    page
      .url()
      .replace('/mapping?', '/rehearsal?')
      .replace(/\/routes\/([^/?]+)\?/, '/routes/$1/rehearsal?'),
  );
  await page.getByRole('radio', { name: /^left out/ }).click();
  await expect(page).toHaveURL(/show=out/);
});

test('a request is copied as it was, and as a line for a shell', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto('/deliveries?state=delivered&search=Withy');
  await page.getByRole('listitem').first().getByRole('link').first().click();
  const copied = () => page.evaluate(() => navigator.clipboard.readText());
  await page
    .getByRole('button', { name: /^Copy: Request/ })
    .first()
    .click();
  expect(await copied()).toMatch(/^POST \/\S+ HTTP\/1\.1\nhost: /i);
  await page
    .getByRole('button', { name: /^Copy as a curl command: Request/ })
    .first()
    .click();
  expect(await copied()).toMatch(/^curl http:\/\/127\.0\.0\.1:\d+\//);
  await expect(page.getByRole('button', { name: /^Copy as a curl command: Request/ }).first()).toHaveText('Copied');
});

test('times are exact with one key, with the year and the zone', async ({ page }) => {
  await page.goto('/deliveries?state=delivered');
  const time = page.getByRole('listitem').first().getByRole('time');
  await expect(time).not.toHaveText(/\d\d:\d\d:\d\d/);
  await page.keyboard.press('z');
  await expect(time).toHaveText(/\d{1,2} \w+ 20\d\d, \d\d:\d\d:\d\d (UTC|GMT\S*|\w{3,4})/);
  await page.keyboard.press('z');
  await expect(time).not.toHaveText(/\d\d:\d\d:\d\d/);
});
