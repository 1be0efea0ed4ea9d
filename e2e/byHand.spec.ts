import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillLine, openIntake, pick } from './people';

// A target without a document: its operations are begun from curl lines, finished by hand, tried, and used.

const key = 'yard-archive-3c7f';
const archive = `${demo.practice}/archive/v1`;

test('a target is set by hand: from curl lines to a delivery, and its calls move along when it moves', async ({
  page,
}) => {
  const address = await openIntake(page, 'Labels by hand');
  await page.request.post(address, { data: { label: 'H-1', site: 'Mill Race', how: 'wet' } });
  await expect(page.getByRole('region', { name: 'What was answered' })).toContainText('H-1');

  await page.goto('/targets?new');
  await page.getByLabel('Name').fill('By hand');
  await page
    .getByLabel('Is read from')
    .selectOption({ label: 'nothing: its operations are set by hand, or from examples' });
  await page
    .getByLabel('An example to begin with')
    .fill(
      `curl -X POST '${archive}/old/specimens?notify=no' -H 'X-Archive-Key: ${key}' --json '{"label":"W-1","site":"Ford"}'\n` +
        `curl ${archive}/specimens/71 -H 'X-Archive-Key: ${key}'`,
    );
  await page.getByLabel('Name').focus();
  // What the example shows is taken: the address, and who asks; the secret leaves the text.
  await expect(page.getByText('Its secret was taken as the credentials')).toBeVisible();
  await expect(page.getByLabel('Base address')).toHaveValue(demo.practice);
  await expect(page.getByLabel('Header')).toHaveValue('X-Archive-Key');
  await expect(page.getByLabel('An example to begin with')).not.toHaveValue(new RegExp(key));
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add and read it' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'By hand' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Read one of specimens' })).toContainText(
    'record_id'.replace('record', 'specimen'),
  );

  await page.getByRole('link', { name: 'Edit Add to specimens' }).click();
  const margin = page.getByRole('complementary');
  await expect(margin).toContainText('Nothing in the body is required.');
  await expect(margin).toContainText('notify is always “no” unless a line fills it.');
  await page.getByRole('checkbox', { name: 'label: required' }).check();
  await page.getByRole('button', { name: 'Add a field' }).click();
  await page.getByLabel('Name of field 4').fill('state');
  await page.getByLabel('state takes').selectOption({ label: 'one option' });
  await page.getByRole('button', { name: 'More of state' }).click();
  await page.getByLabel('Options').fill('W = wet\nD = dry');
  await page.getByLabel('Description').focus();
  await expectAccessible(page);
  // A path that can’t be is refused beside it, and what was typed stays.
  await page.getByLabel('Path', { exact: true }).fill('/archive/v1/old/specimens/{where}');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(page.getByText('“where” stands in the path, and no field fills it.')).toBeVisible();
  await page.getByLabel('Path', { exact: true }).fill('/archive/v1/old/specimens');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(margin).toContainText('Stored.');
  await expect(margin).not.toContainText('Nothing in the body is required.');

  await page.goto('/routes?new');
  await pick(page, 'From the form', /Labels by hand/, 'Labels by hand');
  await pick(page, 'To the target', /By hand|Add to specimens/, 'archive/v1/old');
  await page.getByRole('button', { name: 'Start mapping' }).click();
  // A line for what is always the same need not be filled; the option is sent as the target spells it.
  await fillLine(page, 'label', 'Label');
  await fillLine(page, 'site', 'Site');
  await fillLine(page, 'state', 'How');
  await expect(page.getByText('always no, unless it is filled')).toBeVisible();
  await page.getByRole('button', { name: 'Clean it so' }).click();
  await expect(page.getByText('edits kept')).toBeVisible();

  // The address was an old one: a real try tells, and the operation moves with the call on it.
  await page.goto('/targets');
  await page.getByRole('link', { name: /^By hand/ }).click();
  await page.getByRole('link', { name: 'Edit Add to specimens' }).click();
  await page.getByRole('button', { name: 'Make this request for real' }).click();
  const trial = page.getByRole('region', { name: 'Try it' });
  await trial.getByLabel('label, required').fill('H-0');
  await trial.getByRole('button', { name: 'Send it' }).click();
  await expect(trial).toContainText('(404)');
  await page.getByLabel('Path', { exact: true }).fill('/archive/v1/specimens');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(margin).toContainText('Where it moves, its calls move along.');
  await expect(margin).toContainText('Stored.');
  await trial.getByRole('button', { name: 'Send it' }).click();
  await trial.getByRole('button', { name: 'Learn what it answers' }).click();
  await expect(page.getByRole('region', { name: 'What it answers' })).toContainText('/specimen/id');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(margin).toContainText('Stored.');
  await expectAccessible(page);

  await page.goto('/routes');
  await page.getByRole('link', { name: /Labels by hand/ }).click();
  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Go live now' }).click();
  await expect(page.getByText('version 1')).toBeVisible();
  await page.request.post(address, { data: { label: 'H-2', site: 'Ford', how: 'dry' } });
  const row = page.getByRole('row').filter({ has: page.getByRole('cell', { name: 'H-2', exact: true }) });
  await expect(async () => {
    await page.goto(`${demo.practice}/archive`);
    await expect(row).toContainText('Ford', { timeout: 500 });
  }).toPass();
  await expect(row.getByRole('cell', { name: 'D', exact: true })).toBeVisible();
});
