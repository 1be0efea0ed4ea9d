import { createHmac } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { expectAccessible, fillReport, openIntake, pointBuilderAt } from './people';

test('a form’s page tells its questions, options and weeks, is searched, and exported', async ({ page }) => {
  await page.goto('/intakes');
  await page.getByRole('main').getByRole('link', { name: 'Field team forms' }).click();
  await page.getByRole('complementary').getByRole('link', { name: 'Sampling report' }).first().click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sampling report' })).toBeVisible();
  const questions = page.getByRole('region', { name: 'Questions' }).getByRole('listitem');
  await expect(questions).toHaveCount(13);
  await expect(questions.filter({ hasText: 'What signs did you see?' })).toContainText(/Foam \d+/);
  await expect(
    page.getByRole('img', { name: /How often each of 13 questions was answered in \d+ weeks/ }),
  ).toBeVisible();
  await expectAccessible(page);

  await page.keyboard.press('/');
  await page.keyboard.type('reed corner');
  const found = page.getByRole('region', { name: 'Submissions' });
  await expect(found.getByRole('status')).toHaveText(/^\d match(es)?$/);
  await expect(found.getByRole('listitem').first()).toContainText('@');
  await found.getByRole('button', { name: 'Hide personal data' }).click();
  await expect(found.getByRole('listitem').first()).toContainText('••••');
  await expect(found.getByRole('listitem').first()).not.toContainText('@');

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'CSV', exact: true }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Sampling report.csv');
  const csv = await readFile((await download.path())!, 'utf8');
  expect(csv.split('\r\n')[0]).toContain('Which site?');
  expect(csv).toContain('Withy Bridge (AB-07)');
});

test('pointing at an answer lights up where it stood, in the message and in its structure', async ({
  page,
  request,
}) => {
  const address = await openIntake(page, 'Linked');
  const rows = Array.from({ length: 30 }, (_, n) => ({
    id: `q${n}`,
    label: `Question number ${n}`,
    value: `answer ${n}`,
  }));
  await request.post(address, { data: { ref: 'r1', rows } });
  const answer = page.getByRole('button', { name: /Question number 27/ });
  await answer.focus();
  await expect(page.getByRole('region', { name: 'The message', exact: true }).locator('mark')).toHaveText(
    '"answer 27"',
  );
  await expect(page.getByRole('region', { name: 'The message', exact: true }).locator('mark')).toBeInViewport();
  const line = page.getByRole('region', { name: 'Structure of the message' }).locator('[data-hot]');
  await expect(line).toContainText('Question number 27');
  await expect(line).toBeInViewport();
  await expect(page.getByRole('region', { name: 'Structure of the message' })).toContainText('one answer each');
});

test('an intake that asks for a signature takes what is signed, and explains what is not', async ({
  page,
  request,
}) => {
  const address = await openIntake(page, 'Signed');
  await page.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('Senders are verified by').selectOption('a signature (HMAC)');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Enter the secret that the form builder uses.')).toBeVisible();
  await page.getByLabel('Signature header').fill('X-Yard-Signature');
  await page.getByLabel('Secret', { exact: true }).fill('open sesame');
  await page.getByLabel('Prefix').fill('sha256=');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('POST, GET · signed')).toBeVisible();

  const data = Buffer.from('{"boat":"Heron","crew":3}');
  const send = (signature: string) =>
    request.post(address, {
      data,
      headers: { 'content-type': 'application/json', 'x-yard-signature': `sha256=${signature}` },
    });
  expect((await send('0000')).status()).toBe(401);
  const margin = page.getByRole('complementary');
  await expect(margin).toContainText(
    'The signature differs. “X-Yard-Signature” holds “0000”; sha256 over the body (25 bytes) gives',
  );
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Refused');
  expect((await send(createHmac('sha256', 'open sesame').update(data).digest('hex'))).status()).toBe(202);
  await expect(margin).toContainText('The signature in “X-Yard-Signature” is valid.');
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Heron');
});

test('the practice builder signs, and an intake with the same secret takes it', async ({ page, context }) => {
  const address = await openIntake(page, 'Signed by the builder');
  const secret = `whsec_${Buffer.from('a secret of the yard, 24').toString('base64')}`;
  await page.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('Senders are verified by').selectOption('a Standard Webhooks signature');
  await page.getByLabel('Secret', { exact: true }).fill(secret);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('POST, GET · signed')).toBeVisible();
  const builder = await context.newPage();
  const report = { site: 'Mill Race (AB-11)', when: '6/11/2026 9:00', name: 'Aoife', mail: 'aoife@example.org' };
  await pointBuilderAt(builder, address);
  await fillReport(builder, report);
  await expect(builder.getByRole('status')).toContainText('not taken');
  await expect(page.getByRole('complementary')).toContainText('The header “webhook-id” is missing.');
  await pointBuilderAt(builder, address, secret);
  await fillReport(builder, report);
  await expect(builder.getByRole('status')).toContainText('Thank you');
  await expect(page.getByRole('complementary')).toContainText('The signature in “webhook-signature” is valid.');
  await pointBuilderAt(builder, address, '');
});

test('a file of past submissions becomes samples', async ({ page }) => {
  await openIntake(page, 'From a file');
  await page.keyboard.press('s');
  const csv = ['Gate;Badge;Time in', ...Array.from({ length: 60 }, (_, n) => `East;B-${n};08:${10 + (n % 50)}`)].join(
    '\r\n',
  );
  await page
    .getByLabel('Upload past submissions')
    .setInputFiles({ name: 'access log.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(page.getByRole('complementary')).toContainText('60 submissions were read; the first 50 are shown.');
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('B-0');
  await page
    .getByLabel('Upload past submissions')
    .setInputFiles({ name: 'report.docx', mimeType: 'application/msword', buffer: Buffer.from('x') });
  await expect(page.getByRole('alert')).toContainText('“report.docx” can’t be read. Files ending in csv');
});
