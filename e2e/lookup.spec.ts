import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { addArchive, archive, expectAccessible, fillLine, openIntake, pick } from './people';

// A target that is searched by POST, wraps its list, and answers a creation otherwise than a search: all of it by pointing.

const jar = (id: string, label: string, note: string) => ({
  entry: { id, sent: '2026-11-05T08:12:06Z' },
  answers: [
    { ref: 'label', label: 'What is on the jar?', value: label },
    { ref: 'site', label: 'Which site?', value: 'Mill Race' },
    { ref: 'about', label: 'What is it about?', value: 'Damage' },
    { ref: 'note', label: 'What did you notice?', value: note },
  ],
});

test('a look-up is composed by pointing at a real answer; what was found or made is one reference from then on', async ({
  page,
}) => {
  const put = (label: string) =>
    page.request.post(`${archive.url}/specimens`, {
      headers: { 'x-archive-key': archive.key },
      data: { label, site: 'Ford' },
    });
  for (const label of ['W-1', 'W-10', 'W-100']) await put(label);
  const address = await openIntake(page, 'Jar labels');
  await page.request.post(address, { data: jar('j-1', 'W-10', 'The lid is loose') });
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('W-10');
  await addArchive(page, 'Archive');

  await page.goto('/routes?new');
  await pick(page, 'Form', /Jar labels/, 'Jar labels');
  await pick(page, 'Target', /Add a specimen/, 'Add a specimen', 'Archive');
  await page.getByRole('button', { name: 'Create route' }).click();
  await fillLine(page, 'label', 'What is on the jar?');
  await fillLine(page, 'site', 'Which site?');

  // Lists of pairs and of rows, part by part.
  const lines = page.getByRole('region', { name: 'Lines', exact: true });
  await page.getByRole('button', { name: /^custom/ }).click();
  await lines.getByRole('radio', { name: 'List' }).check();
  const entry = (number: number) => lines.getByRole('group', { name: `Entry ${number}` });
  await entry(1).getByLabel('Name', { exact: true }).fill('name');
  await entry(1).getByRole('button', { name: 'Fixed value for name' }).click();
  await entry(1).getByLabel('Value of name').fill('taken at');
  await entry(1).getByRole('button', { name: 'Add part' }).click();
  await entry(1).getByLabel('Name', { exact: true }).nth(1).fill('value');
  await pick(page, 'Answer for value', 'Which site?');
  await lines.getByRole('button', { name: 'Add entry' }).click();
  await entry(2).getByRole('button', { name: 'Fixed value for name' }).click();
  await entry(2).getByLabel('Value of name').fill('seen');
  await entry(2).getByRole('combobox', { name: 'Answer for value' }).click();
  await page
    .getByRole('dialog', { name: 'Answer for value' })
    .getByRole('option', { name: /What did you notice/ })
    .click();
  await expect(lines).toContainText('name = always “taken at”, value = Which site?');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^measures/ }).click();
  await lines.getByRole('radio', { name: 'List' }).check();
  await entry(1).getByLabel('Entry type').selectOption({ label: 'row, parts by position' });
  await pick(page, 'Answer for part 1', 'What is on the jar?');
  await entry(1).getByRole('button', { name: 'Add part' }).click();
  await pick(page, 'Answer for part 2', 'Which site?');

  // The search is composed by hand: what it sends, and where in its answer stands what.
  await page.getByRole('button', { name: 'Call settings' }).click();
  const terms = page.getByRole('group', { name: 'Call settings' });
  await terms.getByRole('button', { name: 'Find in another way' }).click();
  await pick(page, 'Look up with', /Search specimens/);
  await pick(page, 'Value of filter.label', /What is on the jar/);
  await expect(terms).toContainText('Send a look-up, then point at the value to compare.');
  await pick(page, 'Other parameters', /^limit/);
  await terms.getByLabel('Value of limit').fill('50');
  await terms.getByRole('button', { name: 'Send the look-up for this sample' }).click();
  await expect(terms).toContainText('Status 200.');
  const answer = terms.getByRole('region', { name: 'Response' });
  await answer.getByRole('button', { name: /^label W-10$/ }).click();
  await expect(terms).toContainText('1 record matches “W-10”.');
  await terms.getByLabel('Record ID').check();
  await answer
    .getByRole('button', { name: /^id \d+/ })
    .first()
    .press('Enter');
  await expect(terms).toContainText('its attributes.label must equal the value');
  await pick(page, 'Update an existing record with', /Change a specimen/);
  await expectAccessible(page);

  // What the next calls need of it is had by reading, and by one reference, whether it was found or made.
  const add = async (operation: RegExp) => {
    await page.getByRole('button', { name: 'Add call' }).click();
    await pick(page, 'Operation', operation, undefined, 'Archive');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
  };
  await add(/Read a specimen/);
  await fillLine(page, 'id', 'Record, found or created, from “Add a specimen”');
  await add(/Add a note/);
  await fillLine(page, 'specimen_id', 'Record, found or created, from “Add a specimen”');
  await fillLine(page, 'text', 'What did you notice?');
  await fillLine(page, 'shelf', 'Shelf from “Read a specimen”');
  // Options that are numbers with a name are met by what people call them.
  await fillLine(page, 'kind', 'What is it about?');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(
    page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^kind over/ }) }),
  ).toContainText('1');
  // A call may have a name of its own.
  await page.getByRole('button', { name: 'Settings of call 3' }).click();
  await terms.getByLabel('Name', { exact: true }).fill('Note what was noticed');
  await expect(page.getByRole('region', { name: 'Calls' })).toContainText('Note what was noticed');
  await expect(page.getByText('Saved')).toBeVisible();

  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Publish now' }).click();
  await expect(page.getByText('version 1')).toBeVisible();
  await page.request.post(address, { data: jar('j-2', 'W-10', 'The lid is loose') });
  await page.request.post(address, { data: jar('j-3', 'W-77', 'New on the shelf') });

  const row = (label: string) =>
    page.getByRole('row').filter({ has: page.getByRole('cell', { name: label, exact: true }) });
  await expect(async () => {
    await page.goto(`${demo.practice}/archive`);
    await expect(row('W-77')).toContainText(/Damage, New on the shelf, shelf \d/, { timeout: 500 });
    await expect(row('W-77')).toContainText('taken at: Mill Race; seen: New on the shelf');
    await expect(row('W-77')).toContainText('W-77 | Mill Race');
    await expect(row('W-10')).toContainText(/Mill Race.*The lid is loose, shelf \d/, { timeout: 500 });
  }).toPass();
  await expect(row('W-1')).toContainText('Ford');
  await expect(row('W-10')).toHaveCount(1);
});
