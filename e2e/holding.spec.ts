import { expect, test, type Page } from '@playwright/test';
import { api, expectAccessible, openIntake } from './people';

// A question that a route uses comes under another key: what would go without it waits, until somebody decides.

interface Made {
  id: string;
  revision: number;
  draft: { calls: { targetId: string; operationId: string; lines: object[] }[] };
}

const NAME = 'Remarks to Register';

/** A live route of its own whose line for a note is optional; gives where its form sends to. */
async function withRoute(page: Page): Promise<(key: string | null, note: string) => Promise<void>> {
  const address = await openIntake(page, 'Remarks');
  let at = 0;
  const send = async (key: string | null, note: string) => {
    at += 1;
    const remark = key === null ? [] : [{ id: key, label: 'Anything else you saw?', value: note }];
    const sent = await page.request.post(address, {
      data: {
        submission_id: `remark-${at}`,
        form: { id: 'remarks', name: 'Remarks' },
        answers: [
          { id: 'where', label: 'Which site?', value: 'Withy Bridge (AB-07)' },
          { id: 'when', label: 'When?', value: `2026-11-2${at % 9}T08:00:00Z` },
          { id: 'mail', label: 'Your e-mail', value: `walker${at}@example.org` },
          ...remark,
        ],
      },
    });
    expect(sent.ok()).toBe(true);
  };
  for (const note of [
    'Foam',
    'A dead eel',
    'Nothing',
    'Clear water',
    'Foam again',
    'Reeds cut',
    'Low water',
    'Oil film',
  ])
    await send('seen', note);
  const form = async () =>
    (await api<{ id: string; name: string; submissions: number }[]>(page, 'get', '/forms')).find(
      each => each.name === 'Remarks' && each.submissions === 8,
    );
  await expect.poll(form).toBeTruthy();
  const routes = await api<{ id: string; name: string }[]>(page, 'get', '/routes');
  const known = await api<Made>(
    page,
    'get',
    `/routes/${routes.find(each => each.name === 'Sampling report to Register')!.id}`,
  );
  const { targetId, operationId } = known.draft.calls[0]!;
  const made = { name: NAME, formId: (await form())!.id, targetId, operationId };
  const route = await api<Made>(page, 'post', '/routes', made);
  const line = (to: string, field: string) => ({
    id: `l-${to}`,
    to,
    source: { from: 'field', field },
    cleaning: [],
    whenBlank: 'leaveOut',
    whenProblem: 'stop',
    fallback: '',
  });
  route.draft.calls[0]!.lines = [
    line('site', 'where'),
    line('sampled_at', 'when'),
    line('observer_email', 'mail'),
    line('note', 'seen'),
  ];
  await api(page, 'put', `/routes/${route.id}/draft`, { definition: route.draft, revision: route.revision });
  await api(page, 'post', `/routes/${route.id}/live`);
  return send;
}

/** What it made is taken away: others count what is there. */
test.afterEach(async ({ page }) => {
  for (const place of ['routes', 'intakes'])
    for (const { id, name } of await api<{ id: string; name: string }[]>(page, 'get', `/${place}`)) {
      if (name !== NAME && name !== 'Remarks') continue;
      if (place === 'routes') await page.request.post(`/api/routes/${id}/pause`);
      expect((await page.request.delete(`/api/${place}/${id}`)).ok()).toBe(true);
    }
});

const entry = (page: Page) =>
  page
    .getByRole('list', { name: 'Changes', exact: true })
    .getByRole('listitem', { name: /Anything else you saw/ })
    .first();

test('what would go without an answer waits; somebody lets it go, sees what went without it, and it is said when it is back', async ({
  page,
}) => {
  const send = await withRoute(page);
  await page.goto('/changes');
  // It is asked no more: the first are not enough to say so, those behind them wait.
  for (let each = 0; each < 9; each++) await send(null, '');
  await expect(entry(page)).toContainText('Question removed');
  const open = entry(page).getByRole('button', { name: /^Show (repair|routes)/ });
  await expect(async () => {
    if ((await entry(page).getByText('What comes is').count()) === 0)
      await open.first().press('Enter', { timeout: 5000 });
    await expect(entry(page)).toContainText('What comes is held until this is resolved.', { timeout: 5000 });
  }).toPass();
  await expectAccessible(page);
  await entry(page)
    .getByRole('button', { name: `Deliver it as it is: ${NAME}` })
    .press('Enter');
  await expect(entry(page)).toContainText('What comes is delivered as it is.');
  await expect(entry(page)).toContainText('9 submissions delivered without it.');
  await expect(entry(page)).toContainText('add it at the target');
  await entry(page).getByRole('button', { name: 'List them' }).press('Enter');
  await expect(entry(page).getByRole('link', { name: /walker9@example\.org/ })).toBeVisible();
  await expectAccessible(page);
  await entry(page)
    .getByRole('button', { name: `Hold it: ${NAME}` })
    .press('Enter');
  await expect(entry(page)).toContainText('What comes is held until this is resolved.');
  await send(null, '');
  await expect(entry(page).getByRole('heading').first()).toContainText('1 submission held');
  // It is asked again after all.
  await send('seen', 'Foam once more');
  await send('seen', 'A heron');
  await expect(entry(page).getByRole('heading').first()).toContainText('Withdrawn');
  await expect(entry(page)).toContainText('it is as before again');
  await expect(entry(page)).not.toContainText('held');
  await expect(entry(page)).not.toContainText('delivered without');
  await expectAccessible(page);
});
