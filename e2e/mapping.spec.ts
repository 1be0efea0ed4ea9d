import { readFileSync } from 'node:fs';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { openIntake, pick, part } from './people';

/** A route of its own from the sampling report to the register, as a newcomer makes it. */
async function newRoute(page: Page, name: string, to = 'Add a record to Samples'): Promise<void> {
  await page.goto('/routes?new');
  await pick(page, 'Form', /^Sampling report.*Field team forms/, 'Sampling report');
  await pick(page, 'Target', to);
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Create route' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Sample' })).toContainText(/Sample 1 of \d+/);
}

const line = (page: Page, field: string): Locator =>
  page
    .getByRole('region', { name: 'Lines' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: new RegExp(`^${field}(required)?$`) }) });
const openLine = (page: Page, field: string) =>
  page.getByRole('button', { name: new RegExp(`^${field}(required)?$`) }).click();
const stored = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible();

test('most lines are suggested with a reason; accepting them fills the mapping, and undo empties it', async ({
  page,
}) => {
  await newRoute(page, 'Proposed');
  await expect(page.getByText(/\d+ lines are suggested, \d+ of them confident/)).toBeVisible();
  await expect(line(page, 'temp_c')).toContainText('Accept');
  await expect(line(page, 'temp_c')).toContainText('number, comma or point');
  await page.getByRole('button', { name: /^Accept \d+ confident/ }).click();
  await expect(line(page, 'temp_c').getByRole('button', { name: /^temp_c over all samples: \d+ fine/ })).toBeVisible();
  // Those that are only likely are taken by a word of their own; what is neither is taken one by one.
  await page.getByRole('button', { name: /Accept \d+ likely/ }).click();
  await expect(page.getByRole('button', { name: /Accept \d+ likely/ })).toHaveCount(0);
  const single = page.getByRole('button', { name: 'Accept', exact: true });
  for (let left = await single.count(); left > 0; left = await single.count()) {
    await single.first().click();
    await expect(single).toHaveCount(left - 1);
  }
  await expect(page.getByText(/proposed, /)).toHaveCount(0);
  await expect(part(page, 'Mapping')).not.toContainText('required fields missing');
  await stored(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/lines? (is|are) suggested/)).toBeVisible();
});

test('a line is filled by typing words of a question, by picking in the sample, and by dragging', async ({ page }) => {
  await newRoute(page, 'Three ways');
  await openLine(page, 'observer');
  await page.getByRole('combobox', { name: 'Answer', exact: true }).fill('your na');
  await page.keyboard.press('Enter');
  await expect(line(page, 'observer')).toContainText('Your name');
  await page.keyboard.press('Escape');

  await openLine(page, 'note');
  await page
    .getByRole('region', { name: 'Sample' })
    .getByRole('button', { name: /Anything else/ })
    .click();
  await expect(page.getByRole('combobox', { name: 'Answer', exact: true })).toHaveValue(
    'Anything else we should know?',
  );
  await openLine(page, 'note');

  const from = page.getByRole('region', { name: 'Sample' }).getByRole('listitem').filter({ hasText: 'Which site?' });
  await from.hover();
  await page.mouse.down();
  // Until the line is under it: notes that come late may move lines.
  await expect(async () => {
    const over = (await line(page, 'site').boundingBox())!;
    await page.mouse.move(over.x + 120, over.y + 12, { steps: 8 });
    await expect(page.getByText(/is over site\./)).toHaveCount(1, { timeout: 1000 });
  }).toPass();
  await page.mouse.up();
  await expect(line(page, 'site').getByRole('button', { name: /^site over all samples/ })).toBeVisible();
  await expect(line(page, 'site')).toContainText('Which site?');
  await stored(page);
});

test('steps are added from a picker with their results, moved by keys and by dragging, and complained about', async ({
  page,
}) => {
  await newRoute(page, 'Steps');
  await openLine(page, 'signs');
  await page.getByRole('combobox', { name: 'Answer', exact: true }).fill('what signs');
  await page.keyboard.press('Enter');
  const editor = line(page, 'signs');
  const add = async (words: string) => {
    await editor.getByRole('button', { name: 'add step…' }).click();
    await page.getByPlaceholder('Search steps').fill(words);
    await expect(page.getByRole('dialog').getByRole('option').first()).toBeVisible();
    await page.keyboard.press('Enter');
  };
  await add('format date');
  await expect(editor).toContainText(
    '“Format date” takes text or a date and is given a list. Put “Join list” before it.',
  );
  await editor.getByRole('button', { name: 'Remove step 1' }).click();
  await add('join list');
  await add('change case');
  const grips = editor.getByRole('button', { name: /^Step \d/ });
  await expect(grips).toHaveText(['Join list', 'Change case']);
  await grips.nth(1).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(grips).toHaveText(['Change case', 'Join list']);
  await expect(grips.nth(0)).toBeFocused();

  const [top, bottom] = [(await grips.nth(0).boundingBox())!, (await grips.nth(1).boundingBox())!];
  await page.mouse.move(top.x + 8, top.y + 8);
  await page.mouse.down();
  await page.mouse.move(bottom.x + 8, bottom.y + 16, { steps: 10 });
  await page.mouse.up();
  await expect(grips).toHaveText(['Join list', 'Change case']);

  await editor.getByRole('button', { name: 'Switch step 2 off' }).click();
  await expect(grips.nth(1)).toHaveText('Change case (off)');
  await stored(page);
});

test('each item goes through steps of its own', async ({ page }) => {
  await newRoute(page, 'Items');
  await openLine(page, 'signs');
  await page.getByRole('combobox', { name: 'Answer', exact: true }).fill('what signs');
  await page.keyboard.press('Enter');
  const editor = line(page, 'signs');
  await editor.getByRole('button', { name: 'add step…' }).click();
  await page.getByPlaceholder('Search steps').fill('each item');
  await page.keyboard.press('Enter');
  const inner = editor.getByRole('group', { name: 'Steps for each item' });
  await inner.getByRole('button', { name: 'add step…' }).click();
  await page.getByPlaceholder('Search steps').fill('change case');
  await page.keyboard.press('Enter');
  await inner.getByRole('combobox').selectOption({ label: 'upper case' });
  await expect(editor).toContainText(/each item upper case/);
  await stored(page);
});

test('a part of a bar lists its submissions with their values, and one of them is shown', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).first().click();
  await page.getByRole('button', { name: /^ph over all samples/ }).click();
  const behind = page.getByRole('region', { name: 'Submissions for ph' });
  await behind.getByRole('radio', { name: /^with problems/ }).click();
  await expect(behind.getByRole('listitem').first()).toContainText('could not read the strip');
  await behind.getByRole('listitem').first().getByRole('button').click();
  await expect(page.getByRole('region', { name: 'Sample' })).toContainText('could not read the strip');
  await behind.getByRole('radio', { name: /^fine/ }).click();
  await expect(behind.getByRole('listitem').first()).not.toContainText('!');
  await behind.getByRole('button', { name: 'Close' }).click();
  await expect(behind).toHaveCount(0);
});

test('d goes to the next sample with a different value', async ({ page }) => {
  await newRoute(page, 'Differs');
  await page.getByRole('button', { name: /Accept \d+ likely/ }).click();
  await openLine(page, 'site');
  const site = page.getByRole('region', { name: 'Sample' }).getByRole('listitem').filter({ hasText: 'Which site?' });
  const before = await site.innerText();
  await page.getByRole('button', { name: 'Close' }).focus();
  await page.keyboard.press('d');
  await expect(site).not.toHaveText(before, { useInnerText: true });
});

test('threads show what goes where and what is left over; a field opens its line', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).first().click();
  await expect(page.getByText(/\d+ of \d+ pass/)).toBeVisible();
  await page.keyboard.press('t');
  const threads = page.getByRole('region', { name: 'Threads' });
  const questions = threads.getByRole('list', { name: 'Questions' });
  await expect(questions.getByRole('listitem').filter({ hasText: 'Water temperature' })).toContainText(
    'goes to temp_c',
  );
  await expect(questions.getByRole('listitem').filter({ hasText: 'Send me the yearly report' })).toContainText(
    'is not used',
  );
  await expect(threads).toContainText(/\d+ questions? (is|are) not used/);
  await threads.getByRole('button', { name: /^temp_c/ }).click();
  await expect(page.getByRole('combobox', { name: 'Answer', exact: true })).toHaveValue('Water temperature');
});

test('the handover sheet says the mapping in words, and is taken along as Markdown and CSV', async ({ page }) => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name: 'Sampling report to Register' }).first().click();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Handover sheet' }).click();
  const row = page.getByRole('row').filter({ hasText: 'What signs did you see?' });
  await expect(row).toContainText('read as list, then joined with “; ”');
  await expect(row).toContainText('signs');
  const saved = async (name: string) => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).click()]);
    return { name: download.suggestedFilename(), text: readFileSync(await download.path(), 'utf8') };
  };
  const markdown = await saved('Markdown');
  expect(markdown.name).toBe('Sampling report to Register.md');
  expect(markdown.text).toContain(
    '| 6 | What signs did you see? | read as list, then joined with “; ” | signs | text |',
  );
  const csv = await saved('CSV');
  expect(csv.text.split('\r\n')[0]).toBe(
    'No.,Question,Cleaning,Field,Type,If blank or invalid,Example answer,Example value',
  );
});

test('conditions nest, and say which recorded submissions go', async ({ page }) => {
  await newRoute(page, 'Nested');
  await part(page, 'Filter').click();
  await page.getByRole('button', { name: 'Add condition' }).click();
  await pick(page, 'Value of condition 1', 'Water temperature');
  await page.getByLabel('Comparison of condition 1', { exact: true }).selectOption({ label: 'is above' });
  await page.getByLabel('Comparison value of condition 1').fill('10');
  await page.getByRole('button', { name: 'Add group' }).click();
  await pick(page, 'Value of condition 2.1', 'Photos');
  await page.getByLabel('Comparison of condition 2.1').selectOption({ label: 'has a file of type' });
  await page.getByLabel('Comparison value of condition 2.1').fill('image/*');
  await page.getByRole('button', { name: 'Add condition to group 2' }).click();
  await pick(page, 'Value of condition 2.2', 'Submission id');
  await page.getByLabel('Comparison of condition 2.2').selectOption({ label: 'starts with' });
  await page.getByLabel('Comparison value of condition 2.2').fill('e-');
  const going = page.getByRole('radio', { name: /^going/ });
  await expect(going).not.toHaveText(/ 0$/);
  await page.getByLabel('Match of group 2').selectOption('none');
  await expect(going).toHaveText(/0$/);
  await page.getByRole('button', { name: 'Remove group 2' }).click();
  await expect(going).not.toHaveText(/ 0$/);
  await stored(page);
  await page.reload();
  await expect(page.getByLabel('Comparison value of condition 1')).toHaveValue('10');
});

test('a line whose field the target does not have stays, and is offered the likeliest place', async ({ page }) => {
  await newRoute(page, 'Loose');
  const id = /routes\/(\w+)/.exec(page.url())![1];
  const read = await page.request.get(`/api/routes/${id}`);
  expect(read.status()).toBe(200);
  const view = (await read.json()) as { revision: number; draft: { calls: { lines: object[] }[] } };
  const { draft, revision } = view;
  const loose = {
    id: 'loose',
    to: 'temp_celsius',
    source: { from: 'constant', value: 8.4 },
    cleaning: [],
    whenBlank: 'leaveOut',
    whenProblem: 'stop',
    fallback: '',
  };
  draft.calls[0]!.lines.push(loose);
  expect((await page.request.put(`/api/routes/${id}/draft`, { data: { definition: draft, revision } })).status()).toBe(
    200,
  );
  await page.reload();
  await expect(line(page, 'temp_celsius')).toContainText('Field no longer exists');
  await page.getByRole('button', { name: 'Move to temp_c' }).click();
  await expect(page.getByText('Field no longer exists')).toHaveCount(0);
  await expect(line(page, 'temp_c')).toContainText('always 8.4');
  await stored(page);
});

test('two questions worded alike, a wording in braces and an address with a bare percent sign break nothing', async ({
  page,
}) => {
  const address = await openIntake(page, 'Odd wordings');
  const answers = [
    { id: 'a', label: 'Note', value: 'first' },
    { id: 'b', label: 'Note', value: 'second' },
    { id: 'c', label: '{{name}}', value: 'Ada Reed' },
  ];
  const form = { id: 'odd', name: 'Odd wordings' };
  for (const n of [1, 2]) await page.request.post(address, { data: { submission_id: `odd-${n}`, form, answers } });
  const made = async <T>(place: string, data: object) => {
    const answer = await page.request.post(`/api${place}`, { data });
    expect(answer.ok(), await answer.text()).toBe(true);
    return (await answer.json()) as T;
  };
  const read = async <T>(place: string) => (await (await page.request.get(`/api${place}`)).json()) as T;
  await expect
    .poll(async () => (await read<{ name: string }[]>('/forms')).some(each => each.name === 'Odd wordings'))
    .toBe(true);
  const formId = (await read<{ id: string; name: string }[]>('/forms')).find(each => each.name === 'Odd wordings')!.id;
  const target = (await read<{ id: string; name: string }[]>('/targets')).find(each => each.name === 'Register')!;
  const { operations } = await read<{ operations: { id: string; label: string }[] }>(`/targets/${target.id}`);
  const route = await made<{ id: string }>('/routes', {
    name: 'Odd wordings to Register',
    formId,
    targetId: target.id,
    operationId: operations.find(each => /follow/i.test(each.label))!.id,
  });
  await page.goto(`/routes/${route.id}`);
  await page.getByRole('button', { name: /^details(required|\*|$)/ }).click();
  const line = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^details/ }) });
  await page.getByLabel('Text template').check();
  const text = page.getByRole('textbox', { name: 'Text', exact: true });
  await text.fill('For ');
  await page.keyboard.type('{{{nam');
  await page.getByRole('option', { name: /name/ }).first().click();
  await page.keyboard.type(': {Note');
  await page.getByRole('option', { name: /Note \(b\)/ }).click();
  await page.keyboard.type(' x');
  await expect(text).toContainText('Note (b) x');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const draft = await read<{ draft: { calls: { lines: { to: string; source: unknown }[] }[] } }>(`/routes/${route.id}`);
  const source = draft.draft.calls[0]!.lines.find(each => each.to === 'details')!.source;
  // The answer that was picked, and not the first that is worded so.
  expect(JSON.stringify(source)).toContain('{"field":"b"},{"text":" x"}');
  expect(JSON.stringify(source)).not.toContain('"field":"a"');
  await page.getByLabel('fixed value').check();
  await page.getByLabel('Value', { exact: true }).fill('https://shelf.example.org/a%');
  await page.getByLabel('Value', { exact: true }).press('Tab');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(line).toContainText('https://shelf.example.org/a%');
  expect((await page.request.delete(`/api/routes/${route.id}`)).ok()).toBe(true);
});
