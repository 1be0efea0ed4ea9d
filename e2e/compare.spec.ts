import { expect, test } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible } from './people';

// Differences are told in words, and the effect of a next generation is shown before it comes.

test('two messages of a form are held against each other, by keyboard, and one is changed by hand', async ({
  page,
}) => {
  await page.goto('/changes');
  await page.getByRole('link', { name: 'Compare two' }).press('Enter');
  for (const [side, at] of [
    ['Before', 1],
    ['After', 0],
  ] as const) {
    const chosen = page.getByRole('region', { name: side });
    await chosen.getByLabel('Intake').press('Enter');
    await page.keyboard.type('Field team');
    await page.keyboard.press('Enter');
    await chosen.getByLabel('Stored message').press('Enter');
    await page.keyboard.type('Sampling report');
    await expect(page.getByRole('option', { name: /\d\d:\d\d/ }).nth(at)).toBeVisible();
    for (let each = 0; each < at; each++) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(chosen.getByLabel('Message or document')).toHaveValue(/"Sampling report"/);
  }
  const told = page.getByRole('region', { name: 'Differences' });
  await expect(told.getByRole('status').first()).toContainText('As two messages');
  await expect(told.getByRole('row').filter({ hasText: 'Which site?' }).first()).toBeVisible();
  const after = page.getByRole('region', { name: 'After' }).getByLabel('Message or document');
  await after.fill((await after.inputValue()).replace('"Which site?"', '"At which site were you?"'));
  await expect(told).toContainText('Question text changed: “Which site?” → “At which site were you?”.');
  await expectAccessible(page);
});

test('what if a form sent its next generation: the routes say what of theirs would not be there', async ({ page }) => {
  await page.goto('/changes');
  await page.getByRole('button', { name: 'What if…' }).press('Enter');
  const asking = page.getByRole('region', { name: 'What if' });
  await asking.getByLabel('Form or target').press('Enter');
  await page.keyboard.type('Sampling report');
  await page.keyboard.press('Enter');
  await asking.getByLabel('What changes').selectOption('comes as in a message that I have');
  await asking.getByLabel('The message').fill(
    JSON.stringify({
      form: { ref: 'smp', title: 'Sampling report' },
      entry: 'e-1',
      replies: [
        { q: 'n1', ask: 'Place', as: 'words', words: 'Otter Weir' },
        { q: 's8', ask: 'Your name', as: 'words', words: 'Mira Teal' },
      ],
    }),
  );
  await asking.getByRole('button', { name: 'Show what would break' }).press('Enter');
  await expect(asking.getByRole('status').last()).toContainText(/\d routes? would break/);
  await expect(asking.getByRole('list', { name: 'Routes' })).toContainText(
    /questions it uses are missing; it could not be sent/,
  );
  await expectAccessible(page);
});

test.describe('a target that does not take its credentials any more', () => {
  test.afterEach(({ request }) => request.post(`${demo.practice}/register/fault`, { form: { fault: 'none' } }));

  test('tells it by itself, and that it is over', async ({ page, request }) => {
    await request.post(`${demo.practice}/register/fault`, { form: { fault: 'token' } });
    await page.goto('/targets');
    await page
      .getByRole('main')
      .getByRole('link', { name: /^Register/ })
      .click();
    await page.getByRole('button', { name: 'Test and read again' }).press('Enter');
    await expect(page.getByText(/Status 401|Credentials (are now )?rejected/).first()).toBeVisible();
    await page.goto('/changes');
    const change = page
      .getByRole('list', { name: 'Changes', exact: true })
      .getByRole('listitem', { name: /Credentials are now rejected: status 401/ });
    await expect(change.getByText('breaks').first()).toBeVisible();
    await expect(change.getByRole('button', { name: 'Show repair' })).toHaveCount(0);
    await expectAccessible(page);
    await change.getByRole('link', { name: 'Enter credentials' }).press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Register' })).toBeVisible();
    await page.goto('/changes');
    await change.getByRole('button', { name: 'Mark resolved' }).press('Enter');
    await expect(change).toHaveCount(0);
  });
});
