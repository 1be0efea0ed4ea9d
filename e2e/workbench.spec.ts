import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillReport, part, pick, pointBuilderHome } from './people';

const open = async (page: Page) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Worrying signs to Follow-ups' }).click();
  await expect(page.getByText(/\d+ of \d+ pass/)).toBeVisible();
};

test('what would mend a line is offered in the margin, tried on all samples; steps stand by what they are for', async ({
  page,
}) => {
  await open(page);
  await expect(page.getByText(/Fixes (all|\d+ of \d+): /)).toContainText('day first');
  await page.getByRole('button', { name: 'Apply' }).click();
  const line = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^reported_on/ }) });
  await expect(line).toContainText('day first');
  await expect(page.getByRole('button', { name: 'Apply' })).toHaveCount(0);
  await page.getByRole('button', { name: /^reported_on(required|\*|$)/ }).click();
  await page.getByRole('button', { name: 'add step…' }).click();
  const picker = page.getByRole('dialog', { name: 'Add step' });
  await expect(picker.getByText('yes/no', { exact: true })).toBeAttached();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
});

test('the draft’s two problems are found and fixed, by keyboard alone', async ({ page }) => {
  await open(page);
  await expect(part(page, 'Mapping')).toContainText('1 required field missing');
  const line = (name: string) =>
    page.getByRole('listitem').filter({ has: page.getByRole('button', { name: new RegExp(`^${name}`) }) });
  await expect(line('reported_on')).toContainText('is not a date that reads month first');

  await page.keyboard.press('j');
  await expect(page.getByRole('button', { name: /^reported_on(required|\*|$)/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'Order' }).focus();
  await page.keyboard.type('day first');
  await expect(line('reported_on')).toContainText('day first');
  await expect(line('reported_on').getByRole('button', { name: /over all samples/ })).toHaveAccessibleName(
    / [012] with problems/,
  );

  await page.getByRole('button', { name: 'Close' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^urgency/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('fixed value').focus();
  await page.keyboard.press('Space');
  await page.getByLabel('Value', { exact: true }).focus();
  await page.keyboard.type('this week');
  await expect(line('urgency')).toContainText('this week');
  await expect(part(page, 'Mapping')).not.toContainText('required fields missing');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();

  await page.reload();
  await expect(part(page, 'Mapping')).not.toContainText('required fields missing');
});

test('samples are walked with h and l, and n goes to the next in trouble', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).first().click();
  const sample = page.getByRole('region', { name: 'Sample' });
  await expect(sample).toContainText(/Sample 1 of \d+/);
  await page.keyboard.press('l');
  await expect(sample).toContainText(/Sample 2 of/);
  await page.keyboard.press('h');
  await expect(sample).toContainText(/Sample 1 of/);
  await expect(part(page, 'Mapping')).toContainText('with problems');
  await page.keyboard.press('n');
  await expect(page.getByRole('region', { name: 'Lines' })).toContainText('! ');
});

test('an edit is undone and done again', async ({ page }) => {
  await open(page);
  await part(page, 'Filter').click();
  await page.getByRole('button', { name: 'Add condition' }).click();
  await expect(page.getByRole('button', { name: /^Remove condition/ })).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /^Remove condition/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByRole('button', { name: /^Remove condition/ })).toHaveCount(2);
  await page.keyboard.press('u');
  await expect(page.getByRole('button', { name: /^Remove condition/ })).toHaveCount(1);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
});

test('what arrives while a sample is about to be sent does not take its place; one that is not here is told', async ({
  page,
}) => {
  await pointBuilderHome(page);
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).click();
  const panel = page.getByRole('region', { name: 'Sample', exact: true });
  await expect(panel).toContainText(/Sample 1 of/);
  await page.getByRole('radio', { name: 'Requests' }).click();
  const name = panel.getByRole('listitem').filter({ hasText: 'Your name' });
  const shown = await name.innerText();
  await page.getByRole('button', { name: 'Send a test…' }).click();
  await expect(page.getByRole('button', { name: 'Send', exact: true })).toBeVisible();
  const other = await page.context().newPage();
  await other.goto(`${demo.practice}/builders/sampling-report`);
  await fillReport(other, {
    site: 'Withy Bridge (AB-07)',
    when: '2026-11-30T09:15',
    name: 'Late Comer',
    mail: 'late@example.org',
  });
  await expect(other.getByRole('status')).toContainText('Thank you');
  await other.close();
  // It stands before the one that is looked at, which stays what it was.
  await expect(panel).toContainText(/Sample 2 of/);
  expect(await name.innerText()).toBe(shown);
  await expect(page.getByRole('button', { name: 'Send', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();

  await page.goto(`${page.url().split('?')[0]}?sample=gone`);
  await expect(panel).toContainText('This sample is older than those loaded');
  await expect(panel).toContainText('Sample – of');
  await panel.getByRole('button', { name: 'Show newest' }).click();
  await expect(panel).toContainText(/Sample 1 of/);
});

test('a text template is composed by choosing answers', async ({ page }) => {
  await open(page);
  await page.getByRole('button', { name: /^details(required|\*|$)/ }).click();
  await page.getByLabel('Text template').check();
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Seen by ');
  await pick(page, 'Insert an answer', 'Your name');
  await expect(page.getByRole('textbox', { name: 'Text', exact: true })).toHaveText('Seen by Your name');
  const line = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^details/ }) });
  await expect(line).toContainText('Seen by {Your name}');
  await page.getByRole('textbox', { name: 'Text', exact: true }).press('End');
  await page.keyboard.type(' at {Which');
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /^Which site/ })
    .click();
  await expect(line).toContainText('Seen by {Your name} at {Which site?}');
  // A wording is not the answer: what is typed around it can't change it, and it goes as a whole.
  await page.keyboard.type('!');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Backspace');
  await expect(line).toContainText('Seen by {Your name} at !');
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Seen by {Nobody}');
  await expect(line).toContainText('The form has no question “Nobody”.');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
});

test('the condition decides who goes, and shows who does not', async ({ page }) => {
  await open(page);
  await part(page, 'Filter').click();
  const before = await part(page, 'Filter').innerText();
  await page.getByRole('checkbox', { name: 'Foam', exact: true }).check();
  await expect(part(page, 'Filter')).not.toHaveText(before);
  await page.getByRole('checkbox', { name: 'Foam', exact: true }).uncheck();
  await expect(page.getByRole('radio', { name: /^left out/ })).toBeChecked();
});

test('the rehearsal shows all samples, or those in trouble, and opens one', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).first().click();
  await page.getByRole('link', { name: /^Rehearse all/ }).click();
  await page.getByRole('radio', { name: /^with problems/ }).click();
  await expect(page.getByRole('radio', { name: /^with problems/ })).toBeChecked();
  await expect(page.getByRole('cell', { name: /^! / }).first()).toBeVisible();
  // The focus goes along, once the rows are there.
  await expect(async () => {
    await page.keyboard.press('j');
    await expect(page.locator('[data-row] a:focus')).toHaveCount(1, { timeout: 2000 });
  }).toPass();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Lines' })).toBeVisible();
});
