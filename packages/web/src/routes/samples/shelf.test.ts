import type { NamedSample, SamplePage } from '@grammata/contract';
import { pack } from '@grammata/core/sample';
import type { Submission } from '@grammata/core/submission';
import { SampleShelf } from './shelf';

const submission = (site: string): Submission => ({
  form: null,
  id: site,
  submittedAt: null,
  meta: {},
  files: [],
  questions: [],
  fields: [{ key: 'site', label: 'Site', kind: 'text', value: site, pointer: '/site' }],
});

/** A server with so many submissions, the newest first in time, and variants before them. */
class Served {
  asked: string[] = [];
  fails: Error | null = null;
  recorded: NamedSample[] = [];
  variants: NamedSample[] = [];
  constructor(count: number) {
    for (let n = 0; n < count; n++) this.arrive();
  }
  arrive() {
    const n = this.recorded.length;
    this.recorded.push({
      id: `s${n}`,
      receivedAt: new Date(1e12 + n * 1000).toISOString(),
      submission: submission(`AB-${n}`),
      name: null,
      kept: false,
      arrivalId: `a${n}`,
      isVariant: false,
    });
  }
  vary(name: string) {
    this.variants.push({ ...this.recorded[0]!, id: name, name, isVariant: true, receivedAt: new Date().toISOString() });
  }
  get = async (query: string): Promise<SamplePage> => {
    this.asked.push(query);
    if (this.fails) throw this.fails;
    const params = new URLSearchParams(query);
    const [limit, before, since] = ['limit', 'before', 'since'].map(name => params.get(name)) as (string | null)[] as [
      string,
      string | null,
      string | null,
    ];
    const all = this.recorded;
    const from = since !== null ? Number(since) + 1 : 0;
    const to = before === null || before === undefined ? all.length : Number(before);
    const rows =
      since !== null ? all.slice(from, from + Number(limit)) : all.slice(Math.max(0, to - Number(limit)), to).reverse();
    const page = since === null && before === null ? [...this.variants, ...rows] : rows;
    const packed = pack(page.map(each => each.submission));
    const place = (row: NamedSample | undefined) => (row ? String(all.indexOf(row)) : null);
    const isLast = rows.length < Number(limit);
    return {
      columns: packed.columns,
      rows: packed.rows.map((row, at) => {
        const { id: sampleId, submission: _, ...about } = page[at]!;
        return { ...row, ...about, sampleId };
      }),
      total: all.length,
      next: isLast ? null : place(rows.at(-1)),
      newest: since !== null ? (place(rows.at(-1)) ?? since ?? null) : before === null ? place(rows[0]) : null,
    };
  };
}

const done = async (shelf: SampleShelf) => {
  while (shelf.state().state === 'loading') await new Promise(resolve => setImmediate(resolve));
  await new Promise(resolve => setImmediate(resolve));
  return shelf.state();
};
const ids = (shelf: SampleShelf) => shelf.state().samples.map(each => each.id);

test('the newest are there at once, the others come behind them, and what is to come is said', async () => {
  const served = new Served(5000);
  const shelf = new SampleShelf(served.get);
  const seen: [number, string][] = [];
  shelf.subscribe(() => seen.push([shelf.state().samples.length, shelf.state().state]));
  shelf.load();
  const { samples, total, state } = await done(shelf);
  expect(seen.filter(([, told]) => told === 'loading').map(([count]) => count)).toEqual([
    0, 100, 1100, 2100, 3100, 4100, 5000,
  ]);
  expect([samples.length, total, state]).toEqual([5000, 5000, 'all']);
  expect(ids(shelf).slice(0, 2)).toEqual(['s4999', 's4998']);
  expect(ids(shelf).at(-1)).toBe('s0');
});

test('the others are not brought before the first are shown', async () => {
  const served = new Served(3000);
  let show: () => void = () => undefined;
  const shelf = new SampleShelf(served.get, () => new Promise(resolve => (show = resolve)));
  shelf.load();
  while (shelf.state().samples.length === 0) await new Promise(resolve => setImmediate(resolve));
  await new Promise(resolve => setTimeout(resolve, 20));
  expect([shelf.state().samples.length, served.asked.length, shelf.state().state]).toEqual([100, 1, 'loading']);
  show();
  expect((await done(shelf)).samples.length).toBe(3000);
});

test('no more than ten thousand are brought, and a request for each thousand', async () => {
  const served = new Served(30_000);
  const shelf = new SampleShelf(served.get);
  shelf.load();
  await done(shelf);
  expect([shelf.state().samples.length, shelf.state().total]).toEqual([10_000, 30_000]);
  expect(served.asked.length).toBeLessThan(12);
});

test('what comes is put to them by a request for itself alone; places stay, the newest stands first', async () => {
  const served = new Served(1000);
  const shelf = new SampleShelf(served.get);
  shelf.load();
  await done(shelf);
  const before = new Map(shelf.state().samples.map(each => [each.id, each.place]));
  served.asked = [];
  served.arrive();
  served.arrive();
  shelf.more();
  await done(shelf);
  await new Promise(resolve => setImmediate(resolve));
  expect(served.asked).toEqual(['limit=1000&since=999']);
  expect(ids(shelf).slice(0, 3)).toEqual(['s1001', 's1000', 's999']);
  for (const { id, place } of shelf.state().samples)
    expect(place).toBe(before.get(id) ?? (id === 's1000' ? 1000 : 1001));
});

test('variants stand last, and do not pass for what came', async () => {
  const served = new Served(3);
  served.vary('no photo');
  const shelf = new SampleShelf(served.get);
  shelf.load();
  await done(shelf);
  expect(ids(shelf)).toEqual(['s2', 's1', 's0', 'no photo']);
  expect(shelf.state().samples.map(each => each.isVariant)).toEqual([false, false, false, true]);
});

test('each is unpacked as it was', async () => {
  const served = new Served(2);
  const shelf = new SampleShelf(served.get);
  shelf.load();
  await done(shelf);
  expect(shelf.state().samples[0]!.submission.fields).toEqual([
    { key: 'site', label: 'Site', kind: 'text', value: 'AB-1', pointer: '' },
  ]);
});

test('what can’t be had is said with its reason, and had when it is asked for again', async () => {
  const served = new Served(3);
  served.fails = new Error('no connection');
  const shelf = new SampleShelf(served.get);
  shelf.load();
  expect(await done(shelf)).toMatchObject({ state: 'failed', fault: served.fails, samples: [] });
  served.fails = null;
  shelf.load();
  while (shelf.state().state !== 'all') await new Promise(resolve => setImmediate(resolve));
  expect(shelf.state()).toMatchObject({ total: 3, fault: null });
});

test('samples that were changed are brought anew, as another generation', async () => {
  const served = new Served(3);
  const shelf = new SampleShelf(served.get);
  shelf.load();
  const { generation } = await done(shelf);
  served.vary('two files');
  shelf.load();
  while (shelf.state().samples.length < 4) await new Promise(resolve => setImmediate(resolve));
  expect(shelf.state().generation).toBe(generation + 1);
});

test('requests that come while one is under way are one', async () => {
  const served = new Served(10);
  const shelf = new SampleShelf(served.get);
  shelf.load();
  await done(shelf);
  served.asked = [];
  for (let n = 0; n < 50; n++) shelf.more();
  await new Promise(resolve => setTimeout(resolve, 20));
  expect(served.asked.length).toBeLessThanOrEqual(2);
});

test('where older ones could not be had, what comes does not make it whole', async () => {
  const served = new Served(2500);
  const shelf = new SampleShelf(query => {
    if (query.includes('before')) served.fails = new Error('no connection');
    return served.get(query);
  });
  shelf.load();
  expect(await done(shelf)).toMatchObject({ state: 'failed' });
  served.fails = null;
  served.arrive();
  const get = jest.spyOn(served, 'get');
  shelf.more();
  await new Promise(resolve => setTimeout(resolve, 20));
  expect(get.mock.calls[0]).toEqual(['limit=100']);
  expect(shelf.state().state).toBe('failed');
});

test('one that was closed is opened by loading again', async () => {
  const served = new Served(3);
  const shelf = new SampleShelf(served.get);
  shelf.load();
  shelf.close();
  shelf.load();
  while (shelf.state().state !== 'all') await new Promise(resolve => setImmediate(resolve));
  expect(ids(shelf)).toEqual(['s2', 's1', 's0']);
});
