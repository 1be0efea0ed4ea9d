import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillLine, openIntake, pick } from './people';

// A target without a document: its operations are begun from curl lines, finished by hand, tried, and used.

const key = 'yard-archive-3c7f';
const archive = `${demo.practice}/archive/v1`;

test('a target is edited by hand: from curl lines to a delivery, and its calls move along when it moves', async ({
  page,
}) => {
  const address = await openIntake(page, 'Labels by hand');
  await page.request.post(address, { data: { label: 'H-1', site: 'Mill Race', how: 'wet' } });
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('H-1');

  await page.goto('/targets?new');
  await page.getByLabel('Name').fill('By hand');
  await page.getByLabel('Operations from').selectOption({ label: 'nothing: add operations by hand or from examples' });
  await page
    .getByLabel('Examples')
    .fill(
      `curl -X POST '${archive}/old/specimens?notify=no' -H 'X-Archive-Key: ${key}' --json '{"label":"W-1","site":"Ford"}'\n` +
        `curl ${archive}/specimens/71 -H 'X-Archive-Key: ${key}'`,
    );
  await page.getByLabel('Name').focus();
  // What the example shows is taken: the address, and who asks; the secret leaves the text.
  await expect(page.getByText('Its secret was moved to the credentials')).toBeVisible();
  await expect(page.getByLabel('Base address')).toHaveValue(demo.practice);
  await expect(page.getByLabel('Header')).toHaveValue('X-Archive-Key');
  await expect(page.getByLabel('Examples')).not.toHaveValue(new RegExp(key));
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'By hand' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Read one of specimens' })).toContainText(
    'record_id'.replace('record', 'specimen'),
  );

  await page.getByRole('link', { name: 'Edit Add to specimens' }).click();
  const margin = page.getByRole('complementary');
  await expect(margin).toContainText('Nothing in the body is required.');
  await expect(margin).toContainText('notify is always “no” unless a line fills it.');
  await page.getByRole('checkbox', { name: 'label: required' }).check();
  await page.getByRole('button', { name: 'Add field', exact: true }).click();
  await page.getByLabel('Name of field 4').fill('state');
  await page.getByLabel('state takes').selectOption({ label: 'one option' });
  await page.getByRole('button', { name: 'More of state' }).click();
  await page.getByLabel('Options').fill('W = wet\nD = dry');
  await page.getByLabel('Description').focus();
  await expectAccessible(page);
  // A path that can’t be is refused beside it, and what was typed stays.
  await page.getByLabel('Path', { exact: true }).fill('/archive/v1/old/specimens/{where}');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“where” stands in the path, and no field fills it.')).toBeVisible();
  await page.getByLabel('Path', { exact: true }).fill('/archive/v1/old/specimens');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(margin).toContainText('Saved.');
  await expect(margin).not.toContainText('Nothing in the body is required.');

  await page.goto('/routes?new');
  await pick(page, 'Form', /Labels by hand/, 'Labels by hand');
  await pick(page, 'Target', /By hand|Add to specimens/, 'archive/v1/old');
  await page.getByRole('button', { name: 'Create route' }).click();
  // A field with a fixed value needs no source; the option is sent as the target spells it.
  await fillLine(page, 'label', 'Label');
  await fillLine(page, 'site', 'Site');
  await fillLine(page, 'state', 'How');
  await expect(page.getByText('always no, unless filled')).toBeVisible();
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('Saved')).toBeVisible();

  // The address was an old one: a real try tells, and the operation moves with the call on it.
  await page.goto('/targets');
  await page.getByRole('link', { name: /^By hand/ }).click();
  await page.getByRole('link', { name: 'Edit Add to specimens' }).click();
  await page.getByRole('button', { name: 'Send this request' }).click();
  const trial = page.getByRole('region', { name: 'Try it' });
  await trial.getByLabel('label, required').fill('H-0');
  await trial.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(trial).toContainText('(404)');
  await page.getByLabel('Path', { exact: true }).fill('/archive/v1/specimens');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(margin).toContainText('Their calls are updated with it.');
  await expect(margin).toContainText('Saved.');
  await trial.getByRole('button', { name: 'Send', exact: true }).click();
  await trial.getByRole('button', { name: 'Learn from this response' }).click();
  await expect(page.getByRole('region', { name: 'Response', exact: true })).toContainText('/specimen/id');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(margin).toContainText('Saved.');
  await expectAccessible(page);

  await page.goto('/routes');
  await page.getByRole('link', { name: /Labels by hand/ }).click();
  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Publish now' }).click();
  await expect(page.getByText('version 1')).toBeVisible();
  await page.request.post(address, { data: { label: 'H-2', site: 'Ford', how: 'dry' } });
  const row = page.getByRole('row').filter({ has: page.getByRole('cell', { name: 'H-2', exact: true }) });
  await expect(async () => {
    await page.goto(`${demo.practice}/archive`);
    await expect(row).toContainText('Ford', { timeout: 500 });
  }).toPass();
  await expect(row.getByRole('cell', { name: 'D', exact: true })).toBeVisible();
});
