import { createTransport } from 'nodemailer';
import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, openIntake } from './people';

/** Nothing in it is named for what it is: only a person can say which is which. */
const odd = (site: string) => ({
  blk: { n: 'kit-form', z: 'x-1' },
  rows: [
    { w: 'k1', p: 'Which site?', x: site, y: 'n/a' },
    { w: 'k2', p: 'How many kits?', x: '3', y: 'n/a' },
  ],
});

const answers = (page: Page) => page.getByRole('region', { name: 'Answers' }).getByRole('listitem');
const place = (page: Page, text: string | RegExp) =>
  page.getByRole('region', { name: 'Structure' }).getByRole('button', { name: text });

test('a reading is overruled by pointing, tried on all that was recorded, and kept', async ({ page, request }) => {
  const address = await openIntake(page, 'Odd builder');
  for (const site of ['Mill Race', 'Otter Weir']) await request.post(address, { data: odd(site) });
  await request.post(address, { data: { plain: 'one', other: 'two' } });
  await expect(page.getByRole('list', { name: 'Messages, newest first' }).getByRole('listitem')).toHaveCount(3);
  await page.keyboard.press('l');
  await expect(page.getByRole('region', { name: 'The message', exact: true })).toContainText('Otter Weir');

  await page.keyboard.press('o');
  await page.getByLabel('Question text').check();
  await place(page, 'rows [2]').click();
  await expect(page.getByRole('alert')).toContainText('Point at a text');
  await place(page, /^p Which site/).press('Enter');
  await page.getByLabel('Answer value').check();
  await place(page, /^x Otter Weir/).click();
  await page.getByLabel('Form ID').check();
  await place(page, /^n kit-form/).click();
  const column = page.getByRole('region', { name: 'Correct the reading' });
  await expect(column).toContainText('On all 3 messages: 2 read differently');
  await expect(column).toContainText('1 lack the pinned places');
  await expect(answers(page)).toContainText(['Which site?', 'How many kits?']);
  await expect(answers(page).first()).toContainText('Otter Weir');
  await expectAccessible(page);

  await column.getByRole('button', { name: 'Show them' }).click();
  await expect(page.getByRole('dialog', { name: 'Effect of the pins' })).toContainText('How many kits?');
  await page.keyboard.press('Escape');
  await column.getByRole('button', { name: 'Save and read again' }).click();
  await expect(page.getByText('3 of 3 messages were read again.')).toBeVisible();
  await expect(page.getByRole('complementary')).toContainText('as pinned');
  await expect(page.getByRole('complementary')).toContainText('kit-form');
  await request.post(address, { data: odd('Ford') });
  await page.keyboard.press('h');
  await page.keyboard.press('h');
  await expect(answers(page).first()).toContainText('Ford');
});

test('a form that is new at an intake is adopted or ignored', async ({ page, request }) => {
  const address = await openIntake(page, 'Many forms');
  const form = (id: string) => ({ form_id: id, form_name: `The ${id}`, answers: { site: 'Ford', ph: '7' } });
  for (const id of ['first', 'second', 'third']) await request.post(address, { data: form(id) });
  const margin = page.getByRole('complementary');
  await expect(margin.getByText('New form: The second')).toBeVisible();
  await margin.getByText('New form: The second').getByRole('button', { name: 'Use form' }).click();
  await margin.getByText('New form: The third').getByRole('button', { name: 'ignore it' }).click();
  await expect(margin).toContainText('2 forms use this address');
  await expect(margin).toContainText('Ignored here: The third');
  await page.goto('/routes?new');
  await page.getByRole('combobox', { name: 'Form' }).click();
  await page.getByRole('dialog', { name: 'Form' }).getByRole('combobox').fill('The');
  await expect(page.getByRole('option', { name: /The second/ })).toHaveCount(1);
  await expect(page.getByRole('option', { name: /The third/ })).toHaveCount(0);
});

test('mails in running text are read after a person put one right', async ({ page }) => {
  await openIntake(page, 'Running mail');
  const to = await page.getByRole('main').locator('code').nth(1).innerText();
  const transport = createTransport({ host: '127.0.0.1', port: demo.port + 1, ignoreTLS: true });
  const mail = (teacher: string, school: string, day: string) =>
    transport.sendMail({
      from: 'office@school.example.org',
      to,
      subject: 'A visit',
      text: `Hello,\n${teacher} of ${school} would like to visit on ${day}.\nKind regards\nThe office`,
    });
  await mail('Miss Quill', 'Fernhollow School', '12 May');
  await mail('Mr Oakes', 'Basin Primary', '3 June');
  await expect(page.getByRole('list', { name: 'Messages, newest first' }).getByRole('listitem')).toHaveCount(2);

  await page.keyboard.press('o');
  await page.getByRole('button', { name: 'Mark values in running text' }).click();
  await page.getByRole('button', { name: 'Add a question' }).click();
  await page.getByLabel('Question 1', { exact: true }).fill('Teacher');
  const text = page.getByLabel('Select a value in the text, then choose its question');
  await text.focus();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('ArrowDown');
  for (const _ of 'Mr Oakes') await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: 'Use selection for Teacher' }).click();
  await expect(page.getByLabel('Value 1', { exact: true })).toHaveValue('Mr Oakes');
  await page.getByLabel('Question 2', { exact: true }).fill('School');
  await page.getByLabel('Value 2', { exact: true }).fill('Basin Primary');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Learn from 1 message' }).click();
  await expect(page.getByText('On all 2 messages: 2 read differently')).toBeVisible();
  await page.getByRole('button', { name: 'Save and read again' }).click();
  await expect(page.getByText('2 of 2 messages were read again.')).toBeVisible();
  await page.keyboard.press('l');
  await expect(answers(page)).toContainText(['Teacher', 'School']);
  await expect(answers(page).first()).toContainText('Miss Quill');
});

test('what arrives while somebody points does not take the place of the message that is pointed at', async ({
  page,
}) => {
  const address = await openIntake(page, 'Pointed at');
  const say = (n: number) =>
    page.request.post(address, { data: { submission_id: `p${n}`, site: `AB-0${n}`, note: 'x' } });
  const arrivals = page.getByRole('list', { name: 'Messages, newest first' }).getByRole('listitem');
  await say(1);
  await expect(arrivals).toHaveCount(1);
  await expect(answers(page).first()).toContainText('AB-01');
  await page.keyboard.press('o');
  await expect(page.getByRole('radio', { name: 'Form ID' })).toBeVisible();
  await say(2);
  await expect(arrivals).toHaveCount(2);
  await expect(page.getByRole('main')).toContainText('AB-01');
  // Once nobody points any more the newest is followed again.
  await page.keyboard.press('o');
  await expect(answers(page).first()).toContainText('AB-02');
});

test('a feed is read on demand, and what is new in it appears', async ({ page, context }) => {
  await page.goto('/intakes');
  await page.getByRole('main').getByRole('link', { name: 'Site access log' }).click();
  const feed = page.getByRole('region', { name: 'Feed' });
  await expect(feed).toContainText('/builders/site-access-log/rows');
  await expectAccessible(page);
  const builder = await context.newPage();
  await builder.goto(`${demo.practice}/builders/site-access-log`);
  await builder.getByLabel('Site').selectOption('Heron Steps (AB-09)');
  await builder.getByLabel('Who').fill('Gate Keeper');
  await builder.getByLabel('Went in').fill('09:10');
  await builder.getByRole('button', { name: 'Write it down' }).click();
  await expect(builder.getByRole('status')).toContainText('written down');
  await feed.getByRole('button', { name: 'Poll now' }).click();
  await expect(feed.getByRole('status')).toContainText('1 new submission');
  await expect(answers(page).filter({ hasText: 'Gate Keeper' })).toBeVisible();
  await feed.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('When').selectOption('every hour');
  await page.getByLabel('URL to poll').fill('no address');
  await page.getByRole('button', { name: 'Save and poll' }).click();
  await expect(page.getByText('! Enter a URL that starts with http:// or https://.')).toBeVisible();
});

test('samples are named and kept, and varied by hand or by suggestion', async ({ page }) => {
  await page.goto('/intakes');
  await page.getByRole('main').getByRole('link', { name: 'Volunteers' }).click();
  await page.getByRole('complementary').getByRole('link', { name: 'Volunteer sign-up', exact: true }).click();
  const list = page.getByRole('region', { name: 'Submissions' });
  await list.getByRole('listitem').nth(2).getByRole('button').first().click();
  await list.getByLabel('Name of this sample').fill('The usual volunteer');
  await list.getByRole('button', { name: 'Save name' }).click();
  await expect(list.getByRole('listitem').nth(2)).toContainText('kept');
  await list.getByRole('button', { name: 'Create variant' }).click();
  await page.getByLabel('Name of the variant').fill('Nobody’s phone');
  await page.getByLabel('Phone', { exact: true }).fill('ask my mum');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save variant' }).click();
  await expect(list.getByRole('listitem').first()).toContainText('Nobody’s phone');
  await expect(list.getByRole('listitem').first()).toContainText('ask my mum');

  const ideas = page.getByRole('region', { name: 'Suggested variants' });
  await ideas.getByRole('button', { name: 'Add the variant: One option' }).click();
  await expect(list.getByRole('listitem').first()).toContainText('One option');
  await expect(ideas).not.toContainText('One option');
  await list.getByRole('listitem').first().getByRole('button').first().click();
  await list.getByRole('button', { name: 'Remove' }).click();
  await list.getByRole('button', { name: 'Remove' }).click();
  await expect(list).not.toContainText('One option');
});

test.describe('the practice builders', () => {
  const arrived = async (page: Page, intake: string, text: string) => {
    await page.goto('/intakes');
    await page.getByRole('main').getByRole('link', { name: intake }).click();
    await expect(answers(page).filter({ hasText: text }).first()).toBeVisible();
  };

  test('kit request: a table and an address, by GET in the earlier generation', async ({ page }) => {
    await page.goto(`${demo.practice}/builders/kit-request`);
    await page.getByLabel('Sent by').selectOption('GET');
    await page.getByLabel('Payload').selectOption('a list for each column');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByLabel('Your name').fill('Ada Waterway');
    await page.getByLabel('Your e-mail').fill('ada@example.org');
    await page.getByLabel('Kit, row 1').selectOption('Thermometer');
    await page.getByLabel('Quantity, row 1').fill('2');
    await page.getByLabel('Town').fill('Alderton');
    await page.getByRole('button', { name: 'Ask for it' }).click();
    await expect(page.getByRole('status')).toContainText('Thank you');
    await arrived(page, 'Requests and alerts', 'Ada Waterway');
    await expect(answers(page).filter({ hasText: 'Thermometer' })).toBeVisible();
  });

  test('incident alert: the photo comes along', async ({ page }) => {
    await page.goto(`${demo.practice}/builders/incident-alert`);
    await page.getByLabel('How bad is it?').selectOption('Severe');
    await page.getByLabel('What happened?').fill('Two dead otters by the lock.');
    await page.getByLabel('Where?').selectOption('Somewhere else');
    await page.getByLabel('Your name').fill('Bo Lockkeeper');
    const photo = { name: 'otters é.png', mimeType: 'image/png', buffer: Buffer.alloc(2_000_000, 3) };
    await page.getByLabel('Photos or video').setInputFiles(photo);
    await page.getByRole('button', { name: 'Raise the alert' }).click();
    await expect(page.getByRole('status')).toContainText('Thank you');
    await arrived(page, 'Requests and alerts', 'Bo Lockkeeper');
    await expect(answers(page).filter({ hasText: 'otters é.png (2 MB)' })).toBeVisible();
  });

  test('school visit: by mail, and a test of it', async ({ page }) => {
    await page.goto(`${demo.practice}/builders/school-visit`);
    await page.getByLabel('School').fill('Alder Academy');
    await page.getByLabel('Teacher').fill('Ms Reed');
    await page.getByLabel('E-mail').fill('reed@example.org');
    await page.getByLabel('What should we know?').fill('We come\nby boat.');
    await page.getByRole('button', { name: 'Ask us' }).click();
    await expect(page.getByRole('status')).toContainText('Thank you');
    await arrived(page, 'School mail', 'Alder Academy');
    await page.goto(`${demo.practice}/builders/school-visit`);
    await page.getByRole('button', { name: 'Send a test' }).click();
    await expect(page.getByRole('status')).toContainText('Thank you');
    await arrived(page, 'School mail', 'Test Teacher');
  });
});
