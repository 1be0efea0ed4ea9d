import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, pick, part } from './people';

// Routes that make several calls, from the form that is filled in to what the targets hold.

/** Opens the newest delivery that tells of these words. */
async function openDelivery(page: Page, about: string): Promise<void> {
  // The list tells of what becomes of them while it is open.
  await page.goto(`/deliveries?search=${encodeURIComponent(about)}`);
  const row = page.getByRole('main').getByRole('listitem').filter({ hasText: about }).filter({ hasText: 'delivered' });
  await row.first().getByRole('link').first().click();
  await expect(page.getByRole('region', { name: /^Request of/ }).first()).toBeVisible();
}

const rowOn = async (page: Page, place: string, text: string) => {
  await page.goto(`${demo.practice}${place}`);
  return page.getByRole('row').filter({ hasText: text });
};

async function signUp(page: Page, answers: { name: string; mail: string; address?: string }): Promise<void> {
  await page.goto(`${demo.practice}/builders/volunteer-sign-up`);
  await page.getByLabel(/^Full name/).fill(answers.name);
  await page.getByLabel(/^E-mail/).fill(answers.mail);
  if (answers.address) await page.getByRole('textbox', { name: /^Address(?! that)/ }).fill(answers.address);
  await page.getByLabel('I agree that you keep my details').check();
  await page.getByRole('button', { name: 'Sign up' }).click();
  await expect(page.getByRole('status')).toContainText('Thank you');
}

async function raiseAlert(page: Page, what: string, severity: string, photos: number): Promise<void> {
  await page.goto(`${demo.practice}/builders/incident-alert`);
  await page.getByLabel('How bad is it?').selectOption(severity);
  await page.getByLabel('What happened?').fill(what);
  await page.getByLabel('Where?').selectOption('Somewhere else');
  await page.getByLabel('Your name').fill('Bo Lockkeeper');
  const files = Array.from({ length: photos }, (_, index) => ({
    name: `otters ${index + 1}.gif`,
    mimeType: 'image/gif',
    buffer: Buffer.concat([Buffer.from('GIF89a'), Buffer.alloc(1000 + index, index)]),
  }));
  if (photos > 0) await page.getByLabel('Photos or video').setInputFiles(files);
  await page.getByRole('button', { name: 'Raise the alert' }).click();
  await expect(page.getByRole('status')).toContainText('Thank you');
}

test('a volunteer who is known is updated, only blank fields filled; a new one is created', async ({ page }) => {
  const mail = 'isolde.weir@example.org';
  await signUp(page, { name: 'Isolde Weir', mail });
  await openDelivery(page, 'Isolde Weir');
  await expect(page.getByRole('region', { name: 'Result' })).toContainText(
    'No existing record found; created a new one.',
  );

  await signUp(page, {
    name: 'Isolde Weir-Marsh',
    mail: mail.toUpperCase(),
    address: '14 Weir Lane, Fernhollow, FH3 9ZZ',
  });
  await openDelivery(page, 'Isolde Weir-Marsh');
  await expect(page.getByRole('region', { name: 'Result' })).toContainText('Changed an existing record.');
  const request = page.getByRole('region', { name: 'Request of 1 Create a contact: change' });
  await expect(request).toContainText('PATCH /roster/v1/contacts/');
  await expect(request).toContainText('14 Weir Lane');
  await expect(request).not.toContainText('given_name');
  await expectAccessible(page);
  const row = await rowOn(page, '/roster', mail);
  await expect(row).toHaveCount(1);
  await expect(row).toContainText('Weir-Marsh');

  await test.step('the run shows what would change before anything is sent', async () => {
    await page.goto('/routes');
    await page.getByRole('link', { name: /^Volunteer sign-up to Roster/ }).click();
    await page.getByRole('radio', { name: 'Requests' }).click();
    const would = page.getByRole('region', { name: 'What would be sent' });
    await expect(would).toContainText('GET /roster/v1/contacts?email=isolde.weir%40example.org');
    await expect(would).toContainText('No difference, so nothing was sent.');
    await page.getByRole('button', { name: 'Next sample' }).click();
    await expect(would).toContainText('PATCH /roster/v1/contacts/');
    await expect(would.getByRole('row').filter({ hasText: 'family_name' })).toContainText('Weir-MarshWeir');
    await expectAccessible(page);
    await page.getByRole('radio', { name: 'Lines' }).click();
    await page.getByRole('button', { name: 'family_name', exact: true }).click();
    await page.getByLabel('For an existing record').selectOption('do not change');
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.getByRole('radio', { name: 'Requests' }).click();
    await expect(would).toContainText('No difference, so nothing was sent.');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  });
});

test('a ticket with no, one and three files; a severe one mails the coordinator; read-back sees what was cut off', async ({
  page,
}) => {
  await raiseAlert(page, 'Nothing to see', 'Low', 0);
  await openDelivery(page, 'Nothing to see');
  await expect(page.getByRole('region', { name: 'Result' }).getByRole('listitem')).toHaveCount(1);
  await expect((await rowOn(page, '/labdesk', 'Nothing to see')).getByRole('link')).toHaveCount(0);

  await raiseAlert(page, 'One otter', 'Worrying', 1);
  await openDelivery(page, 'One otter');
  await expect((await rowOn(page, '/labdesk', 'One otter')).getByRole('link')).toHaveText(['otters 1.gif']);

  await raiseAlert(page, 'Three dead otters by the lock, and foam as far as one can see', 'Severe', 3);
  await openDelivery(page, 'Somewhere else · Bo Lockkeeper');
  const done = page.getByRole('region', { name: 'Result' });
  await expect(done).toContainText('2 Attach a file to a ticket, item 3');
  await expect(done).toContainText('3 Put a file on the shelf, item 3');
  await expect(done).toContainText('4 Send a mail');
  const readBack = done.getByRole('region', { name: /^Read back/ });
  await expect(readBack.getByRole('row').filter({ hasText: 'subject' })).toContainText('cut off');
  await expectAccessible(page);
  const ticket = await rowOn(page, '/labdesk', 'Three dead otters');
  await expect(ticket.getByRole('link')).toHaveText(['otters 1.gif', 'otters 2.gif', 'otters 3.gif']);
  await expect(ticket).toContainText('urgent');
  await page.goto(`${demo.practice}/outbox`);
  const mail = page.getByRole('article').filter({ hasText: 'Three dead otters' });
  await expect(mail).toContainText('from alerts@example.org to coordinator@example.org');
  await expect(mail).toContainText('otters 3.gif (1008 bytes)');
  await expect(page.getByRole('article').filter({ hasText: 'One otter' })).toHaveCount(0);
  await expectAccessible(page);
});

test('a kit request becomes a record, a record for each kit, and a ticket', async ({ page }) => {
  await page.goto(`${demo.practice}/builders/kit-request`);
  await page.getByLabel('Your name').fill('Quill Thistlewood');
  await page.getByLabel('Your e-mail').fill('quill@example.org');
  await page.getByLabel('Kit, row 1').selectOption('Thermometer');
  await page.getByLabel('Quantity, row 1').fill('2');
  await page.getByLabel('Kit, row 2').selectOption('Nitrate test');
  await page.getByLabel('Quantity, row 2').fill('11');
  await page.getByLabel('Town').fill('Alderton');
  await page.getByRole('button', { name: 'Ask for it' }).click();
  await openDelivery(page, 'Quill Thistlewood');
  await expect(page.getByRole('region', { name: 'Result' }).getByRole('listitem')).toHaveCount(4);
  const number = await (
    await rowOn(page, '/register?table=kit_requests', 'Quill Thistlewood')
  )
    .getByRole('cell')
    .first()
    .innerText();
  const items = page.getByRole('row').filter({ has: page.getByRole('cell', { name: number, exact: true }) });
  await page.goto(`${demo.practice}/register?table=kit_items`);
  await expect(items).toHaveCount(2);
  await expect(items.filter({ hasText: 'Nitrate test' })).toContainText('11');
  await expect(await rowOn(page, '/labdesk', `Kit request ${number} of Quill Thistlewood`)).toHaveCount(1);
});

test('calls are added, repeated and ordered, with the keyboard too', async ({ page }) => {
  await page.goto('/routes?new');
  await pick(page, 'Form', /^Sampling report.*Field team forms/, 'Sampling report');
  await pick(page, 'Target', 'Open a ticket');
  await page.getByLabel('Name').fill('Reports to the desk');
  await page.getByRole('button', { name: 'Create route' }).click();
  const calls = page.getByRole('region', { name: 'Calls' });
  await expect(calls.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('button', { name: 'Add call' }).click();
  await pick(page, 'Operation', 'Attach a file to a ticket');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(calls.getByRole('listitem')).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'filerequired' })).toBeVisible();

  await page.keyboard.press('m');
  await pick(page, 'Runs', 'Photos');
  await page.getByLabel('If it fails').selectOption('continue, and note the error');
  await expectAccessible(page);
  await expect(calls.getByRole('listitem').nth(1)).toContainText('for each of “Photos” · skipped if it fails');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'idrequired' }).click();
  const which = page.getByRole('combobox', { name: 'Answer' });
  await which.fill('Id from');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'filerequired' }).click();
  await page.getByRole('combobox', { name: 'Answer' }).fill('one of “Photos”');
  await page.keyboard.press('Enter');
  await expect(part(page, 'Mapping')).toContainText('2 calls');

  await page.keyboard.press('Escape');
  await page.locator('body').click({ position: { x: 5, y: 5 } });
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: /^subject/ })).toBeVisible();
  await page.keyboard.press('c');
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Next problem' }).click();
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'Remove call' }).click();
  await expect(calls.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(calls.getByRole('listitem')).toHaveCount(2);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
});

test('targets are made from a document, an example and files; a broken one says what is wrong with it', async ({
  page,
}) => {
  const add = async (name: string, reads: string) => {
    await page.goto('/targets?new');
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Operations from').selectOption({ label: reads });
  };
  await add('Stockroom', 'nothing: add operations by hand or from examples');
  await page
    .getByLabel('Examples')
    .fill(
      `curl https://stock.example.org/v3/orders -H 'X-Trace: on' -d '{"sku":"PH-50","ship":{"town":"Fernhollow"}}'`,
    );
  await page.getByLabel('Credentials').selectOption({ label: 'OAuth 2 client credentials' });
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByText('Enter the client ID.')).toBeVisible();
  await page.getByLabel('Credentials').selectOption({ label: 'none' });
  await expect(page.getByLabel('Base address')).toHaveValue('https://stock.example.org');
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByRole('region', { name: 'Add to orders' })).toContainText('ship.town');

  await add('Visits', 'nothing: write rows to files on this server');
  await page.getByLabel('Folder').fill('file://visits');
  await page.getByLabel('Files and columns').fill('visits.csv');
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByText('does not read like “visits.csv: school, pupils, day”')).toBeVisible();
  await page.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('Files and columns').fill('visits.csv: school, pupils, day');
  await page.getByRole('button', { name: 'Save and read' }).click();
  await expect(page.getByRole('region', { name: 'Append a row to visits.csv' })).toContainText('pupils');

  await add('Broken', 'an OpenAPI document');
  await page.getByLabel('Base address').fill('https://broken.example.org');
  await page.getByRole('button', { name: 'Paste the document text' }).click();
  await page.getByLabel('OpenAPI document').fill('openapi: 3.1.0\npaths:\n  /a: { $ref: "#/paths/~1a" }');
  await page.getByLabel('Credentials').selectOption({ label: 'none' });
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByText('The document offers no operation.')).toBeVisible();
});
