import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { Pool, request } from 'undici';
import { payload } from './cases';

const root = path.resolve(import.meta.dirname, '..');
/** Requests under way at once. */
const LANES = 32;
/** How long a run takes at most, in ms, how many requests it has at most, and how many runs each side has in turn. */
const LONGEST_RUN = 2500;
const REQUESTS = 3000;
const RUNS = 5;

const freePort = (): Promise<number> =>
  new Promise(resolve => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

async function answering(url: string): Promise<void> {
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

interface Load {
  /** Requests a second. */
  rate: number;
  /** ms. */
  p99: number;
}

/** Posts the same body over and over, `LANES` at once. */
async function load(address: string): Promise<Load> {
  const { origin, pathname } = new URL(address);
  const pool = new Pool(origin, { connections: LANES });
  const body = payload(2000);
  const times: number[] = [];
  let sent = 0;
  const begun = performance.now();
  const lane = async () => {
    while (sent++ < REQUESTS && performance.now() - begun < LONGEST_RUN) {
      const started = performance.now();
      const answer = await pool.request({
        path: pathname,
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
      await answer.body.dump();
      if (answer.statusCode !== 202) throw new Error(`It answered ${answer.statusCode}.`);
      times.push(performance.now() - started);
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  const seconds = (performance.now() - begun) / 1000;
  await pool.close();
  times.sort((a, b) => a - b);
  return { rate: times.length / seconds, p99: times[Math.floor(times.length * 0.99)]! };
}

const memoryOf = ({ pid }: ChildProcess, what: 'VmRSS' | 'VmHWM') =>
  Number(new RegExp(`${what}:\\s+(\\d+) kB`).exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) * 1024;

/** A multipart body with one file of so many bytes, made as it is sent. */
function* largeForm(bytes: number): Generator<Buffer> {
  yield Buffer.from('--b\r\nContent-Disposition: form-data; name="what"\r\n\r\nDiesel smell\r\n');
  yield Buffer.from(
    '--b\r\nContent-Disposition: form-data; name="f"; filename="a.mp4"\r\nContent-Type: video/mp4\r\n\r\n',
  );
  const chunk = Buffer.alloc(1_000_000, 7);
  for (let at = 0; at < bytes; at += chunk.length) yield chunk;
  yield Buffer.from('\r\n--b--\r\n');
}

/**
 * Measures the built server as people run it, beside a bare handler that makes one durable insert. Of several runs in turn
 * the best counts on either side: what the machine can do when its disk is not disturbed.
 */
export async function intakeFigures(): Promise<{ rate: number; p99: number; growth: number }> {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-bench-'));
  const [port, barePort] = [await freePort(), await freePort()];
  const env = {
    ...process.env,
    GRAMMATA_ROOT: root,
    GRAMMATA_DATA: path.join(folder, 'data'),
    GRAMMATA_PORT: String(port),
  };
  const server = spawn(process.execPath, [path.join(root, 'dist/server.mjs')], { env, stdio: 'ignore' });
  const bare = spawn(
    process.execPath,
    [path.join(root, 'bench/bare.mjs'), String(barePort), path.join(folder, 'bare.db')],
    {
      stdio: 'ignore',
    },
  );
  try {
    const base = `http://127.0.0.1:${port}`;
    await Promise.all([answering(`${base}/api/session`), answering(`http://127.0.0.1:${barePort}/`)]);
    let cookie = '';
    const call = async (method: 'POST' | 'PATCH', place: string, body: object) => {
      const answer = await request(`${base}/api${place}`, {
        method,
        headers: { 'content-type': 'application/json', cookie },
        body: JSON.stringify(body),
      });
      cookie = String(answer.headers['set-cookie'] ?? cookie).split(';')[0]!;
      return (await answer.body.json()) as { id: string; address: string };
    };
    await call('POST', '/setup', {
      name: 'Bench',
      password: 'withy bridge at dawn',
      token: readFileSync(path.join(path.join(folder, 'data'), 'setup-token'), 'utf8'),
    });
    const intake = await call('POST', '/intakes', { name: 'Bench', sizeLimit: 300_000_000 });
    const sendForm = async (bytes: number) => {
      const answer = await request(intake.address, {
        method: 'POST',
        headers: { 'content-type': 'multipart/form-data; boundary=b' },
        body: Readable.from(largeForm(bytes)),
      });
      await answer.body.dump();
    };
    const read = async () => {
      const list = await request(`${base}/api/intakes/${intake.id}/arrivals?limit=1`, { headers: { cookie } });
      return ((await list.body.json()) as { state: string }[])[0]?.state === 'read';
    };
    const settled = async () => {
      while (!(await read())) await new Promise(resolve => setTimeout(resolve, 100));
    };
    await load(intake.address);
    await settled();
    await sendForm(5_000_000);
    await settled();
    const before = memoryOf(server, 'VmHWM');
    await sendForm(200_000_000);
    await settled();
    const growth = memoryOf(server, 'VmHWM') - before;
    const [ours, theirs]: [Load[], Load[]] = [[], []];
    // What was stored is read while nobody sends: neither side is to pay for it in the other's turn.
    for (let run = 0; run < RUNS; run++) {
      theirs.push(await load(`http://127.0.0.1:${barePort}/in`));
      ours.push(await load(intake.address));
      await settled();
    }
    return {
      rate: Math.max(...ours.map(each => each.rate)) / Math.max(...theirs.map(each => each.rate)),
      p99: Math.min(...ours.map(each => each.p99)) / Math.min(...theirs.map(each => each.p99)),
      growth,
    };
  } finally {
    server.kill('SIGKILL');
    bare.kill('SIGKILL');
    rmSync(folder, { recursive: true, force: true });
  }
}
