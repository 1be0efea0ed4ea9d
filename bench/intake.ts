import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { Pool, request } from 'undici';
import { answering, freePort, root, startBuilt, type Built } from './built';
import { payload } from './cases';
import { routeTo, startTarget } from './delivery';

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

/** A bare handler that makes one durable insert, in a process of its own. */
async function startBare(): Promise<{ address: string; stop(): void }> {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-bench-'));
  const port = await freePort();
  const child = spawn(
    process.execPath,
    [path.join(root, 'bench/bare.mjs'), String(port), path.join(folder, 'bare.db')],
    {
      stdio: 'ignore',
    },
  );
  await answering(`http://127.0.0.1:${port}/`);
  return {
    address: `http://127.0.0.1:${port}/in`,
    stop() {
      child.kill('SIGKILL');
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

interface Beside {
  rate: number;
  p99: number;
}

/** An intake that takes what is posted; `settled` waits until all of it is read. */
async function openIntake(built: Built) {
  const intake = await built.call<{ id: string; address: string }>('POST', '/intakes', {
    name: 'Bench',
    sizeLimit: 300_000_000,
  });
  const read = async () =>
    (await built.call<{ state: string }[]>('GET', `/intakes/${intake.id}/arrivals?limit=1`))[0]?.state === 'read';
  const settled = async () => {
    while (!(await read())) await new Promise(resolve => setTimeout(resolve, 100));
  };
  await load(intake.address);
  await settled();
  return { ...intake, settled };
}

/**
 * The intake beside a bare handler, as ratios. Of several runs in turn the best counts on either side: what the machine can do
 * when its disk is not disturbed. What was stored is read while nobody sends: neither side is to pay for it in the other's turn.
 */
async function besideBare({ address, settled }: Awaited<ReturnType<typeof openIntake>>): Promise<Beside> {
  const bare = await startBare();
  try {
    const [ours, theirs]: [Load[], Load[]] = [[], []];
    for (let run = 0; run < RUNS; run++) {
      theirs.push(await load(bare.address));
      ours.push(await load(address));
      await settled();
    }
    return {
      rate: Math.max(...ours.map(each => each.rate)) / Math.max(...theirs.map(each => each.rate)),
      p99: Math.min(...ours.map(each => each.p99)) / Math.min(...theirs.map(each => each.p99)),
    };
  } finally {
    bare.stop();
  }
}

/** Measures the built server as people run it. */
export async function intakeFigures(): Promise<Beside & { growth: number }> {
  const built = await startBuilt();
  try {
    const intake = await openIntake(built);
    const sendForm = async (bytes: number) => {
      const answer = await request(intake.address, {
        method: 'POST',
        headers: { 'content-type': 'multipart/form-data; boundary=b' },
        body: Readable.from(largeForm(bytes)),
      });
      await answer.body.dump();
    };
    await sendForm(5_000_000);
    await intake.settled();
    const before = memoryOf(built.child, 'VmHWM');
    await sendForm(200_000_000);
    await intake.settled();
    const growth = memoryOf(built.child, 'VmHWM') - before;
    return { ...(await besideBare(intake)), growth };
  } finally {
    built.stop();
  }
}

/**
 * Throughput of an intake with changes of its form looked for, as a share of that without. Of several runs in turn the best counts on
 * either side; what was stored is read meanwhile, and looked at.
 */
export async function intakeLookingForChanges(): Promise<number> {
  const sides = await Promise.all(['off', 'on'].map(each => startBuilt({ GRAMMATA_CHANGES: each })));
  try {
    const intakes = [];
    for (const each of sides) intakes.push(await openIntake(each));
    const best = sides.map(() => 0);
    for (let run = 0; run < 2 * RUNS; run++)
      for (const [at, { address, settled }] of intakes.entries()) {
        best[at] = Math.max(best[at]!, (await load(address)).rate);
        await settled();
      }
    return best[1]! / best[0]!;
  } finally {
    for (const each of sides) each.stop();
  }
}

/** Deliveries a minute that go out meanwhile. */
const A_MINUTE = 2000;

/** The same while deliveries of another intake go out; fails when they do not. */
export async function intakeWhileDelivering(): Promise<Beside> {
  const target = await startTarget('deliveryTarget.mjs', A_MINUTE);
  const built = await startBuilt({ GRAMMATA_ALLOW_PRIVATE: '127.0.0.1' });
  try {
    const intake = await openIntake(built);
    const route = await routeTo(built, target, true, { perSecond: Math.ceil(A_MINUTE / 60) });
    await built.call('POST', `/routes/${route.id}/live`);
    await built.call('POST', `/routes/${route.id}/pause`);
    await route.post(A_MINUTE);
    await route.waiting(A_MINUTE);
    await built.call('POST', `/routes/${route.id}/live`);
    const started = performance.now();
    const figures = await besideBare(intake);
    const minutes = (performance.now() - started) / 60_000;
    const gone = await route.counted('delivered');
    if (gone < Math.min(A_MINUTE, 0.9 * A_MINUTE * minutes))
      throw new Error(`Only ${gone} went in ${minutes} minutes.`);
    return figures;
  } finally {
    built.stop();
    target.stop();
  }
}
