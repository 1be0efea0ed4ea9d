/* global document */
/** `npm run screenshots`: pictures of the main views, made from fresh demo data, into docs/screenshots/. */
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { build } from './build.mjs';
import { ensureChromium } from './chromium.mjs';
import { root } from './root.mjs';

const url = 'http://127.0.0.1:4630';
await build();
const { chromium } = await import('@playwright/test');
const demo = spawn(process.execPath, [path.join(root, 'dist/demo.mjs')], {
  env: {
    ...process.env,
    GRAMMATA_ROOT: root,
    GRAMMATA_DATA: mkdtempSync(path.join(tmpdir(), 'grammata-shots-')),
    GRAMMATA_PORT: '4630',
    GRAMMATA_PRACTICE_PORT: '4730',
  },
});
await new Promise(resolve => demo.stdout.on('data', text => String(text).includes(url) && resolve()));

const browser = await chromium.launch({ executablePath: ensureChromium(), args: ['--no-sandbox', '--disable-gpu'] });
const shot = async (name, go, colorScheme = 'light') => {
  const context = await browser.newContext({
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    viewport: { width: 1280, height: 800 },
    colorScheme,
    reducedMotion: 'reduce',
    baseURL: url,
  });
  const page = await context.newPage();
  await go(page);
  // Half a second in which no submissions; what the page keeps open to listen does not count.
  await page.waitForFunction(() => {
    const last = Math.max(0, ...performance.getEntriesByType('resource').map(each => each.responseEnd));
    return document.readyState === 'complete' && performance.now() - last > 500;
  });
  await page.evaluate('document.fonts.ready');
  await page.screenshot({ path: path.join(root, 'docs/screenshots', `${name}.png`) });
  await context.close();
  console.log(name);
};
const into = async (page, list, name) => {
  await page.goto(list);
  await page.getByRole('main').getByRole('link', { name }).first().click();
  await page.getByRole('heading', { level: 1, name }).waitFor();
};
const rehearsed = page => page.getByText(/\d+ of \d+ pass/).waitFor();
const line = (page, name) => page.getByRole('button', { name: new RegExp(`^${name}(required|\\*|$)`) }).click();
/** Until the past reports are all delivered. */
const delivered = async page => {
  await page.goto('/');
  await page.getByRole('contentinfo').getByText('waiting').waitFor({ state: 'detached' });
};

await shot('desk', delivered);
await shot('intake', page => into(page, '/intakes', 'Field team forms'));
await shot('correct', async page => {
  await into(page, '/intakes', 'Site access log');
  await page.getByRole('button', { name: 'Correct…' }).click();
  await page.getByLabel('Form ID').check();
  await page.getByRole('button', { name: /^log Site access log/ }).click();
  await page.getByText('read differently').waitFor();
});
await shot('form', async page => {
  await into(page, '/intakes', 'Field team forms');
  await page.getByRole('complementary').getByRole('link', { name: 'Sampling report', exact: true }).first().click();
  await page.getByText('Answers by week').waitFor();
});
await shot('workbench', async page => {
  await into(page, '/routes', 'Sampling report to Register');
  await rehearsed(page);
  await page.keyboard.press('l');
  await line(page, 'sampled_at');
});
await shot(
  'workbench-dark',
  async page => {
    await into(page, '/routes', 'Worrying signs to Follow-ups');
    await rehearsed(page);
    await page.getByRole('radio', { name: 'Body' }).click();
  },
  'dark',
);
await shot('calls', async page => {
  await into(page, '/routes', 'Volunteer sign-up to Roster');
  await rehearsed(page);
  await page.getByRole('button', { name: 'Call settings' }).click();
  await page.getByText('must equal the value').waitFor();
});
await shot('threads', async page => {
  await into(page, '/routes', 'Sampling report to Register');
  await rehearsed(page);
  await page.keyboard.press('t');
});
await shot('sheet', async page => {
  await into(page, '/routes', 'Sampling report to Register');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Handover sheet' }).click();
  await page.getByRole('article', { name: 'Handover sheet' }).waitFor();
});
await shot('filter', async page => {
  await into(page, '/routes', 'Worrying signs to Follow-ups');
  await page.getByRole('link', { name: /^Filter/ }).click();
});
await shot('rehearsal', async page => {
  await into(page, '/routes', 'Sampling report to Register');
  await page.getByRole('link', { name: /^Rehearse all/ }).click();
  await rehearsed(page);
});
await shot('test', async page => {
  await into(page, '/routes', 'Sampling report to Register');
  await rehearsed(page);
  await page.getByRole('link', { name: /^Test/ }).click();
  await page.getByRole('radio', { name: 'Several samples' }).click();
  await page.getByRole('button', { name: /^Test \d/ }).click();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  const report = page.getByRole('region', { name: 'Report' });
  await report.waitFor();
  await report.evaluate(each => each.scrollIntoView());
});
await shot('proofs', async page => {
  await into(page, '/routes', 'Kit request to Register');
  await page.getByRole('link', { name: /^Proofs/ }).click();
  await page.getByRole('button', { name: 'Suggest samples to approve' }).click();
  await page.getByRole('button', { name: /^Approve \d/ }).click();
  await page.getByText(/proofs pass/).waitFor();
  await page.getByRole('link', { name: /^Mapping/ }).click();
  await page
    .getByRole('region', { name: 'Lines', exact: true })
    .getByRole('button', { name: /^asked_by/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'add step…' }).click();
  await page.getByPlaceholder('Search steps').fill('Upper');
  await page.getByRole('option', { name: 'Change case' }).first().click();
  await page.getByRole('link', { name: /^Proofs/ }).click();
  await page.getByText(/from what was approved/).waitFor();
});
await shot('preflight', async page => {
  await into(page, '/routes', 'Worrying signs to Follow-ups');
  await rehearsed(page);
  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByText('Answered in').waitFor();
});
await shot('target', page => into(page, '/targets', 'Register'));
await shot('deliveries', async page => {
  await page.goto('/deliveries');
  await page.getByRole('listitem').first().waitFor();
});
await shot('delivery', async page => {
  await page.goto('/deliveries?search=Severe&state=delivered');
  await page.getByRole('listitem').first().getByRole('link').first().click();
  await page.getByRole('region', { name: 'Result' }).waitFor();
});
await shot('practice', async page => {
  await page.goto('/practice');
  await page.getByText('Open form').first().waitFor();
});
// Last of all: the week changes what others show.
await shot('changes', async page => {
  await page.goto('http://127.0.0.1:4730/');
  await page.getByRole('button', { name: 'Play a bad week' }).click();
  await page.goto('/changes');
  const change = page.getByRole('listitem', { name: /^Key of/ });
  await change.getByText('Tried on samples').waitFor();
});
await browser.close();
demo.kill();
