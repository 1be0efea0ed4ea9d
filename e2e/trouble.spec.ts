import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillReport, openIntake, pointBuilderAt, setFault, part } from './people';

test.describe('what comes in broken is kept, shown, and says what to do', () => {
  const cases: [string, { data: string | Buffer; headers: Record<string, string> }, RegExp][] = [
    [
      'malformed JSON',
      { data: Buffer.from('{"site": "AB-07",]'), headers: { 'content-type': 'application/json' } },
      /This is not JSON: .* at line 1, column 18/,
    ],
    ['an empty body', { data: Buffer.alloc(0), headers: { 'content-type': 'application/json' } }, /The body is empty/],
    [
      'a wrong Content-Type',
      { data: Buffer.from('{"site":"AB-07"}'), headers: { 'content-type': 'application/x-www-form-urlencoded' } },
      /Stated as application\/x-www-form-urlencoded, but it reads as JSON/,
    ],
  ];
  for (const [name, options, says] of cases) {
    test(name, async ({ page, request }) => {
      const address = await openIntake(page, `Broken: ${name}`);
      expect((await request.post(address, options)).status()).toBe(202);
      await expect(page.getByRole('complementary')).toContainText(says);
      await expect(page.getByRole('list', { name: 'Messages, newest first' }).getByRole('listitem')).toHaveCount(1);
      await expectAccessible(page);
    });
  }

  test('what could not be read is set aside, told on the Desk, and read again when a person asks, by keyboard too', async ({
    page,
    request,
  }) => {
    const address = await openIntake(page, 'Set aside');
    await request.post(address, {
      data: Buffer.from('<report><site>'),
      headers: { 'content-type': 'application/xml' },
    });
    const margin = page.getByRole('complementary');
    await expect(margin).toContainText('It is stored unread.');
    const asked = page.waitForResponse(answer => /\/arrivals\/\w+\/read$/.test(answer.url()));
    await margin.getByRole('button', { name: 'Read again' }).focus();
    await page.keyboard.press('Enter');
    expect((await asked).status()).toBe(202);
    await expect(margin).toContainText('It is stored unread.');
    await expectAccessible(page);
    await page.goto('/');
    await page.getByRole('link', { name: /^Open newest/ }).click();
    await expect(page.getByRole('region', { name: 'Raw message', exact: true })).toContainText('<report><site>');
  });

  test('a body of 50 MB', async ({ page, request }) => {
    const address = await openIntake(page, 'Too large');
    const answer = await request.post(address, {
      data: Buffer.alloc(50_000_000, 'x'),
      headers: { 'content-type': 'text/plain' },
      timeout: 30_000,
    });
    expect(answer.status()).toBe(413);
    await expect(page.getByRole('complementary')).toContainText('50.0 MB is more than this intake’s limit of 10.0 MB');
    await expect(page.getByRole('region', { name: 'Raw message', exact: true })).toContainText(
      'cut here: 50 MB in all',
    );
  });

  test('an unknown address', async ({ page, request }) => {
    await page.goto('/intakes');
    expect((await request.post(`${demo.url}/in/mistyped-address`, { data: { a: 1 } })).status()).toBe(404);
    const note = page.getByRole('complementary');
    await expect(note).toContainText('POST /in/mistyped-address');
    await note.getByRole('button', { name: 'Discard' }).click();
    await note.getByRole('button', { name: 'Discard 1 request' }).click();
    await expect(note).not.toContainText('mistyped-address');
  });

  test('a stopped intake says so, and listens again', async ({ page, request }) => {
    const address = await openIntake(page, 'Stops and starts');
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await expect(page.getByTestId('listening')).toHaveText('Stopped');
    expect((await request.post(address, { data: { a: 1 } })).status()).toBe(503);
    await page.getByRole('button', { name: 'Resume' }).click();
    await expect(page.getByTestId('listening')).toHaveText(/^Listening/);
    expect((await request.post(address, { data: { colour: 'red' } })).status()).toBe(202);
    await expect(page.getByRole('region', { name: 'Answers' })).toContainText('red');
  });
});

test.describe('ways to try an intake', () => {
  test('the built-in sender with an edited body', async ({ page }) => {
    await openIntake(page, 'From here');
    await page.keyboard.press('s');
    await page.getByLabel('Body').fill('{"boat": "Heron", "crew": 3}');
    await page.getByRole('form', { name: 'Send a test' }).getByRole('button', { name: 'Send' }).click();
    await expect(page.getByText('Answered 202.')).toBeVisible();
    await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Heron');
  });

  test('the address with values, opened in a tab; and the curl line', async ({ page, context }) => {
    const address = await openIntake(page, 'By tab');
    const [tab] = await Promise.all([
      context.waitForEvent('page'),
      page.getByRole('link', { name: /Open test link/ }).click(),
    ]);
    await expect(tab.getByRole('heading', { name: 'Received' })).toBeVisible();
    await expectAccessible(tab);
    await expect(page.getByRole('region', { name: 'Answers' })).toContainText('AB-07');
    await page.getByRole('button', { name: 'as a curl command' }).click();
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain(`curl -X POST '${address}'`);
  });
});

test.describe('when the target is in trouble', () => {
  test.afterEach(({ page }) => setFault(page, 'none'));

  test('it is told on the target’s page, with what to do', async ({ page }) => {
    await page.goto('/targets');
    await page.getByRole('main').getByRole('link', { name: 'Register' }).click();
    await setFault(page, 'token');
    await page.getByRole('button', { name: 'Test and read again' }).click();
    await expect(page.getByRole('status')).toContainText('Status 401: credentials rejected. Create new ones');
    await setFault(page, 'drop');
    await page.getByRole('button', { name: 'Test and read again' }).click();
    await expect(page.getByRole('status')).toContainText('closed the connection');
    await setFault(page, 'none');
    await page.getByRole('button', { name: 'Test and read again' }).click();
    await expect(page.getByRole('status')).toContainText('lists 5 tables');
  });

  test('a delivery waits, is tried again, and goes through', async ({ page }) => {
    await page.goto('/intakes');
    await page.getByRole('main').getByRole('link', { name: 'Field team forms' }).click();
    const address = await page.getByRole('main').locator('code').first().innerText();
    await setFault(page, 'error');
    const builder = await page.context().newPage();
    await pointBuilderAt(builder, address);
    await fillReport(builder, {
      site: 'Mill Race (AB-11)',
      when: '6/11/2026 9:00',
      name: 'Aoife',
      mail: 'aoife@example.org',
    });
    await page.goto('/deliveries');
    const row = page.getByRole('listitem').first();
    await expect(row).toContainText('Server error at the target (500)');
    await setFault(page, 'none');
    await expect(row).toContainText('delivered');
    await row.getByRole('link').click();
    await expect(page.getByRole('region', { name: 'Attempt 1', exact: true })).toContainText('may work later');
    await page.getByRole('button', { name: 'Send again…' }).click();
    await expect(page.getByText('The target receives it a second time.')).toBeVisible();
    await page.getByRole('button', { name: 'Cancel' }).click();
  });

  test('a choice the target does not list is held; the route says so beside the line', async ({ page }) => {
    await page.goto('/deliveries?state=held');
    const held = page.getByRole('listitem').filter({ hasText: 'Reed Corner (AB-21)' }).first();
    await expect(held).toContainText('site does not list “Reed Corner (AB-21)”');
    await held.getByRole('link').click();
    await page.getByRole('link', { name: 'Mapping', exact: true }).click();
    const line = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^site(required|\*|$)/ }) });
    await expect(line).toContainText('does not list');
    await expect(line.getByRole('button', { name: /^site over all samples/ })).toHaveAccessibleName(
      /\d+ fine, 0 blank, \d+ with problems/,
    );
  });
});

test('while nothing can be stored every place says so, and the Desk does not say that all is well', async ({
  page,
}) => {
  await page.route(/\/api\/(desk|strip)$/, async route => {
    const answer = await route.fetch();
    const storage = { since: new Date().toISOString(), message: 'The disk of the data folder is full.' };
    await route.fulfill({ response: answer, json: { ...(await answer.json()), storage } });
  });
  for (const place of ['/', '/intakes', '/deliveries']) {
    await page.goto(place);
    const alert = page.getByRole('alert').filter({ hasText: 'The disk of the data folder is full.' });
    await expect(alert).toContainText('Work resumes by itself');
  }
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
  await expect(page.getByText('Nothing needs attention')).toHaveCount(0);
  await expectAccessible(page);
});

test('how long a target is waited for can be set, by keyboard too, and is asked only of what answers over HTTP', async ({
  page,
}) => {
  await page.goto('/targets?new');
  await page.getByRole('button', { name: 'Set timeouts' }).press('Enter');
  const seconds = page.getByLabel('First byte, seconds');
  await expect(seconds).toHaveValue('60');
  await seconds.fill('9000');
  await page.getByLabel('Name', { exact: true }).fill('Patient');
  await expectAccessible(page);
  await page.getByLabel('Operations from').selectOption('mail');
  await expect(seconds).toHaveCount(0);
});

test('the way of trying again is drawn over the whole of its time', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Worrying signs' }).click();
  await part(page, 'Delivery').click();
  await page.getByLabel('Retry for, hours').fill('720');
  const picture = page.getByRole('img', { name: /^About 1,9\d\d attempts within 30 days/ });
  await expect(picture).toBeVisible();
  const last = await picture.locator('line').last().getAttribute('x1');
  expect(Number(last)).toBeGreaterThan(234);
  await page.getByLabel('Retry for, hours').fill('0');
  await expect(part(page, 'Delivery')).toContainText('no retries');
  await expect(picture).toHaveCount(0);
  await page.getByLabel('Retry for, hours').fill('24');
  await expect(part(page, 'Delivery')).toContainText('retries for 24 hours');
});
