import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, openIntake } from './people';

// Where one is stays where one is: going back, lists that grow, trees by key, and pages that nobody looks at.

test.beforeEach(async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
});

/** How far the page is scrolled, and what has the focus. */
const spot = (page: Page) =>
  page.evaluate(() => ({ top: document.getElementById('place')?.scrollTop, focus: document.activeElement?.id ?? '' }));

test('going back leads to where one was; a place that is gone to is shown from its top, with the focus in it', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 340 });
  await page.goto('/routes');
  await page.getByRole('link', { name: /^Sampling report to Register/ }).click();
  await expect(page.getByRole('button', { name: /over all samples/ }).first()).toBeVisible();
  expect(await spot(page)).toEqual({ top: 0, focus: 'place' });
  for (let n = 0; n < 6; n++) await page.keyboard.press('j');
  await page.locator('#place').evaluate(place => place.scrollTo({ top: 200 }));
  await expect.poll(() => spot(page)).toMatchObject({ top: 200, focus: expect.stringMatching(/^line-/) });
  const before = await spot(page);
  await page.keyboard.press('g');
  await page.keyboard.press('d');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
  expect(await spot(page)).toEqual({ top: 0, focus: 'place' });
  await page.goBack();
  await expect.poll(() => spot(page)).toEqual(before);
  // A line that is opened changes the address; one is still where one was.
  await page.keyboard.press('Enter');
  await expect(page.getByRole('radio', { name: 'fixed value' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\/mapping$/);
  await expect.poll(() => spot(page)).toMatchObject({ focus: before.focus });
  const after = await spot(page);
  await page.keyboard.press('g');
  await page.keyboard.press('d');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
  await page.goBack();
  await expect.poll(() => spot(page)).toEqual(after);
  // Loaded again, too: notes above may come later, the line stays in view.
  await page.reload();
  await expect.poll(() => spot(page)).toMatchObject({ focus: after.focus });
  await expect(page.locator(`#${after.focus}`)).toBeInViewport();
});

test('a line is opened, filled and closed by keyboard alone, and the focus is never on nothing', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('link', { name: /^Worrying signs to Follow-ups/ }).click();
  await expect(page.getByRole('button', { name: /over all samples/ }).first()).toBeVisible();
  await page.keyboard.press('j');
  await page.keyboard.press('j');
  const name = await page.evaluate(() => document.activeElement?.textContent ?? '');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('radio', { name: 'fixed value' })).toBeVisible();
  // A list that is open over it is closed first.
  for (const key of ['Tab', 'Tab', 'Tab', 'Escape', 'Escape']) {
    await page.keyboard.press(key);
    expect(await page.evaluate(() => document.activeElement === document.body)).toBe(false);
  }
  await expect(page.getByRole('radio', { name: 'fixed value' })).toHaveCount(0);
  expect(await page.evaluate(() => document.activeElement?.textContent ?? '')).toBe(name);
});

test('the structure of a message is one stop for the tab key, and arrows go through it', async ({ page }) => {
  await page.goto('/intakes');
  await page
    .getByRole('main')
    .getByRole('link', { name: /^Field team forms/ })
    .click();
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Which site?');
  await page.keyboard.press('o');
  const tree = page.getByRole('region', { name: 'Structure of the message' });
  await expect(tree.getByRole('button').nth(3)).toBeVisible();
  expect(await tree.getByRole('button').evaluateAll(all => all.filter(each => each.tabIndex === 0).length)).toBe(1);
  const focused = () =>
    tree.getByRole('button').evaluateAll(all => all.findIndex(each => each === document.activeElement));
  // From the top of the page, it is one of few stops.
  for (let stops = 0; (await focused()) < 0; stops++) {
    expect(stops).toBeLessThan(60);
    await page.keyboard.press('Tab');
  }
  const first = await focused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  expect(await focused()).toBe(first + 2);
  await page.keyboard.press('End');
  expect(await focused()).toBe((await tree.getByRole('button').count()) - 1);
  // The stop is where one was.
  expect(await tree.getByRole('button').evaluateAll(all => all.findIndex(each => each.tabIndex === 0))).toBe(
    await focused(),
  );
  await expectAccessible(page);
});

test('what comes does not move a list that somebody is in the midst of, and the Desk is read where it is looked at', async ({
  page,
}) => {
  await page.goto('/deliveries?state=delivered');
  const rows = page.getByRole('list', { name: /deliveries$/ }).getByRole('listitem');
  await expect(rows.nth(3)).toBeVisible();
  const third = (await rows.nth(2).getByRole('link').getAttribute('href'))!;
  for (let n = 0; n < 3; n++) await page.keyboard.press('j');
  await page.keyboard.press('x');
  await expect(page.getByRole('complementary')).toContainText('1 delivery selected.');
  const asked: string[] = [];
  page.on('request', request => asked.push(new URL(request.url()).pathname));
  // One more is delivered, as a colleague sends one a second time.
  const { deliveries } = (await (await page.request.get('/api/deliveries?state=delivered&limit=100')).json()) as {
    deliveries: { id: string; state: string; routeName: string }[];
  };
  const { id, state } = deliveries.find(each => each.routeName === 'Sampling report to Register')!;
  const data = { ids: [id], states: { [id]: state }, mapping: 'now' };
  expect((await page.request.post('/api/deliveries/resend', { data })).ok()).toBe(true);
  const newer = page.getByRole('status').filter({ hasText: '1 new delivery.' });
  await expect(newer).toBeVisible();
  await expect(rows.nth(2).getByRole('link')).toHaveAttribute('href', third);
  await expect(page.getByRole('complementary')).toContainText('1 delivery selected.');
  // What was delivered goes a second time only once that is said.
  await page.getByRole('button', { name: 'Send again…' }).click();
  await expect(page.getByRole('complementary')).toContainText('the target receives it a second time');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await newer.getByRole('button', { name: 'Show it' }).click();
  await expect(newer).toHaveCount(0);
  await expect(rows.nth(3).getByRole('link')).toHaveAttribute('href', third);
  expect(asked).toContain('/api/strip');
  expect(asked).not.toContain('/api/desk');
});

test('an arrival that is waited for is said aloud', async ({ page }) => {
  const address = await openIntake(page, 'A loud intake');
  const said = page.getByRole('region', { name: 'Listening' }).getByRole('status');
  await expect(said).toHaveText('');
  await page.request.post(address, { data: { site: 'AB-07' } });
  await expect(said).toContainText(/^A submission arrived at \d\d:\d\d/);
});
