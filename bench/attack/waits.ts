import { hostile } from '@grammata/core/testing';
import { request } from 'undici';
import { Attacked } from './server';

/** ms that another request may wait at most, and bytes of the largest body. */
export const LONGEST_WAIT = 500;
const LARGEST = 1_000_000;

interface Sent {
  name: string;
  contentType: string | null;
  body: Uint8Array | string;
  query?: string;
}

const columns = (count: number, rows: number) =>
  [
    Array.from({ length: count }, (_, at) => `column ${at}`).join(','),
    ...Array.from({ length: rows }, (_, row) => Array.from({ length: count }, (_, at) => (row + at) % 10).join(',')),
  ].join('\n');
const json = (name: string, value: unknown): Sent => ({
  name,
  contentType: 'application/json',
  body: JSON.stringify(value),
});
const many = (count: number, value: (at: number) => unknown) =>
  Object.fromEntries(Array.from({ length: count }, (_, at) => [`question ${at}`, value(at)]));

/** Bodies that cost much work to whoever reads, stores or compares them, each after an ordinary form at the same intake. */
const costly = (): Sent[] => [
  { name: 'a table of 20,000 columns', contentType: 'text/csv', body: columns(20_000, 1) },
  { name: 'a table of 2,000 columns and 40 rows', contentType: 'text/csv', body: columns(2000, 40) },
  json(
    '20,000 answers',
    many(20_000, at => `answer ${at}`),
  ),
  json('20,000 other answers', Object.fromEntries(Array.from({ length: 20_000 }, (_, at) => [`other ${at}`, at]))),
  json(
    '2,000 choose-many answers',
    many(2000, at => ['a', 'b', `c${at}`]),
  ),
  json(
    'a list of 1,000 rows',
    Array.from({ length: 1000 }, (_, at) => ({ id: at, site: 'AB-07', ph: 7 })),
  ),
  json(
    'a list of 8,000 rows',
    Array.from({ length: 8000 }, (_, at) => ({ id: at, site: 'AB-07', note: 'x'.repeat(60) })),
  ),
  json(
    'a form of its own for each of 1,000 rows',
    Array.from({ length: 1000 }, (_, at) => ({
      form: { id: `f${at}`, name: `Form ${at}` },
      id: at,
      answers: { [`q${at}`]: at },
    })),
  ),
  json('one answer of 900 kB', { site: 'AB-07', note: 'words and more words, '.repeat(41_000) }),
  json('one word of 900 kB', { site: 'AB-07', note: 'x'.repeat(900_000) }),
];

export interface WaitFigures {
  sent: number;
  /** The longest that another request waited while something was sent or worked on, in ms, and what was sent last before it. */
  slowest: { ms: number; after: string; what: string };
  over: string[];
}

/** Sends what costs much while others ask for a page and post to another intake, and says how long those waited. */
export async function attackWaits(): Promise<WaitFigures> {
  const server = await Attacked.fresh();
  const made = async (name: string) => server.call<{ id: string; address: string }>('POST', '/intakes', { name });
  const [attacked, other] = [await made('Attacked'), await made('Other')];
  const post = async (address: string, { contentType, body, query = '' }: Omit<Sent, 'name'>) => {
    const url = `${server.url}${new URL(address).pathname}${query && `?${query}`}`;
    const headers = { connection: 'close', ...(contentType !== null && { 'content-type': contentType }) };
    const answer = await request(url, { method: 'POST', headers, body });
    await answer.body.dump();
  };
  const plain = (at: number) => json('plain', { submission_id: `s${at}`, site: 'AB-07', ph: 7 + (at % 3) });
  for (let at = 0; at < 1000; at += 20)
    await Promise.all(Array.from({ length: 20 }, (_, n) => post(attacked.address, plain(at + n))));
  // Made before anybody's wait is measured: this process makes them.
  const crafted = hostile.flatMap((each): Sent[] => {
    let n = 500;
    while (each.body(n * 2).length < LARGEST && n < 200_000) n *= 2;
    const body = each.body(n);
    return body.length > LARGEST ? [] : [{ name: each.name, contentType: each.contentType, body, query: each.query?.(500) ?? '' }]; // prettier-ignore
  });
  const all = [...costly(), ...crafted];
  const waits: WaitFigures = { sent: 0, slowest: { ms: 0, after: '', what: '' }, over: [] };
  let [after, isOver] = ['nothing', false];
  const watching = async (what: string, ask: () => Promise<unknown>) => {
    while (!isOver) {
      const began = performance.now();
      const during = after;
      // A connection that was kept and closed at the same moment is asked for anew; the wait counts all the same.
      await ask().catch(ask);
      const ms = performance.now() - began;
      if (ms > waits.slowest.ms) waits.slowest = { ms, after: during, what };
      if (ms > LONGEST_WAIT) waits.over.push(`${what} waited ${Math.round(ms)} ms after ${during}`);
      await new Promise(resolve => setTimeout(resolve, 20));
    }
  };
  let count = 0;
  const watchers = [
    watching('the Desk', () => server.call('GET', '/desk')),
    watching('a sender elsewhere', () => post(other.address, plain(count++))),
  ];
  for (const each of all) {
    after = each.name;
    if (process.env.BENCH_SAYS) console.log(each.name, Math.round(waits.slowest.ms));
    for (let times = 0; times < 3; times++) await post(attacked.address, each).catch(() => undefined);
    await post(attacked.address, plain(waits.sent + 5000));
    waits.sent += 4;
    // What is stored, summarized and compared afterwards is looked at, too.
    await new Promise(resolve => setTimeout(resolve, 1500));
  }
  isOver = true;
  await Promise.all(watchers);
  await server.kill();
  return waits;
}
