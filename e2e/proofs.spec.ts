import { expect, test } from '@playwright/test';
import { addStep, expectAccessible, part } from './people';

// What a person decided is right is held against every edit, before anything is sent.

test('samples are suggested and approved; an edit shows at once what it changes of them, with the step at fault, and is mended', async ({
  page,
}) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Kit request to Register' }).first().click();
  const tab = part(page, 'Proofs');
  await expect(tab).toContainText('none');
  await tab.press('Enter');
  await expect(page.getByText('No proofs yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Suggest samples to approve' }).press('Enter');
  const proposal = page.getByRole('region', { name: 'Proposed samples' });
  await expect(proposal).toContainText(/\d+ samples? of \d+ shows? whatever any of them does/);
  await expectAccessible(page);
  // One of them is left out.
  const ticks = proposal.getByRole('checkbox');
  const count = await ticks.count();
  expect(count).toBeGreaterThan(2);
  await ticks.last().uncheck();
  await proposal.getByRole('button', { name: `Approve ${count - 1}` }).click();
  const all = page.getByRole('list', { name: 'Proofs' });
  await expect(all.getByRole('listitem', { name: /./ }).first()).toBeVisible();
  await expect(page.getByText(`All ${count - 1} proofs pass.`)).toBeVisible();
  await expect(tab).toContainText(`${count - 1} pass`);

  // A step that is added to a line is named where the proofs differ.
  const search = new URL(page.url()).search;
  await page.goto(`${new URL(page.url()).pathname.replace(/proofs$/, 'mapping')}${search}`);
  const lines = page.getByRole('region', { name: 'Lines', exact: true });
  await lines
    .getByRole('button', { name: /^asked_by/ })
    .first()
    .click();
  await addStep(page, 'Upper');
  await expect(tab).toContainText(/\d+ differs?|\d+ differ/);
  await tab.click();
  const differing = all.getByText(/^\d+ differences?$/).first();
  await expect(differing).toBeVisible();
  await expect(all).toContainText(/(New|Result of) step \d+/);
  await expect(all.getByRole('link', { name: 'Open line' }).first()).toBeVisible();
  await expectAccessible(page);

  const accept = async () => {
    await page
      .getByRole('button', { name: /^Approve (the new result|all \d+ new results)/ })
      .first()
      .click();
    await expect(page.getByText(`All ${count - 1} proofs pass.`)).toBeVisible();
  };
  // Undone, all of them hold; done again, and accepted, too.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(`All ${count - 1} proofs pass.`)).toBeVisible();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(differing).toBeVisible();
  await accept();

  // It is as it was for those who come after.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(differing).toBeVisible();
  await accept();
  while ((await all.count()) > 0) {
    const row = all.getByRole('listitem').first();
    await row.getByRole('button', { expanded: false }).first().click();
    const before = await all.getByRole('listitem').count();
    await row.getByRole('button', { name: 'Remove proof' }).click();
    await row.getByRole('button', { name: 'Remove' }).click();
    if (before > 1) await expect.poll(() => all.getByRole('listitem').count()).toBeLessThan(before);
    else break;
  }
  await expect(tab).toContainText('none');
});
