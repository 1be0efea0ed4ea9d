import { chromium } from 'playwright-core';
const [,, out, url='/changes', scheme='light', ...acts] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium' });
const c = await b.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: scheme });
const p = await c.newPage();
await p.goto(url.startsWith('http') ? url : 'http://127.0.0.1:4950' + url);
await p.waitForTimeout(2500);
for (const a of acts) { await p.getByRole('button', { name: a }).or(p.getByRole('link', { name: a })).first().click(); await p.waitForTimeout(2000); }
await p.screenshot({ path: out });
console.log((await p.locator('main').innerText()).slice(0, 3500));
await b.close();
