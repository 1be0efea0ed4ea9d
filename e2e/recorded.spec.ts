import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillReport, pointBuilderHome, removeSecondRoutes, secondRoute, setFault } from './people';

test.afterEach(async ({ page }) => {
  await setFault(page, 'none');
  await removeSecondRoutes(page);
});

test('what was recorded before a route was live is sent when somebody says so, and nothing twice', async ({ page }) => {
  const { id } = await secondRoute(page, 'A second way');
  await page.goto(`/routes/${id}`);
  await page.getByRole('button', { name: 'More' }).press('Enter');
  await page.getByRole('menuitem', { name: 'Send past submissions…' }).press('Enter');
  const panel = page.getByRole('region', { name: 'Send past submissions' });
  await expect(panel).toContainText(/1\d\d will be sent for the first time\./);
  await expect(panel).toContainText(
    /can’t be sent as they are and will be held.*site does not list “Reed Corner \(AB-21\)”/,
  );
  await expectAccessible(page);
  // Nobody wrote in the year 2001.
  await panel.getByLabel('To').fill('2001-01-01');
  await expect(panel).toContainText('No submissions match.');
  await expect(panel.getByRole('button', { name: 'Nothing to send' })).toBeDisabled();
  await panel.getByLabel('To').fill('');
  await panel.getByRole('button', { name: /^Send \d+$/ }).press('Enter');
  await expect(panel).toHaveCount(0);
  const work = page.getByRole('group', { name: /^Sending past submissions/ });
  await expect(work.getByRole('status')).toContainText(/^\d+ queued\.$/);
  await page.goto(`/deliveries?route=${id}`);
  await expect(page.getByRole('radio', { name: /^waiting/ })).toHaveText('waiting0');
  await expect(page.getByRole('radio', { name: /^held/ })).not.toHaveText('held0');
  await page.goto(`/routes/${id}?send`);
  await expect(panel).toContainText('No new submission to send.');
  await expect(panel).toContainText(/1\d\d were already delivered and are skipped/);
  await panel.getByLabel('Also send those already delivered').check();
  await expect(panel).toContainText('may be stored twice');
  await panel.getByRole('button', { name: 'Cancel' }).click();
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
  const panel = page.getByRole('region', { name: 'Send past submissions' });
  await expect(panel).toContainText('Submissions of “Sampling report” containing “Reed Corner”.');
  await panel.getByRole('button', { name: /^Send \d+$/ }).click();
  await page.goto(`/deliveries?state=held&route=${id}`);
  await page.getByRole('button', { name: /^all \d+ that match$/ }).click();
  await expect(page.getByRole('complementary')).toContainText(/All \d+ deliveries that match, listed or not/);
  await page.getByRole('button', { name: /^Send \d+ again$/ }).click();
  await expect(page.getByRole('group', { name: 'Sending again' }).first()).toContainText(/(\d+) of \1 queued again/);
});

test('a target that fails time and again is parked, and says so; somebody has it asked again', async ({ page }) => {
  const { id, targetId } = await secondRoute(page, 'A fourth way', {});
  await page.goto(`/targets/${targetId}`);
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('button', { name: 'Set rate limits' }).click();
  await page.getByLabel('Concurrent requests').fill('0');
  await page.getByLabel('Pause after consecutive failures').fill('2');
  await page.getByRole('button', { name: 'Save and read' }).click();
  await expect(page.getByLabel('Concurrent requests')).toHaveAccessibleDescription(
    /Enter a whole number from 1 to 64\./,
  );
  await page.getByLabel('Concurrent requests').fill('1');
  await page.getByLabel('Requests per second').fill('20');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save and read' }).click();
  await expect(page.getByRole('form', { name: 'Target' })).toHaveCount(0);
  await setFault(page, 'error');
  await page.request.post(`/api/routes/${id}/recorded`, { data: { selection: { search: 'Reed' }, again: false } });
  await page.request.post(`/api/routes/${id}/recorded`, { data: { selection: { search: 'Mill Race' }, again: false } });
  const margin = page.getByRole('complementary');
  await expect(margin).toContainText(/Paused after repeated failures .*Status 500\./);
  await expectAccessible(page);
  await page.goto('/');
  await page.getByRole('link', { name: 'Open target: Far shelf' }).click();
  await setFault(page, 'none');
  await page.getByRole('button', { name: 'Test now' }).press('Enter');
  await expect(margin).not.toContainText('Paused after repeated failures');
});

test('what is tried again is set for a call, and refused where it can’t be', async ({ page }) => {
  const { id } = await secondRoute(page, 'A fifth way');
  await page.goto(`/routes/${id}`);
  await page.getByRole('button', { name: 'Call settings' }).click();
  await page.getByRole('button', { name: 'Change' }).press('Enter');
  const statuses = page.getByLabel('Statuses to retry');
  await statuses.fill('200');
  await expect(statuses).toHaveAccessibleDescription(/“200” can’t be retried/);
  await statuses.fill('409, 503');
  await page.getByLabel('Maximum attempts').fill('3');
  await page.getByLabel('Web page as a response').selectOption('is a success');
  await expectAccessible(page);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const { draft } = (await (await page.request.get(`/api/routes/${id}`)).json()) as { draft: { calls: object[] } };
  expect(draft.calls[0]).toMatchObject({ retry: { tries: 3, statuses: [409, 503] }, pages: 'taken' });
});

test('a paused route gathers what comes, and sends it once it is resumed', async ({ page }) => {
  await pointBuilderHome(page);
  const { id } = await secondRoute(page, 'A sixth way');
  await page.goto(`/routes/${id}`);
  await page.getByRole('button', { name: 'Pause' }).click();
  const resume = page.getByRole('button', { name: 'Resume…' });
  await expect(resume).toBeVisible();
  const builder = await page.context().newPage();
  await builder.goto(`${demo.practice}/builders/sampling-report`);
  await fillReport(builder, {
    site: 'Mill Race (AB-11)',
    when: '6/11/2026 9:00',
    name: 'Aoife',
    mail: 'aoife@example.org',
  });
  await page.goto(`/deliveries?route=${id}`);
  await expect(page.getByRole('radio', { name: /^waiting/ })).toHaveText('waiting1');
  await page.goto(`/routes/${id}`);
  await resume.click();
  await expect(page.getByRole('region', { name: 'Before going live' })).toContainText(
    'including the 1 received while paused',
  );
  const publish = page.getByRole('button', { name: 'Publish now' });
  await publish.click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.goto(`/deliveries?route=${id}`);
  await expect(page.getByRole('radio', { name: /^delivered/ })).toHaveText('delivered1');
  await expect(page.getByRole('radio', { name: /^waiting/ })).toHaveText('waiting0');
});
