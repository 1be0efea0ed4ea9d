import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, openIntake } from './people';

const post = (page: Page, address: string, data: object, method = 'POST') =>
  page.request.fetch(address, { method, data });

test('a reading that is not sure asks to be checked; the other reading is one key away, and tried before it is kept', async ({
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
  const strip = page.getByRole('list', { name: 'Messages, newest first' });
  await expect(strip.getByRole('button', { name: /needs a check/ })).toHaveCount(1);
  await expect(page.getByText('Check this: it was read as')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('e');
  await expect(page.getByRole('list', { name: 'Pins' })).toContainText('/mlo');
  await expect(page.getByText('1 read differently')).toBeVisible();
  await page.getByRole('button', { name: 'Save and read again' }).click();
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Weir');
  await expect(page.getByText('Read as:')).toContainText('as pinned');
});

test('a reading that is not sure but right is kept with one press, and messages like it are not marked any more', async ({
  page,
}) => {
  const address = await openIntake(page, 'Nobody’s other builder');
  const said = { zub: 'x', wef: 'y z', mlo: [{ ka: 'Ford', pi: 2 }], brel: { q: { r: 's t' } } };
  await post(page, address, said);
  await expect(page.getByText('Check this: it was read as')).toBeVisible();
  await page.getByRole('button', { name: 'keep this reading' }).click();
  await expect(page.getByText('Read as:')).toContainText('as pinned');
  await post(page, address, { ...said, zub: 'w' });
  const strip = page.getByRole('list', { name: 'Messages, newest first' });
  await expect(strip.getByRole('listitem')).toHaveCount(2);
  await expect(strip.getByRole('button', { name: /needs a check/ })).toHaveCount(0);
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
  await expect(page.getByText('another submission with different answers has the same one')).toBeVisible();
  await page.getByRole('button', { name: 'Choose the submission ID' }).click();
  await expect(page.getByRole('radio', { name: 'Submission ID' })).toBeChecked();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await post(page, address, { a: 1 }, 'PUT');
  await expect(page.getByText('Method PUT')).toBeVisible();
});
