import { expect, test } from '@playwright/test';
import { expectAccessible, removeSecondRoutes, secondRoute, setFault } from './people';

test.afterEach(async ({ page }) => {
  await setFault(page, 'none');
  await removeSecondRoutes(page);
});

test('what was recorded before a route was live is sent when somebody says so, and nothing twice', async ({ page }) => {
  const { id } = await secondRoute(page, 'A second way');
  await page.goto(`/routes/${id}`);
  await page.getByRole('button', { name: 'Send what is recorded…' }).press('Enter');
  const panel = page.getByRole('region', { name: 'Send what is recorded' });
  await expect(panel).toContainText(/1\d\d would be sent for the first time\./);
  await expect(panel).toContainText(/more can’t be sent as they are.*site does not list “Reed Corner \(AB-21\)”/);
  await expectAccessible(page);
  // Nobody wrote in the year 2001.
  await panel.getByLabel('To the day').fill('2001-01-01');
  await expect(panel).toContainText('Nothing is recorded like that.');
  await expect(panel.getByRole('button', { name: 'Nothing to send' })).toBeDisabled();
  await panel.getByLabel('To the day').fill('');
  await panel.getByRole('button', { name: /^Send \d+$/ }).press('Enter');
  await expect(panel).toHaveCount(0);
  const work = page.getByRole('group', { name: /^Sending what is recorded/ });
  await expect(work.getByRole('status')).toContainText(/^\d+ went on their way\.$/);
  await page.goto(`/deliveries?route=${id}`);
  await expect(page.getByRole('radio', { name: /^waiting/ })).toHaveText('waiting0');
  await expect(page.getByRole('radio', { name: /^held/ })).not.toHaveText('held0');
  await page.goto(`/routes/${id}?send`);
  await expect(panel).toContainText('None would be sent for the first time.');
  await expect(panel).toContainText(/1\d\d were delivered before, and stay as they are/);
  await panel.getByLabel('Send those once more that were delivered before').check();
  await expect(panel).toContainText('may then be there twice');
  await panel.getByRole('button', { name: 'Not now' }).click();
  await expect(panel).toHaveCount(0);
});

test('from a form’s page only those that match are sent', async ({ page }) => {
  const { id } = await secondRoute(page, 'A third way');
  const { formId } = (await (await page.request.get(`/api/routes/${id}`)).json()) as { formId: string };
  await page.goto(`/forms/${formId}`);
  await page.getByLabel('Search submissions').fill('Reed Corner');
  const offer = page.getByRole('region', { name: 'Submissions' });
  await expect(offer).toContainText(/Send the \d+ that match through/);
  await offer.getByRole('link', { name: 'A third way' }).click();
  const panel = page.getByRole('region', { name: 'Send what is recorded' });
  await expect(panel).toContainText('Those of “Sampling report” that hold “Reed Corner”.');
  await panel.getByRole('button', { name: /^Send \d+$/ }).click();
  await page.goto(`/deliveries?state=held&route=${id}`);
  await page.getByRole('button', { name: /^all \d+ that match$/ }).click();
  await expect(page.getByRole('complementary')).toContainText(/All \d+ deliveries that match, seen here or not/);
  await page.getByRole('button', { name: /^Send \d+ again$/ }).click();
  await expect(page.getByRole('group', { name: 'Sending again' }).first()).toContainText(
    /(\d+) of \1 are on their way again/,
  );
});

test('a target that fails time and again is parked, and says so; somebody has it asked again', async ({ page }) => {
  const { id, targetId } = await secondRoute(page, 'A fourth way', {});
  await page.goto(`/targets/${targetId}`);
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('button', { name: 'Change how much is asked of it at once' }).click();
  await page.getByLabel('Requests at once').fill('0');
  await page.getByLabel('Park it after failures in a row').fill('2');
  await page.getByRole('button', { name: 'Save and read it' }).click();
  await expect(page.getByLabel('Requests at once')).toHaveAccessibleDescription(/Give a whole number from 1 to 64\./);
  await page.getByLabel('Requests at once').fill('1');
  await page.getByLabel('Requests a second').fill('20');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save and read it' }).click();
  await expect(page.getByRole('form', { name: 'Target' })).toHaveCount(0);
  await setFault(page, 'error');
  await page.request.post(`/api/routes/${id}/recorded`, { data: { selection: { search: 'Reed' }, again: false } });
  await page.request.post(`/api/routes/${id}/recorded`, { data: { selection: { search: 'Mill Race' }, again: false } });
  const margin = page.getByRole('complementary');
  await expect(margin).toContainText(/It was parked .*It answered 500\./);
  await expectAccessible(page);
  await page.goto('/');
  await expect(page.getByRole('complementary')).toContainText('Far shelf is parked');
  await page.getByRole('link', { name: 'See to it' }).click();
  await setFault(page, 'none');
  await page.getByRole('button', { name: 'Ask it now' }).press('Enter');
  await expect(margin).not.toContainText('It was parked');
});

test('what is tried again is set for a call, and refused where it can’t be', async ({ page }) => {
  const { id } = await secondRoute(page, 'A fifth way');
  await page.goto(`/routes/${id}`);
  await page.getByRole('button', { name: 'How it is made' }).click();
  await page.getByRole('button', { name: 'Change that' }).press('Enter');
  const statuses = page.getByLabel('Statuses that are tried again');
  await statuses.fill('200');
  await expect(statuses).toHaveAccessibleDescription(/“200” is no status that can be tried again/);
  await statuses.fill('409, 503');
  await page.getByLabel('Most tries of one request').fill('3');
  await page.getByLabel('A success with a web page').selectOption('is a success');
  await expectAccessible(page);
  await expect(page.getByText('edits kept', { exact: true })).toBeVisible();
  const { draft } = (await (await page.request.get(`/api/routes/${id}`)).json()) as { draft: { calls: object[] } };
  expect(draft.calls[0]).toMatchObject({ retry: { tries: 3, statuses: [409, 503] }, pages: 'taken' });
});
