import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { request } from 'undici';

export const root = path.resolve(import.meta.dirname, '..');

export const freePort = (): Promise<number> =>
  new Promise(resolve => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

export async function answering(url: string): Promise<void> {
  for (const end = performance.now() + 20_000; performance.now() < end;) {
    if (
      await request(url).then(
        each => each.body.dump().then(() => true),
        () => false,
      )
    )
      return;
    await new Promise(resolve => setTimeout(resolve, 50));
  }
  throw new Error(`Nothing answers at ${url}.`);
}

/** The built server as people run it, in a folder of its own, with the owner signed in. */
export interface Built {
  child: ChildProcess;
  url: string;
  /** The owner's session, as a browser holds it. */
  cookie(): { name: string; value: string; url: string };
  call<T>(method: 'GET' | 'POST' | 'PUT' | 'PATCH', place: string, body?: object): Promise<T>;
  stop(): void;
}

export async function startBuilt(env: NodeJS.ProcessEnv = {}): Promise<Built> {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-bench-'));
  const data = path.join(folder, 'data');
  const port = await freePort();
  const child = spawn(process.execPath, [path.join(root, 'dist/server.mjs')], {
    env: { ...process.env, GRAMMATA_ROOT: root, GRAMMATA_DATA: data, GRAMMATA_PORT: String(port), ...env },
    stdio: 'ignore',
  });
  const base = `http://127.0.0.1:${port}`;
  let cookie = '';
  const call: Built['call'] = async (method, place, body) => {
    const answer = await request(`${base}/api${place}`, {
      method,
      headers: { cookie, ...(body && { 'content-type': 'application/json' }) },
      ...(body && { body: JSON.stringify(body) }),
    });
    cookie = String(answer.headers['set-cookie'] ?? cookie).split(';')[0]!;
    const text = await answer.body.text();
    if (answer.statusCode >= 400) throw new Error(`${method} ${place} answered ${answer.statusCode}: ${text}`);
    return (text === '' ? null : JSON.parse(text)) as never;
  };
  await answering(`${base}/api/session`);
  const token = readFileSync(path.join(data, 'setup-token'), 'utf8');
  await call('POST', '/setup', { name: 'Bench', password: 'withy bridge at dawn', token });
  return {
    child,
    url: base,
    cookie: () => ({
      name: cookie.slice(0, cookie.indexOf('=')),
      value: cookie.slice(cookie.indexOf('=') + 1),
      url: base,
    }),
    call,
    stop() {
      child.kill('SIGKILL');
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
