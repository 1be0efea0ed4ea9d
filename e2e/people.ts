import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { demo } from './addresses';

/** Everything axe has against a page, by rule and place; it should be nothing. Only some rules when they are named. */
export async function complaints(page: Page, rules?: string[]): Promise<string[]> {
  // There are no frames of other origins: the legacy mode says the same and needs no page of its own.
  const axe = new AxeBuilder({ page }).setLegacyMode(true);
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  return violations.flatMap(({ id, nodes }) => nodes.map(node => `${id}: ${node.target.join(' ')}`));
}

/** Waits until a page has what it asked for: half a second in which nothing arrives. What it keeps open to listen does not count. */
export const settle = (page: Page) =>
  page.waitForFunction(() => {
    const last = Math.max(
      0,
      ...performance.getEntriesByType('resource').map(each => (each as PerformanceResourceTiming).responseEnd),
    );
    return document.readyState === 'complete' && performance.now() - last > 500;
  });

export async function expectAccessible(page: Page, rules?: string[]): Promise<void> {
  expect(await complaints(page, rules)).toEqual([]);
}

/** The link to a part of a route: what the link of another place says may begin alike. */
export const part = (page: Page, name: 'Filter' | 'Mapping' | 'Delivery' | 'Proofs' | 'Rehearsal' | 'Test') =>
  page.getByRole('navigation', { name: 'Parts of the route' }).getByRole('link', { name: new RegExp(`^${name}`) });

/** Opens a new intake by its page and gives back its address. */
export async function openIntake(page: Page, name: string): Promise<string> {
  await page.goto('/intakes');
  await page.getByRole('button', { name: 'New intake' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Create intake' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  return page.getByRole('main').locator('code').first().innerText();
}

/** Fills in the practice yard's sampling report in a tab of its own. */
export async function fillReport(
  page: Page,
  answers: { site: string; when: string; temperature?: string; signs?: string[]; name: string; mail: string },
): Promise<void> {
  await page.getByLabel('Which site?').selectOption(answers.site);
  await page.getByLabel('When did you sample?').fill(answers.when);
  if (answers.temperature) await page.getByLabel('Water temperature').fill(answers.temperature);
  for (const sign of answers.signs ?? []) await page.getByLabel(sign, { exact: true }).check();
  await page.getByLabel('Your name').fill(answers.name);
  await page.getByLabel('Your e-mail').fill(answers.mail);
  await page.getByRole('button', { name: 'Send report' }).click();
}

/** Points the practice builder at an address, and has it sign when a secret is given. */
export async function pointBuilderAt(page: Page, address: string, secret = ''): Promise<void> {
  await page.goto(`${demo.practice}/builders/sampling-report`);
  await page.getByLabel('Address that answers go to').fill(address);
  await page.getByLabel('Secret to sign with').fill(secret);
  // The tab may be closed next: what is saved is saved by then.
  const saved = page.waitForEvent('load');
  await page.getByRole('button', { name: 'Save' }).click();
  await saved;
}

/** Points the practice builder at the demo's own intake, where stories before may have pointed it elsewhere; gives the address. */
export async function pointBuilderHome(page: Page): Promise<string> {
  await page.goto('/intakes');
  await page.getByRole('main').getByRole('link', { name: 'Field team forms' }).click();
  const address = await page.getByRole('main').locator('code').first().innerText();
  const builder = await page.context().newPage();
  await pointBuilderAt(builder, address);
  await builder.close();
  return address;
}

/** Switches the practice register's fault. */
export async function setFault(page: Page, fault: string): Promise<void> {
  await page.request.post(`${demo.practice}/register/fault`, { form: { fault } });
}

/** The practice archive’s API. */
export const archive = { url: `${demo.practice}/archive/v1`, key: 'yard-archive-3c7f' };

/** Adds the practice archive as a target, from its document and with its key. */
export async function addArchive(page: Page, name: string): Promise<void> {
  await page.goto('/targets?new');
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Base address').fill(archive.url);
  await page.getByLabel('Operations from').selectOption({ label: 'an OpenAPI document' });
  await page.getByLabel('Credentials').selectOption({ label: 'API key in a header' });
  await page.getByLabel('Header').fill('X-Archive-Key');
  await page.getByLabel('Key', { exact: true }).fill(archive.key);
  await page.getByRole('button', { name: 'Add target' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}

/** Opens a line of the galley and fills it from an answer. */
export async function fillLine(page: Page, field: string, question: string): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${field}(required|\\*|$)`) }).click();
  await page.getByRole('combobox', { name: 'Answer', exact: true }).fill(question);
  await page.getByRole('option', { name: question }).first().click();
}

/** Adds a cleaning step to the open line. */
export async function addStep(page: Page, step: string): Promise<void> {
  await page.getByRole('button', { name: 'add step…' }).click();
  await page.getByPlaceholder('Search steps').fill(step);
  await page.getByRole('option', { name: step }).first().click();
}

/** Asks the API as whoever is signed in. */
export async function api<T>(page: Page, method: 'get' | 'post' | 'put', place: string, data?: object): Promise<T> {
  const answer = await page.request[method](`/api${place}`, data && { data });
  expect(answer.ok(), await answer.text()).toBe(true);
  return (await answer.json()) as T;
}

/** A live route to the register of its own, made like the one that is there: nothing of submissions went through it. */
export async function secondRoute(
  page: Page,
  name: string,
  target?: object,
): Promise<{ id: string; targetId: string }> {
  interface Route {
    id: string;
    name: string;
    formId: string;
    revision: number;
    draft: { calls: { targetId: string; operationId: string; lines: object[] }[] };
  }
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1, name: /attention/ })).toBeVisible();
  const routes = await api<Route[]>(page, 'get', '/routes');
  const first = await api<Route>(
    page,
    'get',
    `/routes/${routes.find(each => each.name === 'Sampling report to Register')!.id}`,
  );
  const [call] = first.draft.calls;
  const known = await api<{ baseUrl: string }>(page, 'get', `/targets/${call!.targetId}`);
  const made = target
    ? await api<{ id: string }>(page, 'post', '/targets', {
        name: 'Far shelf',
        baseUrl: known.baseUrl,
        token: 'yard-register-2f7c',
        ...target,
      })
    : null;
  const targetId = made?.id ?? call!.targetId;
  const route = await api<Route>(page, 'post', '/routes', {
    name,
    formId: first.formId,
    targetId,
    operationId: call!.operationId,
  });
  route.draft.calls[0]!.lines = call!.lines;
  await api(page, 'put', `/routes/${route.id}/draft`, { definition: route.draft, revision: route.revision });
  await api(page, 'post', `/routes/${route.id}/live`);
  return { id: route.id, targetId };
}

/** Takes away what {@link secondRoute} made: others count what is there. */
export async function removeSecondRoutes(page: Page): Promise<void> {
  const named = async <T>(place: string) =>
    (await (await page.request.get(`/api${place}`)).json()) as (T & { id: string; name: string })[];
  for (const { id, name, state } of await named<{ state: string }>('/routes')) {
    if (!/^A \w+ way$/.test(name)) continue;
    if (state === 'live') await page.request.post(`/api/routes/${id}/pause`);
    await page.request.delete(`/api/routes/${id}`);
  }
  for (const { id, name } of await named('/targets'))
    if (name === 'Far shelf') await page.request.delete(`/api/targets/${id}`);
}

/** Picks one out of many: opens the box, types, takes what is found. */
export async function pick(
  page: Page,
  label: string,
  option: string | RegExp,
  typed?: string,
  /** The heading that it stands under, where others have one like it. */
  group?: string,
): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).first().click();
  const list = page.getByRole('dialog', { name: label });
  if (typed !== undefined || typeof option === 'string')
    await list.getByRole('combobox').fill(typed ?? (option as string));
  const among = group === undefined ? list : list.getByRole('group', { name: new RegExp(`^${group}(, read only)?$`) });
  await among.getByRole('option', { name: option }).first().click();
}
