import { chromium } from '@playwright/test';
import { request } from 'undici';
import { startBuilt } from './built';

const SAMPLES = 10_000;
const QUESTIONS = 60;

export interface WorkbenchFigures {
  /** ms until a sample and its lines are there to work on, and until all samples are rehearsed. */
  usable: number;
  whole: number;
  /** Bytes that came over the wire for the samples, and of the values alone. */
  bytes: number;
  values: number;
  /** ms from a key that changes a line to its painting, and to the bars over all samples; the middle of several. */
  painted: number;
  bars: number;
}

/** Keys that are pressed to measure one. */
const KEYS = 12;

const middle = (all: number[]) => all.toSorted((a, b) => a - b)[Math.floor(all.length / 2)]!;

/** A report with so many answers in words; identifiers tell them apart. */
const report = (n: number) => ({
  submission_id: `s${n}`,
  ...Object.fromEntries(
    Array.from({ length: QUESTIONS }, (_, at) => [
      `What did you see at place ${at}, and how sure are you?`,
      `seen ${n % 97} at ${at}`,
    ]),
  ),
});

/** Opens a route over 10,000 samples of 60 questions in a browser. */
export async function workbenchFigures(executablePath: string): Promise<WorkbenchFigures> {
  const built = await startBuilt();
  const browser = await chromium.launch({ executablePath });
  try {
    const intake = await built.call<{ id: string; address: string }>('POST', '/intakes', {
      name: 'Bench',
      sizeLimit: 50_000_000,
    });
    const body = Array.from({ length: SAMPLES }, (_, n) => JSON.stringify(report(n))).join('\n');
    const values = body.length - SAMPLES * Object.keys(report(0)).join('').length;
    const origin = new URL(intake.address).origin;
    await (
      await request(`${origin}${new URL(intake.address).pathname}`, {
        method: 'POST',
        headers: { 'content-type': 'application/x-ndjson' },
        body,
      })
    ).body.dump();
    let formId: string | undefined;
    for (;;) {
      const { forms } = await built.call<{ forms: { id: string; submissions: number }[] }>(
        'GET',
        `/intakes/${intake.id}`,
      );
      formId = forms[0]?.id;
      if (forms[0]?.submissions === SAMPLES) break;
      await new Promise(resolve => setTimeout(resolve, 500));
    }
    const target = await built.call<{ id: string; operations: { id: string }[] }>('POST', '/targets', {
      name: 'Bench',
      baseUrl: 'http://127.0.0.1:9',
      reads: 'example',
      discoveryPath: '/',
      document: JSON.stringify(
        Object.fromEntries(Array.from({ length: 20 }, (_, at) => [`field${at}`, at === 19 ? 7 : 'text'])),
      ),
    });
    const route = await built.call<{
      id: string;
      revision: number;
      draft: { calls: { lines: { id: string; source: unknown }[] }[] };
    }>('POST', '/routes', { name: 'Bench', formId, targetId: target.id, operationId: target.operations[0]!.id });
    const form = await built.call<{ schema: { fields: { key: string }[] } }>('GET', `/forms/${formId}`);
    route.draft.calls[0]!.lines.forEach(
      (line, at) => (line.source = { from: 'field', field: form.schema.fields[at]!.key }),
    );
    await built.call('PUT', `/routes/${route.id}/draft`, { definition: route.draft, revision: route.revision });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.context().addCookies([built.cookie()]);
    let bytes = 0;
    const session = await page.context().newCDPSession(page);
    await session.send('Network.enable');
    const columns = new Set<string>();
    session.on(
      'Network.requestWillBeSent',
      each => each.request.url.includes('/columns?') && columns.add(each.requestId),
    );
    session.on('Network.loadingFinished', each => columns.has(each.requestId) && (bytes += each.encodedDataLength));
    // The interface itself is loaded once before: this is about samples.
    await page.goto(`${built.url}/targets`);
    await page.getByRole('heading', { level: 1 }).waitFor();
    const started = performance.now();
    await page.goto(`${built.url}/routes/${route.id}/mapping`);
    await page.getByRole('button', { name: /^field0 over all samples/ }).waitFor();
    const usable = performance.now() - started;
    if (process.env.TIMELINE)
      console.log(
        await page.evaluate(
          () =>
            performance
              .getEntriesByType('resource')
              .filter(e => !/woff2|css/.test(e.name))
              .map(e =>
                [
                  e.name.replace(/.*127.0.0.1:[0-9]+/, '').slice(0, 50),
                  Math.round(e.startTime),
                  Math.round((e as PerformanceResourceTiming).responseStart),
                  Math.round((e as PerformanceResourceTiming).responseEnd),
                ].join(' '),
              )
              .join('\n') +
            '\nfcp ' +
            performance.getEntriesByName('first-contentful-paint')[0]?.startTime,
        ),
      );
    const all = SAMPLES.toLocaleString('en-GB');
    await page.getByRole('link', { name: new RegExp(`${all} of ${all} go$`) }).waitFor();
    const whole = performance.now() - started;
    // A number that is none, and one again: each key changes what becomes of all samples.
    await page
      .getByRole('button', { name: /^field19/ })
      .first()
      .click();
    await page.getByRole('radio', { name: 'always the same' }).check();
    await page.getByLabel('The value').fill('7');
    await page
      .getByRole('button', { name: `field19 over all samples: ${all} fine, 0 blank, 0 with trouble` })
      .waitFor();
    await page.evaluate(() => {
      const times: { painted: number[]; bars: number[] } = { painted: [], bars: [] };
      Object.assign(window, { times });
      const bar = document.querySelector('[aria-label^="field19 over all"]')!;
      let pressed = 0;
      addEventListener('keydown', () => {
        const at = (pressed = performance.now());
        requestAnimationFrame(() => requestAnimationFrame(() => times.painted.push(performance.now() - at)));
      });
      new MutationObserver(() => times.bars.push(performance.now() - pressed)).observe(bar, {
        attributes: true,
        attributeFilter: ['aria-label'],
      });
    });
    await page.getByLabel('The value').focus();
    await page.keyboard.press('End');
    for (let key = 0; key < KEYS; key++) {
      await page.keyboard.press(key % 2 === 0 ? 'x' : 'Backspace');
      await page.waitForFunction(
        count => (window as unknown as { times: { bars: number[] } }).times.bars.length > count,
        key,
      );
    }
    const times = await page.evaluate(
      () => (window as unknown as { times: { painted: number[]; bars: number[] } }).times,
    );
    return { usable, whole, bytes, values, painted: middle(times.painted), bars: middle(times.bars) };
  } finally {
    await browser.close();
    built.stop();
  }
}
