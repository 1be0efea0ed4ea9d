import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';

const root = path.resolve(import.meta.dirname, '..');
const PORT = 4640;
const url = `http://127.0.0.1:${PORT}`;
const ROUNDS = 4;
const tables = {
  tables: [{ key: 'samples', title: 'Samples', columns: [{ key: 'n', title: 'N', type: 'string', required: true }] }],
};

/** A target that counts how often it was asked for each idempotency key, and honours it. */
async function countingTarget(): Promise<{ server: Server; base: string; records: Map<string, string> }> {
  const records = new Map<string, string>();
  const server = createServer((request, response) => {
    let body = '';
    request.on('data', chunk => (body += chunk));
    request.on('end', () => {
      if (request.url === '/tables') return void response.end(JSON.stringify(tables));
      const key = String(request.headers['idempotency-key']);
      const { values } = JSON.parse(body) as { values: { n: string } };
      if (!records.has(key)) records.set(key, values.n);
      response.writeHead(201).end('{}');
    });
  });
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
  return { server, base: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, records };
}

/** Starts the real server process on a data folder; resolves when it listens. */
function start(dataDir: string): Promise<ChildProcess> {
  const env = {
    ...process.env,
    GRAMMATA_ROOT: root,
    GRAMMATA_DATA: dataDir,
    GRAMMATA_PORT: String(PORT),
    GRAMMATA_ALLOW_PRIVATE: '127.0.0.1',
  };
  const child = spawn(process.execPath, [path.join(root, 'dist/server.mjs')], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise(resolve => child.stdout!.on('data', text => String(text).includes(url) && resolve(child)));
}

let server: ChildProcess | null = null;
let target: Awaited<ReturnType<typeof countingTarget>> | null = null;
test.afterEach(() => {
  server?.kill('SIGKILL');
  target?.server.closeAllConnections();
  target?.server.close();
});

test('killed at full load, again and again: nothing acknowledged is lost, nothing is delivered twice', async () => {
  test.slow();
  const dataDir = mkdtempSync(path.join(tmpdir(), 'grammata-kill-'));
  const { base, records } = (target = await countingTarget());
  server = await start(dataDir);
  let cookie = '';
  const call = async <T>(method: string, place: string, body?: unknown): Promise<T> => {
    const answer = await fetch(`${url}/api${place}`, {
      method,
      headers: { 'content-type': 'application/json', cookie },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie;
    return (await answer.json()) as T;
  };
  await call('POST', '/setup', {
    name: 'Rowan',
    password: 'withy bridge at dawn',
    token: readFileSync(path.join(dataDir, 'setup-token'), 'utf8'),
  });
  const intake = await call<{ address: string }>('POST', '/intakes', { name: 'Load' });
  const send = (n: string) =>
    fetch(intake.address, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ submission_id: n, n }),
    });
  await send('first');
  await expect
    .poll(() => call<{ submissions: number }[]>('GET', '/forms').then(forms => forms[0]?.submissions))
    .toBe(1);
  const [form] = await call<{ id: string }[]>('GET', '/forms');
  const { id: targetId } = await call<{ id: string }>('POST', '/targets', {
    name: 'Counter',
    baseUrl: base,
    discoveryPath: '/tables',
  });
  const route = await call<{ id: string; draft: { calls: { lines: { source: unknown }[] }[] } }>('POST', '/routes', {
    name: 'Load',
    formId: form!.id,
    targetId,
    operationId: 'create:samples',
  });
  route.draft.calls[0]!.lines[0]!.source = { from: 'field', field: 'n' };
  await call('PUT', `/routes/${route.id}/draft`, route.draft);
  await call('POST', `/routes/${route.id}/live`);

  const acknowledged: string[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    let running = true;
    const sender = async (lane: number) => {
      for (let each = 0; running; each++) {
        const n = `${round}-${lane}-${each}`;
        const answer = await send(n).catch(() => null);
        if (answer?.status === 202) acknowledged.push(n);
      }
    };
    const before = acknowledged.length;
    const lanes = Promise.all(Array.from({ length: 8 }, (_, lane) => sender(lane)));
    await expect.poll(() => acknowledged.length - before, { timeout: 20_000 }).toBeGreaterThan(60);
    const gone = new Promise(resolve => server!.once('exit', resolve));
    server.kill('SIGKILL');
    await gone;
    running = false;
    await lanes;
    server = await start(dataDir);
  }
  expect(acknowledged.length).toBeGreaterThan(60 * ROUNDS);
  const unsettled = async () => {
    const { counts } = await call<{ counts: Record<string, number> }>('GET', '/deliveries?limit=1');
    return counts.waiting! + counts.sending!;
  };
  await expect.poll(unsettled, { timeout: 60_000 }).toBe(0);
  const delivered = [...records.values()];
  expect(acknowledged.filter(n => !delivered.includes(n))).toEqual([]);
  expect(delivered.length).toBe(new Set(delivered).size);
});
