import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillLine, openIntake, pick } from './people';

// A target that is searched by POST, wraps its list, and tells what it makes otherwise than what it finds: all of it by pointing.

const key = 'yard-archive-3c7f';
const archive = `${demo.practice}/archive/v1`;

async function addArchive(page: Page): Promise<void> {
  await page.goto('/targets?new');
  await page.getByLabel('Name').fill('Archive');
  await page.getByLabel('Base address').fill(archive);
  await page.getByLabel('Is read from').selectOption({ label: 'an OpenAPI document' });
  await page.getByLabel('Credentials').selectOption({ label: 'an API key in a header' });
  await page.getByLabel('Header').fill('X-Archive-Key');
  await page.getByLabel('Key', { exact: true }).fill(key);
  await page.getByRole('button', { name: 'Add and read it' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Archive' })).toBeVisible();
}

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
    page.request.post(`${archive}/specimens`, { headers: { 'x-archive-key': key }, data: { label, site: 'Ford' } });
  for (const label of ['W-1', 'W-10', 'W-100']) await put(label);
  const address = await openIntake(page, 'Jar labels');
  await page.request.post(address, { data: jar('j-1', 'W-10', 'The lid is loose') });
  await expect(page.getByRole('region', { name: 'What was answered' })).toContainText('W-10');
  await addArchive(page);

  await page.goto('/routes?new');
  await pick(page, 'From the form', /Jar labels/, 'Jar labels');
  await pick(page, 'To the target', /Add a specimen/, 'Add a specimen');
  await page.getByRole('button', { name: 'Start mapping' }).click();
  await fillLine(page, 'label', 'What is on the jar?');
  await fillLine(page, 'site', 'Which site?');

  // Lists of pairs and of rows, part by part.
  const lines = page.getByRole('region', { name: 'Lines', exact: true });
  await page.getByRole('button', { name: /^custom/ }).click();
  await lines.getByRole('radio', { name: 'a list, part by part' }).check();
  const entry = (number: number) => lines.getByRole('group', { name: `Entry ${number}` });
  await entry(1).getByLabel('Name', { exact: true }).fill('name');
  await entry(1).getByRole('button', { name: 'Always the same for name' }).click();
  await entry(1).getByLabel('Value of name').fill('taken at');
  await entry(1).getByRole('button', { name: 'Add a part' }).click();
  await entry(1).getByLabel('Name', { exact: true }).nth(1).fill('value');
  await pick(page, 'Answer for value', 'Which site?');
  await lines.getByRole('button', { name: 'Add an entry' }).click();
  await entry(2).getByRole('button', { name: 'Always the same for name' }).click();
  await entry(2).getByLabel('Value of name').fill('seen');
  await entry(2).getByRole('combobox', { name: 'Answer for value' }).click();
  await page
    .getByRole('dialog', { name: 'Answer for value' })
    .getByRole('option', { name: /What did you notice/ })
    .click();
  await expect(lines).toContainText('name = always “taken at”, value = Which site?');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^measures/ }).click();
  await lines.getByRole('radio', { name: 'a list, part by part' }).check();
  await entry(1).getByLabel('It is').selectOption({ label: 'a row, parts by position' });
  await pick(page, 'Answer for part 1', 'What is on the jar?');
  await entry(1).getByRole('button', { name: 'Add a part' }).click();
  await pick(page, 'Answer for part 2', 'Which site?');

  // The search is composed by hand: what it sends, and where in its answer stands what.
  await page.getByRole('button', { name: 'How it is made' }).click();
  const terms = page.getByRole('group', { name: 'How the call is made' });
  await terms.getByRole('button', { name: 'Find it another way' }).click();
  await pick(page, 'It is looked up with', /Search specimens/);
  await pick(page, 'What is looked for as filter.label', /What is on the jar/);
  await expect(terms).toContainText('Ask it, and point at what of a record must be what is looked for.');
  await pick(page, 'Also sent', /^limit/);
  await terms.getByLabel('Sent as limit').fill('50');
  await terms.getByRole('button', { name: 'Ask it now, for this sample' }).click();
  await expect(terms).toContainText('It answered 200.');
  const answer = terms.getByRole('region', { name: 'What it answered' });
  await answer.getByRole('button', { name: /^label W-10$/ }).click();
  await expect(terms).toContainText('1 record in it is “W-10”.');
  await terms.getByLabel('This identifies the record').check();
  await answer
    .getByRole('button', { name: /^id \d+/ })
    .first()
    .press('Enter');
  await expect(terms).toContainText('its attributes.label must be exactly this');
  await pick(page, 'One that is found is changed with', /Change a specimen/);
  await expectAccessible(page);

  // What the next calls need of it is had by reading, and by one reference, whether it was found or made.
  const add = async (operation: RegExp) => {
    await page.getByRole('button', { name: 'Add a call' }).click();
    await pick(page, 'What is to be done', operation);
    await page.getByRole('button', { name: 'Add it' }).click();
  };
  await add(/Read a specimen/);
  await fillLine(page, 'id', 'Record, found or made, from “Add a specimen”');
  await add(/Add a note/);
  await fillLine(page, 'specimen_id', 'Record, found or made, from “Add a specimen”');
  await fillLine(page, 'text', 'What did you notice?');
  await fillLine(page, 'shelf', 'Shelf from “Read a specimen”');
  // Options that are numbers with a name are met by what people call them.
  await fillLine(page, 'kind', 'What is it about?');
  await page.getByRole('button', { name: 'Clean it so' }).click();
  await expect(
    page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^kind over/ }) }),
  ).toContainText('1');
  // A call may have a name of its own.
  await page.getByRole('button', { name: 'How call 3 is made' }).click();
  await terms.getByLabel('Its name').fill('Note what was noticed');
  await expect(page.getByRole('region', { name: 'Calls' })).toContainText('Note what was noticed');
  await expect(page.getByText('edits kept')).toBeVisible();

  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Go live now' }).click();
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
