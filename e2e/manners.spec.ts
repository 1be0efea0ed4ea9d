import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { addArchive, archive, expectAccessible, fillLine, openIntake, pick } from './people';

// Manners of targets that are found everywhere: a refusal with status 200, a notice of an identifier whose details are fetched.

const addSpecimen = (page: Page, label: string) =>
  page.request.post(`${archive.url}/specimens`, {
    headers: { 'x-archive-key': archive.key },
    data: { label, site: 'Mill Race', state: 'cloudy' },
  });

/** What the archive’s page shows of a specimen. */
const specimen = (page: Page, label: string) =>
  page.getByRole('row').filter({ has: page.getByRole('cell', { name: label, exact: true }) });

test('a key is tested before anything is sent; a refusal with status 200 is told, and a value in it decides', async ({
  page,
}) => {
  const made = (await (await addSpecimen(page, 'M-1')).json()) as { specimen: { id: number } };
  const address = await openIntake(page, 'Loans');
  const loan = (borrower: string) =>
    page.request.post(address, { data: { submission_id: `loan-${borrower}`, specimen: made.specimen.id, borrower } });
  await loan('Wen Xiu');
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Wen Xiu');
  await addArchive(page, 'Loan desk');
  await page.getByRole('button', { name: 'Test and read again' }).click();
  await expect(page.getByText(/The credentials work: .* is answered only with them/)).toBeVisible();

  await page.goto('/routes?new');
  await pick(page, 'Form', /Loans/, 'Loans');
  await pick(page, 'Target', /Lend a specimen/, 'Lend', 'Loan desk');
  await page.getByLabel('Name').fill('Loans to the archive');
  await page.getByRole('button', { name: 'Create route' }).click();
  await fillLine(page, 'specimen_id', 'Specimen');
  await fillLine(page, 'borrower', 'Borrower');
  await page.keyboard.press('Escape');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Publish now' }).click();
  await expect(page.getByText('version 1')).toBeVisible();
  await loan('Tom Fell');
  await loan('Ada Reed');
  const route = new URL(page.url()).pathname;
  // The second was answered with 200 and “no”: what was answered is counted, and one click makes it decide.
  const terms = page.getByRole('group', { name: 'Call settings' });
  await expect(async () => {
    await page.goto(route);
    await page.getByRole('button', { name: 'Call settings' }).click();
    await terms.getByRole('button', { name: 'Change' }).click();
    await expect(terms.getByRole('button', { name: 'Success if state is “yes” (1 of 2)' })).toBeVisible({
      timeout: 3000,
    });
  }).toPass();
  await terms.getByRole('button', { name: 'Success if state is “yes” (1 of 2)' }).click();
  await expect(terms).toContainText('1 of 2 recorded responses would count as a success.');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Publish changes…' }).click();
  await page.getByRole('button', { name: 'Publish now' }).click();
  await expect(page.getByText('version 2')).toBeVisible();
  await loan('Rosa Lind');
  await page.goto('/deliveries?state=dead');
  await expect(page.getByText(/the response says no: state is “no”/).first()).toBeVisible();
  await page.goto(`${demo.practice}/archive`);
  await expect(specimen(page, 'M-1')).toContainText('Tom Fell');
});

test('a notice of an identifier starts a route: its details are fetched, and of their list each item is sent', async ({
  page,
}) => {
  const address = await openIntake(page, 'Specimen notices');
  await page.request.post(`${demo.practice}/archive/notices`, { form: { address } });
  await addSpecimen(page, 'M-2');
  await page.getByRole('button', { name: 'Correct…' }).click();
  await page.getByLabel('List of submissions', { exact: true }).check();
  await page.getByRole('button', { name: /^responseId \d+/ }).click();
  await page.getByRole('button', { name: 'Save and read again' }).click();
  await expect(page.getByText('Read as:')).toContainText('as pinned');

  await addArchive(page, 'Notice desk');
  await page.goto('/routes?new');
  await pick(page, 'Form', /Specimen notices/, 'Specimen notices');
  await pick(page, 'Target', /Add a note/, 'Add a note', 'Notice desk');
  await page.getByLabel('Name').fill('Tags to notes');
  await page.getByRole('button', { name: 'Create route' }).click();
  await page.getByRole('button', { name: 'Add call' }).click();
  await pick(page, 'Operation', /Read a specimen/, 'Read a specimen', 'Notice desk');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await fillLine(page, 'id', 'Submission id');
  await page.getByRole('button', { name: 'Settings of call 2' }).click();
  const terms = page.getByRole('group', { name: 'Call settings' });
  await terms.getByRole('button', { name: 'Move up' }).click();
  await page.keyboard.press('Escape');
  await page
    .getByRole('region', { name: 'Calls' })
    .getByRole('button', { name: /Add a note/ })
    .click();
  await page.getByRole('button', { name: 'Settings of call 2' }).click();
  await pick(page, 'Runs', /list tags from “Read a specimen”/);
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await fillLine(page, 'specimen_id', 'Id from “Read a specimen”');
  await fillLine(page, 'text', 'name of one of list tags from “Read a specimen”');
  await page.keyboard.press('Escape');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();

  // What is looked up for the sample is really asked for: from then on the lines show it.
  await page.getByRole('radio', { name: 'Requests' }).click();
  await expect(page.getByText(/"tags"/).first()).toBeVisible();
  await page.getByRole('radio', { name: 'Lines' }).click();
  await expect(page.getByRole('region', { name: 'Lines', exact: true })).toContainText('Mill Race');

  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Publish now' }).click();
  await expect(page.getByText('version 1')).toBeVisible();
  await addSpecimen(page, 'M-3');
  await expect(async () => {
    await page.goto(`${demo.practice}/archive`);
    await expect(specimen(page, 'M-3')).toContainText('Mill Race; cloudy', { timeout: 500 });
  }).toPass();
  await page.request.post(`${demo.practice}/archive/notices`, { form: { address: '' } });
});
