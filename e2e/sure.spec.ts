import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, openIntake } from './people';

const post = (page: Page, address: string, data: object, method = 'POST') =>
  page.request.fetch(address, { method, data });

test('a reading that is not sure asks to be looked at; the other way is one key away, and tried before it is kept', async ({
  page,
}) => {
  const address = await openIntake(page, 'Nobody’s builder');
  await post(page, address, {
    zub: 'x',
    wef: 'y z',
    mlo: [
      { ka: 'Ford', pi: 2 },
      { ka: 'Weir', pi: 4 },
    ],
    brel: { q: { r: 's t' } },
  });
  const strip = page.getByRole('list', { name: 'Arrivals, newest first' });
  await expect(strip.getByRole('button', { name: /to be looked at/ })).toHaveCount(1);
  await expect(page.getByText('Look at this: it was read as')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('e');
  await expect(page.getByRole('list', { name: 'Pins' })).toContainText('/mlo');
  await expect(page.getByText('1 read otherwise')).toBeVisible();
  await page.getByRole('button', { name: 'Keep it, read all anew' }).click();
  await expect(page.getByRole('region', { name: 'What was answered' })).toContainText('Weir');
  await expect(page.getByText('Read as:')).toContainText('as pinned');
});

test('an identifier that two submissions share is told, and another is pointed at; what is not taken leaves a trace', async ({
  page,
}) => {
  const address = await openIntake(page, 'One sheet');
  for (const [name, entry] of [
    ['Ada', 'e1'],
    ['Wen', 'e2'],
  ] as const)
    await post(page, address, { submission_id: 'sheet', name, entry_no: entry, town: 'Elden' });
  await expect(page.getByText('another one has it too, with other answers')).toBeVisible();
  await page.getByRole('button', { name: 'Point at what identifies them' }).click();
  await expect(page.getByRole('radio', { name: 'This identifies the submission' })).toBeChecked();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await post(page, address, { a: 1 }, 'PUT');
  await expect(page.getByText('It came by PUT')).toBeVisible();
});
