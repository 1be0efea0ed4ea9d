import type { FeedInput } from '@grammata/contract';
import { pino } from 'pino';
import type { Decoders } from '../decoding';
import { LiveHub } from '../live';
import type { Outward, OutwardRequest } from '../outward';
import { StorageHealth } from '../storage';
import { Timers } from '../timing';
import { stored, submissionOf, type Stored } from '../testing/stored';
import { Feeds } from './feeds';

// By a fake clock: a schedule is five fields as in crontab(5), in UTC.
import { readSubmission } from '../decoding';
import type { Bodies } from './bodies';

let kept: Stored;
let feeds: Feeds;
let asked: string[];
let answer: (asked: OutwardRequest) => { status: number; body: string } | Promise<never>;
/** Which token is shown to the source. */
let shown: number;

const rule: Omit<FeedInput, 'secret'> = {
  url: 'https://rows.example.org/log',
  on: true,
  every: '*/5 * * * *',
  auth: 'none',
  name: '',
  paging: 'single',
  parameter: '',
  cursorAt: '',
  newestFirst: true,
};

beforeEach(() => {
  jest.useFakeTimers({
    now: Date.parse('2026-11-04T08:02:30Z'),
    doNotFake: ['nextTick', 'queueMicrotask', 'performance'],
  });
  kept = stored();
  asked = [];
  shown = 1;
  let count = 0;
  answer = () => ({ status: 200, body: `{"n":${count++}}` });
  const log = pino({ level: 'silent' });
  const live = new LiveHub();
  const outward = {
    mask: (text: string) => text,
    send: async (request: OutwardRequest) => {
      asked.push(`${new Date().toISOString().slice(11, 16)} ${request.url}`);
      const { status, body } = await answer(request);
      return { status, body, bytes: Buffer.from(body), headers: {}, cut: false, shown: body, milliseconds: 1 };
    },
  } as unknown as Outward;
  const decoders = {
    whole: async ({ body }: { body: Buffer }) => ({
      submissions: [readSubmission(submissionOf({ n: body.toString() }, body.toString()), undefined)],
      state: 'read',
      trouble: null,
      isSure: true,
      way: null,
      isEmpty: false,
    }),
  } as unknown as Decoders;
  feeds = new Feeds({
    store: kept.store,
    live,
    outward,
    decoders,
    timers: new Timers(log),
    health: new StorageHealth(live, log),
    log,
    authorizations: {
      for: async ({ auth }) => ({ headers: [['x-shown', `${auth.kind} ${shown}`]], query: [] }),
      forget: ({ auth }) => auth.kind === 'oauth' && (shown++, true),
    },
    ledger: kept.ledger,
    bodies: {} as Bodies,
    settled: async () => undefined,
    watch: { saw: () => undefined },
    wake: () => undefined,
  });
});
afterEach(async () => {
  await feeds.close();
  kept.close();
  jest.useRealTimers();
});

const intake = (more: Partial<typeof rule> = {}) =>
  kept.store.intakes.create({ name: 'Log', feed: { ...rule, ...more } });
const minutes = (count: number) => jest.advanceTimersByTimeAsync(count * 60_000);

test('an address is read when its schedule says so, again and again', async () => {
  const { id } = intake();
  feeds.schedule();
  expect(feeds.nextAt(id)).toBe('2026-11-04T08:05:00.000Z');
  await minutes(2);
  expect(asked).toEqual([]);
  await minutes(9);
  expect(asked).toEqual(['08:05 https://rows.example.org/log', '08:10 https://rows.example.org/log']);
  expect(kept.store.intakes.byId(id)!.feedReading).toMatchObject({ fresh: 1, pages: 1, fault: null });
  expect(kept.store.arrivals.list({ intakeId: id, limit: 9 })).toHaveLength(2);
});

test('what was seen before is not taken again', async () => {
  const { id } = intake();
  answer = () => ({ status: 200, body: 'the same' });
  feeds.schedule();
  await minutes(11);
  expect(asked).toHaveLength(2);
  expect(kept.store.arrivals.list({ intakeId: id, limit: 9 })).toHaveLength(1);
});

test.each<[string, Partial<typeof rule>]>([
  ['one that is off', { on: false }],
  ['one whose schedule can’t be followed', { every: '99 * * * *' }],
])('%s is not read, and the others are', async (_, more) => {
  const off = intake(more);
  intake({ url: 'https://rows.example.org/other' });
  feeds.schedule();
  expect(feeds.nextAt(off.id)).toBeNull();
  await minutes(4);
  expect(asked).toEqual(['08:05 https://rows.example.org/other']);
});

test.each<[string, () => { status: number; body: string } | Promise<never>, RegExp]>([
  ['a source that refuses', () => ({ status: 403, body: '' }), /rejected the credentials \(403\)/],
  ['a source in trouble', () => ({ status: 500, body: '' }), /answered 500/],
  [
    'one that breaks whoever reads it',
    () => Promise.reject(new Error('broken inside')),
    /could not be read: broken inside/,
  ],
])('%s is told, and read again at the next time', async (_, fails, fault) => {
  const { id } = intake();
  const well = answer;
  answer = fails;
  feeds.schedule();
  await minutes(4);
  expect(kept.store.intakes.byId(id)!.feedReading!.fault).toMatch(fault);
  answer = well;
  await minutes(5);
  expect(asked).toHaveLength(2);
  expect(kept.store.intakes.byId(id)!.feedReading!.fault).toBeNull();
});

test('an intake that goes while its feed is read is no trouble', async () => {
  const { id } = intake();
  answer = () => {
    kept.commands.removeIntake({ intakeId: id, most: 9 });
    return { status: 200, body: '{}' };
  };
  feeds.schedule();
  await minutes(4);
  expect(asked).toHaveLength(1);
  feeds.forget(id);
  await minutes(20);
  expect(asked).toHaveLength(1);
});

test('a reading that takes longer than its schedule is joined, not begun twice', async () => {
  const { id } = intake({ every: '* * * * *' });
  let end: () => void = () => undefined;
  const waits = new Promise<void>(resolve => (end = resolve));
  answer = (async () => {
    await waits;
    return { status: 200, body: '{}' };
  }) as unknown as typeof answer;
  feeds.schedule();
  await minutes(3);
  expect(asked).toHaveLength(1);
  const joined = feeds.read(id);
  expect(asked).toHaveLength(1);
  end();
  expect(await joined).toMatchObject({ fault: null });
});

describe('pages that an answer leads on to', () => {
  const pages: Record<string, object> = {
    a: { rows: [1], links: { next: '/log?from=b' }, after: 'b' },
    b: { rows: [2], links: { next: 'https://rows.example.org/log?from=c' }, after: 'c' },
    c: { rows: [3], links: { next: null }, after: null },
  };
  const by = (name: string | null) => ({ status: 200, body: JSON.stringify(pages[name ?? 'a']) });
  const addresses = () => asked.map(each => each.slice(6));

  test('by its address in the body, relative or whole', async () => {
    answer = ({ url }) => by(new URL(url).searchParams.get('from'));
    const { id } = intake({ paging: 'next', cursorAt: '/links/next' });
    expect(await feeds.read(id)).toMatchObject({ pages: 3, fresh: 3, fault: null });
    const at = 'https://rows.example.org/log';
    expect(addresses()).toEqual([at, `${at}?from=b`, `${at}?from=c`]);
  });

  test('one at another host is not asked: what is shown to this one is not for it', async () => {
    answer = () => ({ status: 200, body: '{"next":"https://elsewhere.example.org/log"}' });
    const { id } = intake({ paging: 'next', cursorAt: '/next', auth: 'bearer' });
    expect(await feeds.read(id)).toMatchObject({ pages: 1, fault: null });
    expect(addresses()).toEqual([rule.url]);
  });

  test.each<[string, Partial<typeof rule>, string[]]>([
    [
      'a place in what is posted',
      { parameter: '/filter/after' },
      ['{"limit":2}', '{"limit":2,"filter":{"after":"b"}}', '{"limit":2,"filter":{"after":"c"}}'],
    ],
    ['a query parameter beside it', { parameter: 'from' }, ['{"limit":2}', '{"limit":2}', '{"limit":2}']],
  ])('by a cursor in %s', async (_, more, bodies) => {
    const sent: unknown[] = [];
    answer = ({ method, url, body, headers }) => {
      sent.push(body);
      expect([method, headers['content-type']]).toEqual(['POST', 'application/json']);
      const { filter } = JSON.parse(String(body)) as { filter?: { after: string } };
      return by(filter?.after ?? new URL(url).searchParams.get('from'));
    };
    const { id } = intake({ method: 'POST', body: '{"limit":2}', paging: 'cursor', cursorAt: '/after', ...more });
    expect(await feeds.read(id)).toMatchObject({ pages: 3, fresh: 3, fault: null, cursor: 'c' });
    expect(sent).toEqual(bodies);
  });
});

test('a token that is refused is fetched anew, once', async () => {
  const { id } = intake({ auth: 'oauth', name: 'client', tokenUrl: 'https://rows.example.org/token' });
  const seen: unknown[] = [];
  answer = ({ headers }) => {
    seen.push(headers['x-shown']);
    return headers['x-shown'] === 'oauth 2' ? { status: 200, body: '{"n":1}' } : { status: 401, body: '' };
  };
  expect(await feeds.read(id)).toMatchObject({ pages: 1, fault: null });
  expect(seen).toEqual(['oauth 1', 'oauth 2']);
  expect((await feeds.read(id)).fault).toBeNull();
  shown = 7;
  expect((await feeds.read(id)).fault).toMatch(/rejected the credentials/);
});
