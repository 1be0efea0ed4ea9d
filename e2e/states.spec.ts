import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, settle } from './people';

/** Every state that a person can reach and that looks different than the place it is on. */
const route = async (page: Page, name: string, part = '') => {
  await page.goto('/routes');
  await page.getByRole('main').getByRole('link', { name }).click();
  await expect(page.getByRole('region', { name: 'Sample' })).toContainText(/Sample \d+ of \d+/);
  if (part) await page.getByRole('link', { name: new RegExp(`^${part}`) }).click();
};
const openLine = (page: Page, field: string) =>
  page.getByRole('button', { name: new RegExp(`^${field}(required|\\*|$)`) }).click();

const states: [string, (page: Page) => Promise<unknown>][] = [
  [
    'a delivery chosen by key',
    async page => {
      await page.goto('/deliveries');
      await expect(page.getByRole('listitem').first()).toBeVisible();
      for (const key of ['j', 'j', 'x']) await page.keyboard.press(key);
      await expect(page.getByText('1 delivery selected.')).toBeVisible();
    },
  ],
  [
    'a row of the rehearsal chosen by key, and its columns to pick',
    async page => {
      await route(page, 'Sampling report to Register');
      await page.getByRole('link', { name: /^Rehearse all/ }).click();
      await expect(page.getByRole('table')).toContainText('can be sent');
      await page.keyboard.press('j');
      await expect(page.getByRole('row').nth(1).getByRole('link')).toBeFocused();
      await page.getByRole('button', { name: 'Columns…' }).click();
      await page.getByRole('checkbox', { name: 'site' }).click();
      await expect(page.getByRole('columnheader', { name: 'site' })).toHaveCount(0);
    },
  ],
  [
    'a list of questions that is searched',
    async page => {
      await route(page, 'Worrying signs', 'Filter');
      await page.getByRole('combobox', { name: 'Value of condition 1' }).click();
      await page.getByRole('dialog').getByRole('combobox').fill('e');
      await expect(page.getByRole('listbox').getByRole('option').first()).toBeVisible();
    },
  ],
  [
    'a list in which nothing is found',
    async page => {
      await route(page, 'Worrying signs', 'Delivery');
      await page.getByRole('combobox', { name: 'Time zone of the form' }).click();
      await page.getByRole('dialog').getByRole('combobox').fill('nowhere at all');
      await expect(page.getByText('No matches.')).toBeVisible();
    },
  ],
  [
    'an open line whose step is picked',
    async page => {
      await route(page, 'Worrying signs');
      await openLine(page, 'reported_on');
      await page.getByRole('button', { name: 'add step…' }).click();
      await page.getByPlaceholder('Search steps').fill('case');
    },
  ],
  [
    'a text template, and the list that opens at a brace',
    async page => {
      await route(page, 'Sampling report to Register');
      await openLine(page, 'note');
      await page.getByRole('textbox', { name: 'Text', exact: true }).click();
      await page.keyboard.press('Control+End');
      await page.keyboard.type(' seen at {');
      await expect(page.locator('.cm-tooltip-autocomplete')).toBeVisible();
    },
  ],
  [
    'the message beside the lines, searched',
    async page => {
      await route(page, 'Worrying signs');
      await page.keyboard.press('w');
      await page.getByRole('textbox', { name: 'Request body: body' }).click();
      await page.keyboard.press('Control+f');
      await expect(page.locator('.cm-search')).toBeVisible();
    },
  ],
  [
    'the requests of a sample',
    async page => {
      await route(page, 'Incident alert to Lab desk');
      await page.keyboard.press('r');
      await expect(page.getByRole('region', { name: 'Request 1', exact: true })).toBeVisible();
    },
  ],
  [
    'how a call is made',
    async page => {
      await route(page, 'Volunteer sign-up to Roster');
      await page.keyboard.press('m');
      await expect(page.getByText('must equal the value')).toBeVisible();
    },
  ],
  [
    'what is checked before a route goes live',
    async page => {
      await route(page, 'Worrying signs');
      await page.getByRole('button', { name: 'Go live…' }).click();
      await expect(page.getByRole('region', { name: 'Before going live' })).toContainText('Required fields missing');
    },
  ],
  [
    'hours that can’t be taken',
    async page => {
      await route(page, 'Worrying signs', 'Delivery');
      await page.getByLabel('Retry for, hours').fill('3o');
      await expect(page.getByText('! Enter hours from 0 to 720.')).toBeVisible();
    },
  ],
  [
    'a target’s form with everything that is wrong with it',
    async page => {
      await page.goto('/targets?new');
      await page.getByLabel('Credentials').selectOption('oauth');
      await page.getByRole('button', { name: 'Add a test address' }).click();
      await page.getByRole('button', { name: 'Set timeouts' }).click();
      await page.getByLabel('Connect, seconds').fill('0');
      await page.getByRole('button', { name: 'Add target' }).click();
      await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
      await expect(page.getByText('! Enter the client ID.')).toBeVisible();
      await expect(page.getByText('! Enter a whole number from 1 to 120.')).toBeVisible();
    },
  ],
  [
    'the question before a target is removed',
    async page => {
      await page.goto('/targets');
      await page.getByRole('main').getByRole('link', { name: 'Shelf' }).click();
      await page.getByRole('button', { name: 'Remove target…' }).press('Enter');
      await expect(page.getByRole('button', { name: 'Cancel', exact: true })).toBeFocused();
    },
  ],
  [
    'an intake’s settings and a question that is renamed',
    async page => {
      await page.goto('/intakes');
      await page
        .getByRole('main')
        .getByRole('link', { name: /^Field team forms/ })
        .click();
      await page.getByRole('button', { name: 'Change', exact: true }).first().click();
      await page.getByLabel('Senders are verified by').selectOption('hmac');
      await page.getByLabel('Response').selectOption('redirect');
      await expect(page.getByLabel('Redirect URL')).toBeVisible();
    },
  ],
  [
    'a place pointed at to overrule a reading',
    async page => {
      await page.goto('/intakes');
      await page
        .getByRole('main')
        .getByRole('link', { name: /^Field team forms/ })
        .click();
      await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Which site?');
      await page.keyboard.press('o');
      await page.getByRole('radio', { name: 'Form ID' }).check();
    },
  ],
  [
    'a place that can’t be read',
    async page => {
      await page.route('**/api/desk', request =>
        request.fulfill({ status: 500, json: { type: 'about:blank', title: 'Something broke.', status: 500 } }),
      );
      await page.goto('/');
      await expect(page.getByRole('alert')).toContainText('Something broke.');
    },
  ],
];

for (const [name, reach] of states) {
  test(`axe finds nothing on ${name}, in light and in dark`, async ({ page }) => {
    await reach(page);
    await settle(page);
    await expectAccessible(page);
    await page.locator('html').evaluate(html => (html.dataset.theme = 'dark'));
    await expectAccessible(page, ['color-contrast']);
    await page.locator('html').evaluate(html => delete html.dataset.theme);
  });
}

test('what can be pressed is large enough to be hit, and edges of what is written on can be seen', async ({ page }) => {
  await route(page, 'Worrying signs');
  await openLine(page, 'reported_on');
  // WCAG 2.2, 2.5.8: 24 by 24 px, but for words within a sentence, and what stands far enough from anything else.
  const small = await page.getByRole('button').evaluateAll(all =>
    all
      .filter(each => each.textContent!.trim() === '' || each.querySelector('svg'))
      .map(each => [each.getAttribute('aria-label') ?? each.textContent, each.getBoundingClientRect()] as const)
      .filter(([, { width, height }]) => width > 0 && (width < 24 || height < 24))
      .map(([label]) => label),
  );
  expect(small).toEqual([]);
  for (const theme of ['light', 'dark']) {
    const contrast = await page.evaluate(wanted => {
      document.documentElement.dataset.theme = wanted;
      const styles = getComputedStyle(document.documentElement);
      const light = (name: string) => {
        const channels = styles.getPropertyValue(name).trim().slice(1).match(/../g)!;
        const [r, g, b] = channels.map(each => {
          const part = parseInt(each, 16) / 255;
          return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
        }) as [number, number, number];
        return 0.2126 * r + 0.7152 * g + 0.0722 * b;
      };
      const between = (a: string, b: string) => {
        const [one, other] = [light(a), light(b)];
        return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);
      };
      return ['--paper', '--paper-raised', '--paper-sunk'].map(ground => between('--rule-strong', ground));
    }, theme);
    // WCAG 2.2, 1.4.11.
    for (const each of contrast) expect(each).toBeGreaterThanOrEqual(3);
  }
});
