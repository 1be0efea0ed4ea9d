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
}

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
      document: JSON.stringify(Object.fromEntries(Array.from({ length: 20 }, (_, at) => [`field${at}`, 'text']))),
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
    await page.goto(`${built.url}/routes/${route.id}/what`);
    await page.getByRole('button', { name: /^How field0 fares/ }).waitFor();
    const usable = performance.now() - started;
    const all = SAMPLES.toLocaleString('en-GB');
    await page.getByRole('link', { name: new RegExp(`${all} of ${all} go$`) }).waitFor();
    const whole = performance.now() - started;
    return { usable, whole, bytes, values };
  } finally {
    await browser.close();
    built.stop();
  }
}
