import { ensureChromium } from './chromium.mjs';
const { chromium } = await import('@playwright/test');
const browser = await chromium.launch({ executablePath: ensureChromium(), args: ['--no-sandbox', '--disable-gpu'] });
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: 'http://127.0.0.1:4600', reducedMotion: 'reduce', colorScheme: process.env.DARK ? 'dark' : 'light' });
const page = await context.newPage();
page.on('pageerror', e => console.log('PAGEERROR', e.message));
page.on('console', m => m.type() === 'error' && console.log('CONSOLE', m.text()));
const shot = async name => { await page.waitForTimeout(500); await page.screenshot({ path: `/tmp/${name}.png` }); };
const steps = await import(process.argv[2]);
try { await steps.default(page, shot); } catch (e) { console.log(String(e).slice(0, 1500)); await shot('fail'); }
await browser.close();
