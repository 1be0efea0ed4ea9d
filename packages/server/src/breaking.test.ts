import type { ServerResponse } from 'node:http';
import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, readlinkSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import path from 'node:path';
import type {
  ArrivalSummary,
  ArrivalView,
  DeliveryPage,
  DeliveryView,
  IntakeView,
  RouteView,
  TargetView,
} from '@grammata/contract';
import { draftOf } from './testing/draftOf';
import { json, startAnswering, type Answering } from './testing/answering';
import { eventually, startServer, type Client } from './testing/running';
import { beInState } from './testing/arrivals';

// Streams, timers and messages that break in the middle: each is told where it belongs, and the server goes on.

let client: Client;
let intake: IntakeView;
beforeAll(async () => {
  client = await startServer();
});
afterAll(() => client.stop());
beforeEach(async () => {
  intake = (await client.call<IntakeView>('POST', '/intakes', { name: `Breaking ${randomUUID()}` })).json;
});

const address = () => `${client.url}${new URL(intake.address).pathname}`;
const post = (body: BodyInit, headers: Record<string, string> = {}) =>
  fetch(address(), { method: 'POST', headers, body });
const arrivals = async () => (await client.call<ArrivalSummary[]>('GET', `/intakes/${intake.id}/arrivals`)).json;
const settled = (states: string[]) =>
  eventually(arrivals, all => all.length > 0 && all.every(each => states.includes(each.state)));
const view = async (id: string) => (await client.call<ArrivalView>('GET', `/arrivals/${id}`)).json;
const lives = async () => expect((await client.call('GET', '/desk')).status).toBe(200);
const withFile = (size: number) => {
  const form = new FormData();
  form.append('site', 'AB-07');
  form.append('photo', new File([new Uint8Array(size).fill(7)], 'weir.bin', { type: 'application/octet-stream' }));
  return form;
};
/** Files of a folder that the process holds open. */
const openIn = (folder: string) =>
  readdirSync('/proc/self/fd').flatMap(each => {
    try {
      const file = readlinkSync(`/proc/self/fd/${each}`);
      return file.startsWith(folder) ? [file] : [];
    } catch {
      return [];
    }
  });

/** A live route that sends the file of each submission as a part to an address. */
async function toFiles(url: string): Promise<RouteView> {
  const document = {
    openapi: '3.1.0',
    info: { title: 'Files', version: '1' },
    paths: {
      '/files': {
        post: {
          operationId: 'add',
          requestBody: {
            content: {
              'multipart/form-data': {
                schema: {
                  type: 'object',
                  properties: { photo: { type: 'string', format: 'binary' }, site: { type: 'string' } },
                },
              },
            },
          },
          responses: { '201': { description: 'ok' } },
        },
      },
    },
  };
  await post(withFile(10));
  const [seen] = await settled(['read']);
  const { json: target } = await client.call<TargetView>('POST', '/targets', {
    name: `Files ${randomUUID()}`,
    baseUrl: url,
    reads: 'openapi',
    discoveryPath: '/',
    document: JSON.stringify(document),
    auth: { kind: 'none' },
  });
  const { json: route } = await client.call<RouteView>('POST', '/routes', {
    name: 'Files',
    formId: seen!.formId,
    targetId: target.id,
    operationId: target.operations[0]!.id,
  });
  for (const line of route.draft.calls[0]!.lines) line.source = { from: 'field', field: line.to };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  await client.call('POST', `/routes/${route.id}/live`);
  return route;
}
const deliveries = (route: RouteView) => async () =>
  (await client.call<DeliveryPage>('GET', `/deliveries?routeId=${route.id}`)).json;
const detail = async (id: string) => (await client.call<DeliveryView>('GET', `/deliveries/${id}`)).json;

describe('a target that breaks while a file is on its way', () => {
  test('it is down: the delivery waits and says so, and nothing is left on disk', async () => {
    const route = await toFiles('http://127.0.0.1:9');
    await post(withFile(3_000_000));
    const page = await eventually(deliveries(route), each => (each.deliveries[0]?.attempts ?? 0) >= 1);
    expect(page.deliveries[0]!.reason).toMatch(/Nothing answers|closed the connection/);
    expect((await detail(page.deliveries[0]!.id)).tryUntil).not.toBeNull();
    const until = Date.parse((await detail(page.deliveries[0]!.id)).tryUntil!);
    // The default outlasts a night.
    expect(until - Date.now()).toBeGreaterThan(23 * 3_600_000);
    await eventually(
      () =>
        readdirSync(path.join(client.dataDir, 'underway')).length +
        openIn(client.dataDir).filter(each => each.includes('underway')).length,
      n => n === 0,
    );
    await lives();
    await client.call('POST', `/routes/${route.id}/pause`);
  });

  test('it goes away in the middle: tried again under the same key, the same bytes', async () => {
    const keys: string[] = [];
    const boundaries: string[] = [];
    const server: Server = createServer((request, response) => {
      keys.push(String(request.headers['idempotency-key']));
      boundaries.push(String(request.headers['content-type']));
      if (keys.length < 2) request.once('data', () => request.socket.destroy());
      else request.resume().on('end', () => json(response, 201, {}));
    });
    await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
    const route = await toFiles(`http://127.0.0.1:${(server.address() as AddressInfo).port}`);
    await post(withFile(3_000_000));
    await eventually(deliveries(route), each => each.counts.delivered === 1);
    expect([new Set(keys).size, new Set(boundaries).size, keys.length]).toEqual([1, 1, 2]);
    server.closeAllConnections();
    server.close();
    await lives();
  });

  test('it drips: the answer has a time as a whole', async () => {
    const target: Answering = await startAnswering((_heard, response) => {
      response.writeHead(200, { 'content-type': 'application/json' });
      const drip = setInterval(() => response.write(' '), 50);
      response.on('close', () => clearInterval(drip));
    });
    const { json: made } = await client.call<TargetView>('POST', '/targets', {
      name: `Drips ${randomUUID()}`,
      baseUrl: target.url,
      discoveryPath: '/tables',
      patience: { connect: 1, firstByte: 1, whole: 1 },
    });
    const started = performance.now();
    const answer = await client.running.services.outward.send({
      method: 'GET',
      url: target.url,
      headers: {},
      patience: made.patience,
    });
    expect(answer).toMatchObject({ code: 'timeout' });
    expect(performance.now() - started).toBeLessThan(5000);
    await target.stop();
  });
});

describe('introspection over a network that is slow, or breaks', () => {
  const begun = '{"data":{"__schema":{"queryType":{"name":"Query"},"types":[';
  test.each<[string, (response: ServerResponse) => void, RegExp]>([
    [
      'drips',
      response => {
        const drip = setInterval(() => response.write(' '), 50);
        response.on('close', () => clearInterval(drip));
      },
      /did not answer in time/,
    ],
    ['breaks off', response => void response.write(' ', () => response.destroy()), /closed the connection/],
    ['ends too soon', response => void response.end(), /Not a GraphQL schema/],
  ])('it %s: that is said, and nobody else waits', async (_, goesOn, words) => {
    const target = await startAnswering((_heard, response) => {
      response.writeHead(200, { 'content-type': 'application/json' });
      response.write(begun);
      goesOn(response);
    });
    const made = client.call<TargetView>('POST', '/targets', {
      name: `Slow ${randomUUID()}`,
      baseUrl: target.url,
      reads: 'graphql',
      discoveryPath: '/graphql',
      patience: { connect: 1, firstByte: 1, whole: 1 },
    });
    const started = performance.now();
    expect((await client.call('GET', '/desk')).status).toBe(200);
    expect(performance.now() - started).toBeLessThan(900);
    const { status, json } = await made;
    expect(status).toBe(201);
    expect(json.fault).toMatch(words);
    expect(json.operations).toEqual([]);
    await target.stop();
  });
});

test('a target that repeats what it was shown: the secret stands nowhere', async () => {
  const target = await startAnswering(({ url, headers }, response) =>
    url === '/tables'
      ? json(response, 200, {
          tables: [{ key: 't', title: 'T', columns: [{ key: 'site', title: 'Site', type: 'string' }] }],
        })
      : json(response, 422, {
          title: `You sent ${String(headers.authorization)}`,
          errors: [{ field: 'site', message: String(headers.authorization) }],
        }),
  );
  const token = 'token-that-nobody-sees-4711';
  const { json: made } = await client.call<TargetView>('POST', '/targets', {
    name: 'Echo',
    baseUrl: target.url,
    discoveryPath: '/tables',
    token,
  });
  await post('{"site":"AB-07","ph":7}', { 'content-type': 'application/json' });
  const [seen] = await settled(['read']);
  const { json: route } = await client.call<RouteView>('POST', '/routes', {
    name: 'Echo',
    formId: seen!.formId,
    targetId: made.id,
    operationId: 'create:t',
  });
  route.draft.calls[0]!.lines[0]!.source = { from: 'field', field: 'site' };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  await client.call('POST', `/routes/${route.id}/live`);
  await post('{"site":"AB-02","ph":7}', { 'content-type': 'application/json' });
  const page = await eventually(deliveries(route), each => each.counts.dead === 1);
  const shown = JSON.stringify([
    page,
    await detail(page.deliveries[0]!.id),
    (await client.call('GET', `/routes/${route.id}/refusals`)).json,
  ]);
  expect(shown).toContain('You sent Bearer ••••••');
  expect(shown).not.toContain(token);
  await target.stop();
});

describe('what arrives', () => {
  test('a large form whose file is gone is shown as it was read, with why it can’t be read again', async () => {
    await post(withFile(1_500_000));
    const [seen] = await settled(['read']);
    const file = path.join(client.dataDir, 'bodies', seen!.id);
    expect(existsSync(file)).toBe(true);
    rmSync(file);
    const shown = await view(seen!.id);
    expect(shown.decoded).toHaveLength(1);
    expect(JSON.stringify(shown.notes)).toMatch(/could not be read to its end|ENOENT/);
    await lives();
  });

  test('a sender that breaks off leaves nothing behind, neither files nor descriptors', async () => {
    const folder = path.join(client.dataDir, 'bodies');
    const before = readdirSync(folder).length;
    await Promise.all(
      Array.from({ length: 20 }, async () => {
        const socket = connect(client.running.port, '127.0.0.1');
        socket.on('error', () => undefined);
        socket.write(`POST ${new URL(intake.address).pathname} HTTP/1.1\r\nhost: x\r\ncontent-length: 9000000\r\n\r\n`);
        socket.write(Buffer.alloc(2_000_000, 120));
        await eventually(
          () => socket.writableLength,
          left => left === 0,
        );
        socket.destroy();
      }),
    );
    await eventually(
      () => readdirSync(folder).length,
      n => n === before,
    );
    await eventually(
      () => openIn(folder).length,
      n => n === 0,
    );
    await lives();
  });

  // 81 bytes that a pattern took exponential time for.
  test('line ends without a boundary are read at once', async () => {
    await post(`${'\r\n'.repeat(40)}x`, { 'content-type': 'multipart/form-data' });
    await settled(['unread', 'read']);
    await lives();
  });

  test('what could not be read is set aside, counted on the Desk, and read again only when a person asks', async () => {
    await post('<a', { 'content-type': 'application/xml' });
    const [seen] = await settled(['unread']);
    const desk = (await client.call<{ unread: number; lastUnread: ArrivalSummary }>('GET', '/desk')).json;
    expect(desk.unread).toBeGreaterThan(0);
    expect(desk.lastUnread.id).toBe(seen!.id);
    expect((await client.call('POST', `/arrivals/${seen!.id}/read`)).status).toBe(202);
    await settled(['unread']);
    await post('{"site":"AB-07","ph":1}', { 'content-type': 'application/json' });
    const all = await eventually(arrivals, list => list.some(each => each.state === 'read'));
    expect((await client.call('POST', `/arrivals/${all.find(each => each.state === 'read')!.id}/read`)).status).toBe(
      409,
    );
  });

  test('what was being read at three ends of the server is not read once more by itself', async () => {
    const { ledger, store } = client.running.services;
    const { arrivals: table } = store;
    const beReading = () => beInState(store, seen!.id, 'reading');
    await post('{"site":"AB-07","ph":1}', { 'content-type': 'application/json' });
    const [seen] = await settled(['read']);
    beReading();
    expect(await ledger.recover()).toBe(0);
    expect(table.byId(seen!.id)).toMatchObject({ state: 'waiting', tries: 1, lane: 'slow' });
    beReading();
    expect(await ledger.recover()).toBe(0);
    beReading();
    expect(await ledger.recover()).toBe(1);
    expect(table.byId(seen!.id)!.state).toBe('unread');
    expect(table.byId(seen!.id)!.trouble).toMatch(/read again only when you ask/);
    // Nor is it by being looked at.
    const look = jest.spyOn(client.running.services.decoders, 'look');
    const { json: aside } = await client.call<ArrivalView>('GET', `/arrivals/${seen!.id}`);
    expect([aside.document, aside.body, look.mock.calls.length]).toEqual([null, '{"site":"AB-07","ph":1}', 0]);
    expect((await client.call('POST', `/arrivals/${seen!.id}/read`)).status).toBe(202);
    await settled(['read']);
    const { json: again } = await client.call<ArrivalView>('GET', `/arrivals/${seen!.id}`);
    expect([again.document, look.mock.calls.length]).toEqual([{ site: 'AB-07', ph: 1 }, 1]);
    look.mockRestore();
  });

  test('a reply to an address with letters beyond ASCII is sent; what is no address is refused', async () => {
    const change = (replyText: string) =>
      client.call('PATCH', `/intakes/${intake.id}`, { reply: 'redirect', replyText });
    expect((await change('https://example.org/danke ✓')).status).toBe(200);
    const answer = await fetch(address(), { method: 'POST', body: '{"a":"b","c":"d"}', redirect: 'manual' });
    expect([answer.status, answer.headers.get('location')]).toEqual([303, 'https://example.org/danke%20%E2%9C%93']);
    expect((await change('javascript:alert(1)')).status).toBe(422);
    expect(
      (await client.call('POST', '/intakes', { name: 'x', reply: 'redirect', replyText: 'javascript:alert(1)' }))
        .status,
    ).toBe(422);
  });

  test.each(['sizeLimit', 'state', 'reply', 'replyText', 'allowedAddresses', 'allowedOrigins', 'sameWithin'])(
    '%s of an intake may be left out, and not be null',
    async name => {
      const { status, json } = await client.call('PATCH', `/intakes/${intake.id}`, { [name]: null });
      expect([status, json]).toMatchObject([422, { errors: [{ field: name }] }]);
      expect((await client.call('PATCH', `/intakes/${intake.id}`, {})).status).toBe(200);
    },
  );

  test('one arrival whose intake has just gone is no matter to the others', async () => {
    const gone = (await client.call<IntakeView>('POST', '/intakes', { name: 'Gone' })).json;
    const place = `${client.url}${new URL(gone.address).pathname}`;
    // It is known still when the requests come in, and not any more when they are stored.
    const row = client.running.services.store.intakes.byId(gone.id)!;
    await client.call('DELETE', `/intakes/${gone.id}`);
    (client.running.services.store.intakes as unknown as { bySlug(slug: string): unknown }).bySlug = function (
      this: unknown,
      slug: string,
    ) {
      return slug === row.slug
        ? row
        : Object.getPrototypeOf(client.running.services.store.intakes).bySlug.call(
            client.running.services.store.intakes,
            slug,
          );
    };
    const answers = await Promise.all([
      ...Array.from({ length: 5 }, () => post('{"a":"b","c":"d"}')),
      fetch(place, { method: 'POST', body: 'x' }),
    ]);
    expect(answers.map(each => each.status)).toEqual([202, 202, 202, 202, 202, 404]);
  });
});

describe('feeds', () => {
  test.each(['<>; rel="next"', '<http://[>; rel="next"', '<', '; rel=next', `${'<'.repeat(5000)}`])(
    'a Link header %j ends nothing',
    async link => {
      const source = await startAnswering((_heard, response) => {
        response.writeHead(200, { 'content-type': 'application/json', link }).end('[{"id":"1","site":"AB-07","ph":7}]');
      });
      await client.call('PATCH', `/intakes/${intake.id}`, {
        feed: { url: source.url, every: '0 5 * * *', on: true, auth: 'none', paging: 'link' },
      });
      const read = await client.call<{ fresh: number; fault: string | null }>(
        'POST',
        `/intakes/${intake.id}/feed/read`,
      );
      expect(read.json).toMatchObject({ fresh: 1, fault: null });
      await source.stop();
    },
  );

  test('an intake that is deleted while its feed is read', async () => {
    let answer = () => undefined as void;
    let heard = () => undefined as void;
    const asked = new Promise<void>(done => (heard = done));
    const source = await startAnswering((_heard, response) => {
      answer = () =>
        void response.writeHead(200, { 'content-type': 'application/json' }).end('[{"id":"1","a":"b","c":"d"}]');
      heard();
    });
    await client.call('PATCH', `/intakes/${intake.id}`, {
      feed: { url: source.url, every: '0 5 * * *', on: true, auth: 'none' },
    });
    const reading = client.running.services.feeds.read(intake.id);
    await asked;
    await client.call('DELETE', `/intakes/${intake.id}`);
    answer();
    await reading;
    await source.stop();
    await lives();
  });
});
