import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { addStep, expectAccessible, fillLine, fillReport, openIntake, pointBuilderAt, pick, part } from './people';

test('a newcomer does the whole job once', async ({ page, context }) => {
  // It is looked over by axe at every step.
  test.setTimeout(300_000);
  test.slow();
  const builder = await context.newPage();
  let address = '';

  await test.step('opens an intake, which listens', async () => {
    address = await openIntake(page, 'My first intake');
    await expect(page.getByTestId('listening')).toHaveText(/^Listening( for \d+ s)?$/);
    await expect(page.getByText('No message yet.')).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('fills in a practice form in another tab, and sees it arrive without a reload', async () => {
    await pointBuilderAt(builder, address);
    await fillReport(builder, {
      site: 'Withy Bridge (AB-07)',
      when: '04/11/2026 7:55',
      temperature: '8,4 °C',
      signs: ['Foam', 'Oil sheen'],
      name: 'Wen Xiu',
      mail: 'Wen.Xiu@Example.org',
    });
    await expect(builder.getByRole('status')).toContainText('Thank you');
    const answers = page.getByRole('region', { name: 'Answers' });
    await expect(answers).toContainText('Withy Bridge (AB-07)');
    await expect(answers).toContainText('Foam, Oil sheen');
    await expect(page.getByRole('region', { name: 'The message', exact: true })).toContainText('"ask": "Which site?"');
    await expect(page.getByRole('complementary')).toContainText('list of labelled answers');
  });

  await test.step('starts a route to the register', async () => {
    await page.getByRole('link', { name: 'Create a route' }).click();
    await pick(page, 'Target', 'Add a record to Samples');
    await expect(page.getByLabel('Name')).toHaveValue('Sampling report to Register');
    await page.getByLabel('Name').fill('My first route');
    await page.getByRole('button', { name: 'Create route' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'My first route' })).toBeVisible();
    await expect(page.getByRole('complementary')).toHaveCount(0);
    await expect(part(page, 'Mapping')).toContainText('3 required fields missing');
  });

  await test.step('maps list of columns and cleans two values, seeing each step', async () => {
    await fillLine(page, 'site', 'Which site?');
    await fillLine(page, 'sampled_at', 'When did you sample?');
    await expect(
      page.getByText('sampled_at takes a time such as 2026-11-04T07:55:00Z; “04/11/2026 7:55” is not.').first(),
    ).toBeVisible();
    await addStep(page, 'Format date');
    await expect(page.getByText('2026-11-04T07:55:00Z').first()).toBeVisible();
    await fillLine(page, 'temp_c', 'Water temperature');
    await addStep(page, 'To number');
    await expect(page.getByText('8.4number')).toBeVisible();
    await fillLine(page, 'observer_email', 'Your e-mail');
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    await expect(part(page, 'Mapping')).not.toContainText('required fields missing');
  });

  await test.step('sees the exact request, and how all recorded ones fare', async () => {
    await page.getByRole('radio', { name: 'Body' }).click();
    const wire = page.getByRole('region', { name: 'Request body' });
    await expect(wire).toContainText('POST /register/v1/tables/samples/records HTTP/1.1');
    await expect(wire).toContainText('"temp_c": 8.4');
    await expect(wire).toContainText('authorization: Bearer ••••••');
    await page.getByRole('link', { name: 'Rehearse all 1' }).click();
    await expect(page.getByRole('table').getByRole('row')).toHaveCount(2);
    await expect(page.getByRole('table')).toContainText('✓ can be sent');
    await expectAccessible(page);
  });

  await test.step('goes live', async () => {
    await page.getByRole('button', { name: 'Go live…' }).click();
    const preflight = page.getByRole('region', { name: 'Before going live' });
    await expect(preflight).toContainText('All required fields have a source.');
    await expect(preflight).toContainText(/Answered in \d+ ms: lists 5 tables/);
    await expectAccessible(page);
    await preflight.getByRole('button', { name: 'Publish now' }).click();
    await expect(page.getByText('version 1')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  });

  await test.step('submits again, and finds the record in the register', async () => {
    await fillReport(builder, {
      site: 'Otter Weir (AB-02)',
      when: '5 Nov 2026 2:05 pm',
      temperature: '6.1',
      name: 'Wen Xiu',
      mail: 'wen.xiu+second@example.org',
    });
    await page.getByRole('link', { name: /^Deliveries/ }).click();
    const mine = page.getByRole('listitem').filter({ hasText: 'My first route' });
    await expect(mine).toContainText('delivered');
    await mine.getByRole('link').click();
    await expect(page.getByRole('region', { name: 'Request of attempt 1' })).toContainText(
      '"sampled_at": "2026-11-05T14:05:00Z"',
    );
    await expect(page.getByRole('region', { name: 'Response to attempt 1' })).toContainText('record_no');
    await expectAccessible(page);
    await builder.goto(`${demo.practice}/register`);
    await expect(builder.getByRole('row').nth(1)).toContainText('wen.xiu+second@example.org');
  });
});
