import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, openIntake, removeSecondRoutes, secondRoute } from './people';

// Several people, several tabs, and pages that go while something is under way: nothing is lost, nobody waits, nothing is read
// that need not be.

/** The demo signs its visitor in: what is asked over the API from then on is asked by the owner. */
test.beforeEach(async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
});

test.afterEach(async ({ page }) => {
  await removeSecondRoutes(page);
});

const nameField = (page: Page) => page.getByLabel('Route name');
const kept = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible();

/** What somebody else stores, over the API. */
async function renamedElsewhere(page: Page, id: string, name: string) {
  const route = (await (await page.request.get(`/api/routes/${id}`)).json()) as { revision: number; draft: object };
  const data = { definition: { ...route.draft, name }, revision: route.revision };
  expect((await page.request.put(`/api/routes/${id}/draft`, { data })).ok()).toBe(true);
}

/** Does something while what the page stores of drafts is held back. */
async function whileHeld(page: Page, act: () => Promise<void>) {
  let release = () => {};
  const held = new Promise<void>(resolve => (release = resolve));
  const drafts = '**/api/routes/*/draft';
  await page.route(drafts, async route => (await held, route.continue()));
  await act();
  release();
  await page.unrouteAll({ behavior: 'wait' });
}

test('two people edit a route at once: each sees what differs, and neither edit is lost', async ({ page }) => {
  const { id } = await secondRoute(page, 'A shared way');
  await page.goto(`/routes/${id}/delivery`);
  await kept(page);
  // While an edit is not stored yet somebody else stores theirs.
  await whileHeld(page, async () => {
    await nameField(page).fill('A raw way');
    await renamedElsewhere(page, id, 'A ripe way');
  });
  const conflict = page.getByRole('alert', { name: 'Edited elsewhere' });
  await expect(conflict.getByRole('row', { name: /Name/ })).toContainText(/A ripe way.*A raw way/);
  await expectAccessible(page);
  await conflict.getByRole('button', { name: 'Keep your edits' }).click();
  await expect(conflict).toBeHidden();
  await kept(page);
  await expect(page.getByRole('heading', { level: 1, name: 'A raw way' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'A ripe way' })).toBeVisible();
  await kept(page);
  await whileHeld(page, async () => {
    await nameField(page).fill('A rash way');
    await renamedElsewhere(page, id, 'A round way');
  });
  await conflict.getByRole('button', { name: 'Use saved version' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'A round way' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { level: 1, name: 'A round way' })).toBeVisible();
});

test('an edit is not lost with the tab that is closed, nor by a server that does not answer', async ({
  page,
  context,
}) => {
  const { id } = await secondRoute(page, 'A short way');
  const tab = await context.newPage();
  await tab.goto(`/routes/${id}/delivery`);
  await kept(tab);
  await tab.route('**/draft', route => route.abort());
  await nameField(tab).fill('A late way');
  await tab.close({ runBeforeUnload: true });
  await page.goto(`/routes/${id}/delivery`);
  await expect(nameField(page)).toHaveValue('A late way');
  await kept(page);
  const stored = (await (await page.request.get(`/api/routes/${id}`)).json()) as { draft: { name: string } };
  expect(stored.draft.name).toBe('A late way');
});

test('two people at one intake’s settings: what one of them did not see is not overwritten unseen', async ({
  page,
}) => {
  await openIntake(page, 'Shared settings');
  const id = page.url().split('/').pop()!.split('?')[0]!;
  await page.getByRole('button', { name: 'Change', exact: true }).first().click();
  const name = page.getByRole('textbox', { name: 'Name' });
  await name.fill('Mine');
  const theirs = await page.request.patch(`/api/intakes/${id}`, { data: { name: 'Theirs' } });
  expect(theirs.ok()).toBe(true);
  await expect(page.getByRole('heading', { level: 1, name: 'Theirs' })).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('it is now “Theirs”.')).toBeVisible();
  await expect(name).toHaveValue('Mine');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Mine' })).toBeVisible();
});

test('what differs from what is live is shown, and what was live', async ({ page }) => {
  const { id } = await secondRoute(page, 'A wide way');
  await page.goto(`/routes/${id}/delivery`);
  await nameField(page).fill('A wild way');
  await page.getByLabel(/Retry for/).fill('3');
  await kept(page);
  await page.getByRole('link', { name: 'version 1' }).click();
  await expect(page.getByRole('row', { name: /Name/ })).toContainText(/A wide way.*A wild way/);
  await expect(page.getByRole('row', { name: /Delivery/ })).toContainText(/retries for 24 hours.*retries for 3 hours/);
  await expectAccessible(page);
  expect((await page.request.post(`/api/routes/${id}/live`)).ok()).toBe(true);
  await page.getByRole('button', { name: 'Changes since version 1' }).click();
  await expect(page.getByRole('row', { name: /Name/ })).toContainText(/A wide way.*A wild way/);
  await page.getByRole('button', { name: 'Copy version 1 to the draft' }).click();
  await expect(page.getByText('2 differences from version 2')).toBeVisible();
});

test('twelve tabs at once are all live', async ({ page, context }) => {
  await page.goto('/intakes');
  const tabs = await Promise.all(Array.from({ length: 11 }, () => context.newPage()));
  await Promise.all(tabs.map(tab => tab.goto('/intakes')));
  const all = [page, ...tabs];
  for (const tab of all) await expect(tab.getByRole('heading', { level: 1, name: 'Intakes' })).toBeVisible();
  const made = await page.request.post('/api/intakes', { data: { name: 'Heard by all' } });
  const { id } = (await made.json()) as { id: string };
  for (const tab of all) await expect(tab.getByRole('link', { name: 'Heard by all' })).toBeVisible();
  await page.request.delete(`/api/intakes/${id}`);
  for (const tab of all) await expect(tab.getByRole('link', { name: 'Heard by all' })).toBeHidden();
  await Promise.all(tabs.map(tab => tab.close()));
});

test('keys do what the thing they are pressed on says; single keys can be switched off', async ({ page }) => {
  await page.goto('/deliveries');
  const rows = page.getByRole('list', { name: /deliver/ }).getByRole('listitem');
  await expect(rows.first()).toBeVisible();
  // The focus goes along with j, so that Enter is about the row that is marked.
  await page.keyboard.press('j');
  await page.keyboard.press('j');
  await expect(rows.nth(1).getByRole('link')).toBeFocused();
  // A checkbox is no place to write: letters still work after it was pressed.
  await rows.nth(1).getByRole('checkbox').click();
  await page.keyboard.press('k');
  await expect(rows.nth(0).getByRole('link')).toBeFocused();
  // With Shift a range is chosen; A chooses all, or none where some are.
  await rows
    .nth(3)
    .getByRole('checkbox')
    .click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 deliveries selected.')).toBeVisible();
  await page.keyboard.press('A');
  await expect(page.getByText(/chosen\./)).toBeHidden();
  // Enter on a link of the page opens that link, whatever Enter does in the list.
  await page.getByRole('link', { name: 'Routes', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Routes' })).toBeVisible();
  await page.keyboard.press('?');
  await page.getByRole('checkbox', { name: /Single-key shortcuts/ }).uncheck();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.getByRole('button', { name: /Keyboard shortcuts/ }).click();
  await page.getByRole('checkbox', { name: /Single-key shortcuts/ }).check();
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard shortcuts' })).toBeVisible();
});

test('samples come by column, and what arrives costs its own row, not all of them again', async ({ page }) => {
  const made = await page.request.post('/api/intakes', { data: { name: 'Many' } });
  const intake = (await made.json()) as { id: string; address: string };
  const questions = Array.from(
    { length: 40 },
    (_, at) => `What did you see at place number ${at}, and how sure are you?`,
  );
  const report = (n: number) =>
    JSON.stringify(Object.fromEntries(questions.map((each, at) => [each, `seen ${n * at}`])));
  const body = Array.from({ length: 1200 }, (_, n) => report(n)).join('\n');
  await page.request.post(`/api/intakes/${intake.id}/upload?name=many.ndjson`, {
    data: Buffer.from(body),
    headers: { 'content-type': 'application/octet-stream' },
  });
  const form = async () =>
    (
      (await (await page.request.get(`/api/intakes/${intake.id}`)).json()) as {
        forms: { id: string; submissions: number }[];
      }
    ).forms[0];
  await expect.poll(async () => (await form())?.submissions ?? 0).toBe(1200);
  const { id: formId } = (await form())!;
  const targets = (await (await page.request.get('/api/targets/offered')).json()) as {
    id: string;
    operations: { id: string }[];
  }[];
  const target = targets.find(each => each.operations.some(({ id }) => id === 'create:samples'))!;
  const route = await page.request.post('/api/routes', {
    data: { name: 'A full way', formId, targetId: target.id, operationId: 'create:samples' },
  });
  const { id } = (await route.json()) as { id: string };
  const asked: { url: string; size: number }[] = [];
  page.on('response', response => {
    const url = new URL(response.url());
    if (!url.pathname.startsWith('/api/')) return;
    void response
      .body()
      .then(bytes => asked.push({ url: url.pathname + url.search, size: bytes.length }))
      .catch(() => undefined);
  });
  await page.goto(`/routes/${id}/mapping`);
  await expect(page.getByText('of 1,200', { exact: true })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Parts of the route' })).toContainText('1,200 of 1,200 pass');
  const columns = () => asked.filter(each => each.url.includes('/columns?'));
  // The values are most of what goes over the wire: labels and the like are said once.
  const values = body.length - 1200 * questions.join('').length;
  expect(columns().reduce((sum, { size }) => sum + size, 0)).toBeLessThan(1.6 * values);
  // A hundred at once, then a thousand at a time.
  expect(columns().length).toBe(3);
  // Nothing is read twice on the way in.
  const twice = asked.map(each => each.url).filter((url, at, all) => all.indexOf(url) !== at);
  expect(twice).toEqual([]);
  asked.length = 0;
  await page.request.post(new URL(intake.address).pathname, {
    data: report(5000),
    headers: { 'content-type': 'application/json' },
  });
  await expect(page.getByText('of 1,201', { exact: true })).toBeVisible();
  const since = columns();
  expect(since.every(each => each.url.includes('since='))).toBe(true);
  expect(since.reduce((sum, { size }) => sum + size, 0)).toBeLessThan(10_000);
  await page.request.delete(`/api/routes/${id}`);
  await page.request.delete(`/api/intakes/${intake.id}`);
});

test('a storm of arrivals is a handful of readings', async ({ page }) => {
  const made = await page.request.post('/api/intakes', { data: { name: 'Storm' } });
  const intake = (await made.json()) as { id: string; address: string };
  await page.goto('/deliveries');
  await expect(
    page
      .getByRole('list', { name: /deliver/ })
      .getByRole('listitem')
      .first(),
  ).toBeVisible();
  let requests = 0;
  page.on('request', request => {
    if (new URL(request.url()).pathname.startsWith('/api/')) requests += 1;
  });
  for (let n = 0; n < 60; n++)
    await page.request.post(new URL(intake.address).pathname, { data: { submission_id: `storm ${n}`, site: 'AB-07' } });
  const desk = async () =>
    ((await (await page.request.get(`/api/intakes/${intake.id}`)).json()) as { forms: { submissions: number }[] })
      .forms[0]?.submissions;
  await expect.poll(desk).toBe(60);
  await expect(page.getByText(/last message .*Storm/)).toBeVisible();
  expect(requests).toBeLessThan(30);
  await page.request.delete(`/api/intakes/${intake.id}`);
});

test('what somebody answered is found from everywhere, and so are deliveries of it', async ({ page }) => {
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Search or run' }).fill('tomasz.wilk');
  const found = page.getByRole('group', { name: 'Submissions' }).getByRole('option');
  await expect(found.first()).toContainText(/Sampling report|Volunteer|Kit|Incident|School/);
  await expectAccessible(page);
  await page.getByRole('option', { name: /Deliveries containing/ }).click();
  await expect(page).toHaveURL(/search=tomasz/);
  await expect(
    page
      .getByRole('list', { name: /deliver/ })
      .getByRole('listitem')
      .first(),
  ).toBeVisible();
  await page.getByRole('link', { name: /Desk/ }).click();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Search or run' }).fill('tomasz.wilk');
  await found.first().click();
  await expect(page.getByRole('main')).toContainText(/tomasz.wilk/i);
});
