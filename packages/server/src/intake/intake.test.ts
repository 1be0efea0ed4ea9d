import { randomUUID } from 'node:crypto';
import { brotliCompressSync, deflateSync, gzipSync } from 'node:zlib';
import type { ArrivalSummary, ArrivalView, FormListed, FormView, IntakeView, StrayView } from '@grammata/contract';
import { newArrival } from './arrival';
import { eventually, startAfterCrash, startServer, type Client } from '../testing/running';

let client: Client;
let intake: IntakeView;
let address: string;

beforeAll(async () => {
  client = await startServer();
});
afterAll(() => client.stop());
beforeEach(async () => {
  intake = (await client.call<IntakeView>('POST', '/intakes', { name: `Field team forms ${randomUUID()}` })).json;
  address = `${client.url}${new URL(intake.address).pathname}`;
});

const post = (body: BodyInit, type = 'application/json', to = address) =>
  fetch(to, { method: 'POST', headers: { 'content-type': type }, body });
const arrivals = async () => (await client.call<ArrivalSummary[]>('GET', `/intakes/${intake.id}/arrivals`)).json;
const newest = async (): Promise<ArrivalView> => {
  const list = await eventually(
    arrivals,
    all => all.length > 0 && all.every(each => each.state !== 'waiting' && each.state !== 'reading'),
  );
  return (await client.call<ArrivalView>('GET', `/arrivals/${list[0]!.id}`)).json;
};

test('an address can’t be guessed: 12 characters of 5 bits', () =>
  expect(intake.address).toMatch(/\/in\/[0-9a-z]{4}-[0-9a-z]{4}-[0-9a-z]{4}$/));

test('a submission is stored as it came, answered with 202, and read', async () => {
  const answer = await post('{"id":"e1", "site":"AB-07","ph":7.4}');
  expect(answer.status).toBe(202);
  const { id } = (await answer.json()) as { id: string };
  const view = await newest();
  expect(view).toMatchObject({
    id,
    state: 'read',
    method: 'POST',
    body: '{"id":"e1", "site":"AB-07","ph":7.4}',
    notes: [],
  });
  expect(view.headers).toContainEqual(['content-type', 'application/json']);
  expect(view.decoded[0]).toMatchObject({
    id: 'e1',
    fields: [
      { key: 'site', value: 'AB-07' },
      { key: 'ph', value: 7.4 },
    ],
  });
});

test.each<[string, () => Promise<Response>, object]>([
  [
    'malformed JSON',
    () => post('{"site": '),
    { state: 'unread', body: '{"site": ', trouble: expect.stringContaining('not JSON') },
  ],
  ['an empty body', () => post(''), { state: 'unread', trouble: expect.stringContaining('empty') }],
  [
    'a wrong Content-Type',
    () => post('{"site":"AB-07"}', 'text/plain'),
    { state: 'read', trouble: expect.stringContaining('reads as JSON') },
  ],
  [
    'urlencoded',
    () => post('site=AB-07&signs[]=Foam&signs[]=Litter', 'application/x-www-form-urlencoded'),
    { state: 'read', decoded: [{ fields: [{ value: 'AB-07' }, { value: ['Foam', 'Litter'] }] }] },
  ],
  [
    'bytes that are no text',
    () => post(new Uint8Array([0, 1, 2, 255]), 'application/octet-stream'),
    { state: 'unread', body: null, size: 4 },
  ],
  [
    'values in the address',
    () => fetch(`${address}?site=AB-07&ph=7.4`),
    { state: 'read', method: 'GET', url: expect.stringContaining('?site=AB-07') },
  ],
])('%s is kept and shown', async (_, send, view) => {
  expect((await send()).status).toBe(202);
  expect(await newest()).toMatchObject(view);
});

test('a browser tab gets a page that says it arrived', async () => {
  const answer = await fetch(`${address}?site=AB-07`, { headers: { accept: 'text/html' } });
  expect(answer.headers.get('content-type')).toContain('text/html');
  expect(await answer.text()).toContain('Received');
});

test('a body over the limit is refused with 413 and its beginning kept', async () => {
  await client.call('PATCH', `/intakes/${intake.id}`, { sizeLimit: 100_000 });
  const answer = await post('x'.repeat(5_000_000));
  expect(answer.status).toBe(413);
  const view = await newest();
  expect(view).toMatchObject({
    state: 'refused',
    size: 5_000_000,
    cut: true,
    decoded: [],
    trouble: expect.stringContaining('5.0 MB is more'),
  });
  expect(view.body).toHaveLength(65_536);
});

test('a request to an unknown address is answered 404 and shown', async () => {
  expect((await post('{"a":1}', 'application/json', `${client.url}/in/no-such`)).status).toBe(404);
  const strays = (await client.call<StrayView[]>('GET', '/strays')).json;
  expect(strays[0]).toMatchObject({ method: 'POST', url: '/in/no-such', size: 7 });
  await client.call('DELETE', '/strays');
  expect((await client.call<StrayView[]>('GET', '/strays')).json).toEqual([]);
});

test('requests to unknown addresses write nothing, and the newest hundred are kept', async () => {
  const { store, strays } = client.running.services;
  const write = jest.spyOn(store.intakes, 'update');
  for (let at = 0; at < 120; at++) strays.keep({ at, method: 'POST', url: `/in/${at}`, sender: null, size: 0 });
  expect((await post('{"a":1}', 'application/json', `${client.url}/in/no-such?token=x`)).status).toBe(404);
  expect([strays.count, strays.list()[0]!.url, strays.list().at(-1)!.url]).toEqual([
    100,
    '/in/no-such?token=x',
    '/in/21',
  ]);
  expect(write).not.toHaveBeenCalled();
});

describe('a body that is coded on its way (RFC 9110 §8.4)', () => {
  const body = JSON.stringify({ submission_id: 's1', site: 'AB-07', note: 'x'.repeat(5000) });
  const coded = (encoding: string, bytes: Buffer) =>
    fetch(address, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'content-encoding': encoding },
      body: new Uint8Array(bytes),
    });
  test.each<[string, (text: string) => Buffer]>([
    ['gzip', gzipSync],
    ['X-Gzip', gzipSync],
    ['deflate', deflateSync],
    ['br', brotliCompressSync],
    ['identity', Buffer.from],
    ['gzip, br', text => brotliCompressSync(gzipSync(text))],
  ])('by %s is read, and kept as it is read', async (encoding, code) => {
    expect((await coded(encoding, code(body))).status).toBe(202);
    const view = await newest();
    expect([view.body, view.state, view.size]).toEqual([body, 'read', body.length]);
    expect(view.headers.map(([name]) => name)).not.toContain('content-encoding');
  });
  test('grows no larger than its intake takes', async () => {
    await client.call('PATCH', `/intakes/${intake.id}`, { sizeLimit: 100_000 });
    expect((await coded('gzip', gzipSync('x'.repeat(3_000_000)))).status).toBe(413);
    expect(await newest()).toMatchObject({ state: 'refused', cut: true });
  });
  test.each<[string, string, Buffer, number]>([
    ['is not what it says', 'gzip', Buffer.from('plain'), 400],
    ['breaks off', 'gzip', gzipSync(body).subarray(0, 40), 400],
    ['is none of Brotli', 'br', Buffer.from('no, not this'), 400],
    ['is coded in another way', 'zstd', Buffer.from('x'), 415],
    ['is coded again and again', 'gzip, gzip, gzip', Buffer.from('x'), 415],
  ])('and %s is refused with words', async (_, encoding, bytes, status) => {
    const answer = await coded(encoding, bytes);
    const { title } = (await answer.json()) as { title: string };
    expect([answer.status, title, answer.headers.get('accept-encoding')]).toEqual([
      status,
      'The body could not be decoded.',
      'gzip, deflate, br',
    ]);
    // It listens to others all the same.
    expect((await post('{"site":"AB-07"}')).status).toBe(202);
  });
});

test('other methods are refused by name', async () => {
  const answer = await fetch(address, { method: 'DELETE' });
  expect([answer.status, answer.headers.get('allow')]).toEqual([405, 'GET, POST']);
});

test.each(['PUT', 'PATCH'])('%s leaves a trace, and is taken like POST where the intake says so', async method => {
  const send = () =>
    fetch(address, { method, body: '{"site":"AB-07"}', headers: { 'content-type': 'application/json' } });
  const refused = await send();
  expect([refused.status, refused.headers.get('allow')]).toEqual([405, 'GET, POST']);
  await eventually(arrivals, all => all.length === 1);
  expect((await arrivals())[0]).toMatchObject({ state: 'refused', method, trouble: expect.stringContaining(method) });
  await client.call('PATCH', `/intakes/${intake.id}`, { takesPut: true });
  expect((await send()).status).toBe(202);
  await eventually(arrivals, all => all.length === 2 && all[0]!.state === 'read');
});

test('a stopped intake asks senders to come back and keeps nothing', async () => {
  await client.call('PATCH', `/intakes/${intake.id}`, { state: 'stopped' });
  const answer = await post('{"a":1}');
  expect([answer.status, answer.headers.get('retry-after')]).toEqual([503, '300']);
  expect(await arrivals()).toEqual([]);
});

test.each<[object, (answer: Response) => Promise<void>]>([
  [{ reply: 'ok' }, async answer => expect(answer.status).toBe(200)],
  [
    { reply: 'page', replyText: 'Thanks, <team>!' },
    async answer => expect(await answer.text()).toContain('Thanks, &#60;team&#62;!'),
  ],
  [
    { reply: 'redirect', replyText: 'https://basin.example.org/thanks' },
    async answer =>
      expect([answer.status, answer.headers.get('location')]).toEqual([303, 'https://basin.example.org/thanks']),
  ],
])('the reply is the intake’s to choose: %j', async (change, holds) => {
  await client.call('PATCH', `/intakes/${intake.id}`, change);
  await holds(await fetch(address, { method: 'POST', body: '{"a":"b"}', redirect: 'manual' }));
});

test('a redirect without an address is refused, field by field', async () => {
  expect(await client.call('PATCH', `/intakes/${intake.id}`, { reply: 'redirect', replyText: 'thanks' })).toMatchObject(
    { status: 422, json: { errors: [{ field: 'replyText' }] } },
  );
});

test('forms at one address are told apart, each with its schema; the same submission twice counts once', async () => {
  const form = (key: string, id: string) => JSON.stringify({ form_id: key, submission_id: id, site: 'AB-07' });
  for (const body of [form('a', '1'), form('b', '1'), form('a', '2'), form('a', '1')]) await post(body);
  await eventually(arrivals, all => all.length === 4 && all.every(each => each.state === 'read'));
  const listed = (await client.call<FormListed[]>('GET', '/forms')).json.filter(each => each.intakeId === intake.id);
  const forms = await Promise.all(
    listed.map(async each => (await client.call<FormView>('GET', `/forms/${each.id}`)).json),
  );
  expect(forms.map(each => [each.key, each.submissions, each.schema.count])).toEqual([
    ['a', 2, 2],
    ['b', 1, 1],
  ]);
  expect((await arrivals()).map(each => each.repeats)).toEqual([true, false, false, false]);
});

describe('senders that must prove themselves', () => {
  const secure = (verification: object) => client.call<IntakeView>('PATCH', `/intakes/${intake.id}`, { verification });
  test('a refused request gets 401, is kept, explained, and not read; its secret is never kept', async () => {
    const { json } = await secure({ kind: 'header', name: 'X-Yard-Key', secrets: ['open sesame'] });
    expect(JSON.stringify(json)).not.toContain('sesame');
    expect((await post('{"site":"AB-07"}')).status).toBe(401);
    expect(await newest()).toMatchObject({
      state: 'refused',
      checked: 'The header “X-Yard-Key” is missing.',
      decoded: [],
      body: '{"site":"AB-07"}',
    });
    const sent = await fetch(address, {
      method: 'POST',
      body: '{"site":"AB-02"}',
      headers: { 'x-yard-key': 'open sesame' },
    });
    expect(sent.status).toBe(202);
    const view = await newest();
    expect(view).toMatchObject({ state: 'read', checked: expect.stringContaining('is valid') });
    expect(JSON.stringify(view)).not.toContain('sesame');
  });
  test('a secret in the address is neither kept nor read as an answer', async () => {
    await secure({ kind: 'query', name: 'key', secrets: ['open sesame'] });
    expect((await fetch(`${address}?key=open+sesame&site=AB-07`)).status).toBe(202);
    const view = await newest();
    expect(view.decoded[0]!.fields.map(field => field.key)).toEqual(['site']);
    expect(JSON.stringify(view)).not.toContain('sesame');
  });
  test('the stored secret stays when it is left out, and is asked for when there is none', async () => {
    expect(await secure({ kind: 'hmac', name: 'X-Sig' })).toMatchObject({
      status: 422,
      json: { errors: [{ field: 'verification.secrets' }] },
    });
    await secure({ kind: 'hmac', name: 'X-Sig', secrets: ['k'] });
    expect((await secure({ kind: 'hmac', name: 'X-Other' })).json.verification).toMatchObject({
      name: 'X-Other',
      secrets: 1,
    });
    expect(
      (await client.call<IntakeView>('PATCH', `/intakes/${intake.id}`, { verification: null })).json.verification,
    ).toBeNull();
  });
  test('only from allowed addresses', async () => {
    expect((await client.call('PATCH', `/intakes/${intake.id}`, { allowedAddresses: ['not an address'] })).status).toBe(
      422,
    );
    await client.call('PATCH', `/intakes/${intake.id}`, { allowedAddresses: ['192.0.2.0/24'] });
    expect((await post('{"a":1}')).status).toBe(401);
    expect(await newest()).toMatchObject({ checked: expect.stringContaining('not an allowed address') });
  });
});

// Fetch Standard, CORS protocol: the preflight and the answer name the origin.
test('pages of allowed sites may post from a browser, others not', async () => {
  await client.call('PATCH', `/intakes/${intake.id}`, { allowedOrigins: ['https://basin.example.org'] });
  const preflight = (origin: string) =>
    fetch(address, {
      method: 'OPTIONS',
      headers: { origin, 'access-control-request-method': 'POST', 'access-control-request-headers': 'content-type' },
    });
  const allowed = await preflight('https://basin.example.org');
  expect([allowed.status, allowed.headers.get('access-control-allow-origin')]).toEqual([
    204,
    'https://basin.example.org',
  ]);
  expect((await preflight('https://elsewhere.example.org')).headers.get('access-control-allow-origin')).toBeNull();
  const sent = await fetch(address, {
    method: 'POST',
    body: '{"a":"b"}',
    headers: { origin: 'https://basin.example.org' },
  });
  expect(sent.headers.get('access-control-allow-origin')).toBe('https://basin.example.org');
});

test('the same bytes within the window are one submission; outside it, or with the window closed, two', async () => {
  for (let n = 0; n < 2; n++) await post('{"site":"AB-07"}');
  await eventually(arrivals, all => all.length === 2 && all.every(each => each.state === 'read'));
  expect((await arrivals()).map(each => each.repeats)).toEqual([true, false]);
  await client.call('PATCH', `/intakes/${intake.id}`, { sameWithin: 0 });
  await post('{"site":"AB-07"}');
  await eventually(arrivals, all => all.length === 3 && all.every(each => each.state === 'read'));
  expect((await arrivals())[0]!.repeats).toBe(false);
});

describe('a file of past submissions', () => {
  const upload = async (name: string, body: string) => {
    const session = await fetch(`${client.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ password: 'withy bridge at dawn' }),
    });
    const cookie = session.headers.get('set-cookie')!.split(';')[0]!;
    return fetch(`${client.url}/api/intakes/${intake.id}/upload?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/octet-stream' },
      body,
    });
  };
  test('every row becomes a sample; what could not be read is told; nothing is delivered', async () => {
    const rows = Array.from({ length: 300 }, (_, n) => `AB-0${n % 9},${n}`);
    expect((await upload('past reports.csv', ['site,ph', ...rows, 'AB-07,1,too much'].join('\n'))).status).toBe(202);
    const view = await newest();
    expect(view).toMatchObject({
      method: 'FILE',
      state: 'read',
      submissions: 301,
      notes: [{ code: 'media.row' }],
      deliveries: [],
    });
    expect(view.decoded).toHaveLength(50);
    const [listed] = (await client.call<FormListed[]>('GET', '/forms')).json.filter(
      each => each.intakeId === intake.id,
    );
    const form = (await client.call<FormView>('GET', `/forms/${listed!.id}`)).json;
    expect(form!.schema).toMatchObject({
      count: 301,
      fields: [
        { key: 'site', filled: 301 },
        { key: 'ph', filled: 301 },
      ],
    });
  });
  test('a file of no known kind is refused with the kinds that are', async () => {
    const answer = await upload('report.docx', 'x');
    expect([answer.status, await answer.json()]).toMatchObject([415, { detail: expect.stringContaining('csv') }]);
    expect((await upload('empty.csv', '')).status).toBe(422);
  });
});

test('the built-in sender goes over HTTP to the intake itself', async () => {
  const { json } = await client.call<{ status: number }>('POST', `/intakes/${intake.id}/send`, {
    method: 'POST',
    contentType: 'application/json',
    body: '{"site":"AB-07"}',
    query: '',
  });
  expect(json.status).toBe(202);
  expect((await newest()).body).toBe('{"site":"AB-07"}');
});

test('what was stored and not read before a crash is read at the next start', async () => {
  const { running } = client;
  const row = newArrival(running.services.store.intakes.byId(intake.id)!, {
    id: 'left-behind',
    method: 'POST',
    contentType: 'application/json',
    headers: [],
    body: Buffer.from('{"site":"AB-02"}'),
  });
  // It is on disk, and the server that took it has not looked yet.
  await running.services.ledger.takeIn([row]);
  const second = await startAfterCrash(client);
  await eventually(
    () => second.running.services.store.arrivals.byId('left-behind'),
    each => each?.state === 'read',
  );
  expect(second.running.services.store.arrivals.submissionsOf('left-behind', 10)[0]!.data.fields[0]!.value).toBe(
    'AB-02',
  );
  await second.stop();
});

test('many at once are all kept', async () => {
  const answers = await Promise.all(
    Array.from({ length: 120 }, (_, index) => post(JSON.stringify({ submission_id: `n${index}`, site: 'AB-07' }))),
  );
  expect(new Set(answers.map(answer => answer.status))).toEqual(new Set([202]));
  const all = await eventually(
    async () => (await client.call<IntakeView>('GET', `/intakes/${intake.id}`)).json,
    view => view.arrivals === 120 && view.forms[0]?.submissions === 120,
  );
  expect(all.lastArrivalAt).not.toBeNull();
});
