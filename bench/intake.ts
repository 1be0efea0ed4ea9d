import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { Pool, request } from 'undici';
import { answering, freePort, root, startBuilt } from './built';
import { payload } from './cases';

/** Requests under way at once. */
const LANES = 32;
/** How long a run takes at most, in ms, how many requests it has at most, and how many runs each side has in turn. */
const LONGEST_RUN = 2500;
const REQUESTS = 3000;
const RUNS = 5;

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
  const barePort = await freePort();
  const built = await startBuilt();
  const bare = spawn(
    process.execPath,
    [path.join(root, 'bench/bare.mjs'), String(barePort), path.join(folder, 'bare.db')],
    { stdio: 'ignore' },
  );
  try {
    await answering(`http://127.0.0.1:${barePort}/`);
    const intake = await built.call<{ id: string; address: string }>('POST', '/intakes', {
      name: 'Bench',
      sizeLimit: 300_000_000,
    });
    const sendForm = async (bytes: number) => {
      const answer = await request(intake.address, {
        method: 'POST',
        headers: { 'content-type': 'multipart/form-data; boundary=b' },
        body: Readable.from(largeForm(bytes)),
      });
      await answer.body.dump();
    };
    const read = async () =>
      (await built.call<{ state: string }[]>('GET', `/intakes/${intake.id}/arrivals?limit=1`))[0]?.state === 'read';
    const settled = async () => {
      while (!(await read())) await new Promise(resolve => setTimeout(resolve, 100));
    };
    await load(intake.address);
    await settled();
    await sendForm(5_000_000);
    await settled();
    const before = memoryOf(built.child, 'VmHWM');
    await sendForm(200_000_000);
    await settled();
    const growth = memoryOf(built.child, 'VmHWM') - before;
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
    built.stop();
    bare.kill('SIGKILL');
    rmSync(folder, { recursive: true, force: true });
  }
}
