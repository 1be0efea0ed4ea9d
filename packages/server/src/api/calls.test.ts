import { randomBytes } from 'node:crypto';
import { readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type {
  DeliveryPage,
  DeliveryView,
  FilesView,
  FormView,
  IntakeView,
  OperationView,
  RefusalView,
  ResponsesView,
  RouteView,
  RunView,
  SamplesView,
  TargetView,
} from '@grammata/contract';
import { numberOf } from '@grammata/core/perform';
import type { RouteDefinition } from '@grammata/core/route';
import { newLine, type Line } from '@grammata/core/route';
import { draftOf } from '../testing/draftOf';
import { json, startAnswering, type Answering, type ReceivedRequest } from '../testing/answering';
import { eventually, startServer, type Client } from '../testing/running';

// Routes of several calls, end to end over HTTP: a target with an OpenAPI document, a builder that keeps files.

let client: Client;
let target: Answering;
let builder: Answering;
let contacts: Record<string, unknown>[];
let answers: ((heard: ReceivedRequest) => { status: number; body?: unknown; type?: string } | null)[];

const schema = (required: string[]) => ({
  type: 'object',
  required,
  properties: {
    id: { type: 'string', readOnly: true },
    email: { type: 'string', format: 'email' },
    name: { type: 'string' },
    town: { type: 'string' },
  },
});
const content = (type: string, of: object) => ({ content: { [type]: { schema: of } } });
const answered = (of: object) => ({ '200': { description: 'Fine', ...content('application/json', of) } });
const id = { in: 'path', name: 'id', required: true, schema: { type: 'string' } };
const document = {
  openapi: '3.1.0',
  info: { title: 'People', version: '1' },
  paths: {
    '/people': {
      get: {
        operationId: 'find',
        parameters: [{ in: 'query', name: 'email', schema: { type: 'string' } }],
        responses: answered({ type: 'object', properties: { people: { type: 'array', items: schema([]) } } }),
      },
      post: {
        operationId: 'create',
        requestBody: content('application/json', schema(['email'])),
        responses: answered(schema([])),
      },
    },
    '/people/{id}': {
      parameters: [id],
      get: { operationId: 'read', responses: answered(schema([])) },
      patch: {
        operationId: 'update',
        requestBody: content('application/json', schema([])),
        responses: answered(schema([])),
      },
    },
    '/people/{id}/files': {
      parameters: [id],
      post: {
        operationId: 'attach',
        requestBody: content('multipart/form-data', {
          type: 'object',
          required: ['file'],
          properties: { file: { type: 'string', contentMediaType: '*/*' } },
        }),
      },
    },
  },
};

beforeEach(async () => {
  contacts = [];
  answers = [];
  target = await startAnswering((heard, response) => {
    const special = answers.map(each => each(heard)).find(each => each !== null);
    if (special)
      return void response
        .writeHead(special.status, { 'content-type': special.type ?? 'application/json' })
        .end(typeof special.body === 'string' ? special.body : JSON.stringify(special.body ?? {}));
    const { pathname, searchParams } = new URL(heard.url, 'http://x');
    const [, , own, files] = pathname.split('/');
    const body = () => JSON.parse(heard.body.toString()) as Record<string, unknown>;
    if (files) return json(response, 201, { name: 'kept' });
    const contact = contacts.find(each => each.id === own);
    if (heard.method === 'POST') {
      contacts.push({ ...body(), id: String(contacts.length + 1) });
      return json(response, 201, contacts.at(-1));
    }
    if (heard.method === 'PATCH') return json(response, 200, Object.assign(contact!, body()));
    if (own) return json(response, 200, contact);
    json(response, 200, { people: contacts.filter(each => each.email === searchParams.get('email')) });
  });
  builder = await startAnswering((heard, response) => {
    if (heard.url.startsWith('/locked') && heard.headers.authorization !== 'Bearer file-secret')
      return void response.writeHead(200, { 'content-type': 'text/html' }).end('<html>Sign in</html>');
    if (heard.url.startsWith('/gone')) return void response.writeHead(410).end();
    if (heard.url.startsWith('/inward')) return void response.writeHead(302, { location: 'http://10.0.0.1/key' }).end();
    if (heard.url.startsWith('/round')) return void response.writeHead(302, { location: '/round' }).end();
    response.writeHead(200, { 'content-type': 'image/gif' }).end('GIF89a-a-picture');
  });
  client = await startServer();
});
afterEach(async () => {
  await client.stop();
  await Promise.all([target.stop(), builder.stop()]);
});

const line = (to: string, field: string, more: Partial<Line> = {}): Line => ({
  ...newLine(`l-${to}`, to),
  source: { from: 'field', field },
  ...more,
});
const find = {
  operationId: 'find',
  line: line('email', 'email'),
  list: '/people',
  equals: '/email',
  whenNone: 'create' as const,
  whenSeveral: 'hold' as const,
  update: { operationId: 'update', to: 'id', from: '/id' },
};

/** An intake with a submission, the target, and a route with these calls between them. */
async function prepared(
  calls: (targetId: string) => RouteDefinition['calls'],
  first: object,
  terms: Partial<RouteDefinition['terms']> = {},
) {
  const intake = (await client.call<IntakeView>('POST', '/intakes', { name: 'Sign-up' })).json;
  const send = (body: object) =>
    fetch(`${client.url}${new URL(intake.address).pathname}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  await send(first);
  const [form] = await eventually(
    async () => (await client.call<FormView[]>('GET', '/forms')).json,
    all => all[0]?.submissions === 1,
  );
  const made = (
    await client.call<TargetView>('POST', '/targets', {
      name: 'People',
      baseUrl: target.url,
      reads: 'openapi',
      document: JSON.stringify(document),
      auth: { kind: 'bearer' },
      token: 'people-token',
    })
  ).json;
  const route = (
    await client.call<RouteView>('POST', '/routes', {
      name: 'R',
      formId: form!.id,
      targetId: made.id,
      operationId: 'create',
    })
  ).json;
  const draft = { ...route.draft, calls: calls(made.id), terms: { ...route.draft.terms, ...terms } };
  const saved = await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf({ ...route, draft }));
  if (saved.status !== 200) throw new Error(JSON.stringify(saved.json));
  const { samples } = (await client.call<SamplesView>('GET', `/forms/${form!.id}/samples`)).json;
  return { intake, send, made, route: saved.json, sampleId: samples[0]!.id };
}
const person = (targetId: string, more: object = {}): RouteDefinition['calls'][number] => ({
  id: 'person',
  targetId,
  operationId: 'create',
  lines: [line('email', 'email'), line('name', 'name'), line('town', 'town', { writes: 'whereBlank' })],
  ...more,
});
const attach = (targetId: string, more: object = {}): RouteDefinition['calls'][number] => ({
  id: 'attach',
  targetId,
  operationId: 'attach',
  repeat: 'photos',
  lines: [line('id', '@answer/person/id'), line('file', '@item')],
  ...more,
});
const goLive = (route: RouteView) => client.call<RouteView>('POST', `/routes/${route.id}/live`);
const deliveries = async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json;
const settled = (n: number) =>
  eventually(deliveries, page => page.total === n && page.counts.waiting + page.counts.sending === 0);
const detail = async (place = 0) =>
  (await client.call<DeliveryView>('GET', `/deliveries/${(await deliveries()).deliveries[place]!.id}`)).json;
const asked = () => target.heard.map(each => `${each.method} ${each.url.split('?')[0]}`);
const photo = (name: string, place = '') => ({
  name,
  url: `${builder.url}${place}/${name}`,
  size: 16,
  type: 'image/gif',
});
const aoife = { email: 'aoife@example.org', name: 'Aoife', town: 'Weir End' };

test('somebody who is known is updated, only blank fields filled; the next time there is nothing to send', async () => {
  contacts.push({ id: '1', email: aoife.email, name: 'A', town: 'Mill Lane' });
  const { route, send } = await prepared(each => [person(each, { find })], { id: 'x', ...aoife });
  await goLive(route);
  await send({ id: 'y', ...aoife });
  await settled(1);
  expect(asked()).toEqual(['GET /people', 'PATCH /people/1']);
  expect(contacts).toEqual([{ id: '1', email: aoife.email, name: 'Aoife', town: 'Mill Lane' }]);
  expect(await detail()).toMatchObject({
    state: 'delivered',
    attemptList: [{ purpose: 'find' }, { purpose: 'update' }],
    done: [{ what: 'updated' }],
  });
  await send({ id: 'z', ...aoife });
  await settled(2);
  expect(asked().slice(2)).toEqual(['GET /people']);
  expect(await detail()).toMatchObject({ state: 'delivered', done: [{ what: 'unchanged' }] });
});

test('a record made between looking and making is found the second time', async () => {
  let isFirst = true;
  answers.push(({ method }) => {
    if (method !== 'POST' || !isFirst) return null;
    isFirst = false;
    contacts.push({ id: '1', email: aoife.email });
    return { status: 409, body: { title: 'There is one' } };
  });
  const { route, send } = await prepared(each => [person(each, { find })], { id: 'x', ...aoife });
  await goLive(route);
  await send({ id: 'y', ...aoife });
  await settled(1);
  expect(asked()).toEqual(['GET /people', 'POST /people', 'GET /people', 'PATCH /people/1']);
  expect(contacts).toHaveLength(1);
});

test.each([0, 1, 3])('a record and %d files, each under a key of its own', async count => {
  const photos = Array.from({ length: count }, (_, index) => photo(`p${index}.gif`));
  const { route, send } = await prepared(each => [person(each), attach(each)], {
    id: 'x',
    ...aoife,
    photos: [photo('a.gif')],
  });
  await goLive(route);
  await send({ id: 'y', ...aoife, ...(count > 0 && { photos }) });
  await settled(1);
  expect(asked()).toEqual(['POST /people', ...photos.map(() => 'POST /people/1/files')]);
  expect(new Set(target.heard.map(each => each.headers['idempotency-key'])).size).toBe(count + 1);
  for (const each of target.heard.slice(1)) expect(each.body.toString()).toContain('GIF89a-a-picture');
  expect((await detail()).done.map(each => numberOf(each.item))).toEqual([0, ...photos.map((_, index) => index + 1)]);
});

test('an answer that holds a secret is used as it is by the calls after it, and kept and shown without', async () => {
  let tries = 0;
  answers.push(({ method, url }) => {
    if (method === 'POST' && url === '/people') return { status: 201, body: { id: 'people-token-7' } };
    return url.endsWith('/files') && ++tries === 1 ? { status: 422, body: { title: 'Not people-token!' } } : null;
  });
  const first = { id: 'x', ...aoife, photos: [photo('a.gif')] };
  const { route, send } = await prepared(each => [person(each), attach(each)], first);
  await goLive(route);
  await send({ ...first, id: 'y' });
  await settled(1);
  const failed = await detail();
  expect(failed).toMatchObject({ state: 'dead', done: [{ what: 'created', answer: { id: '••••••-7' } }] });
  await client.call('POST', '/deliveries/resend', { ids: [failed.id], mapping: 'then' });
  await eventually(detail, each => each.state === 'delivered');
  expect(asked()).toEqual(['POST /people', ...Array.from({ length: 2 }, () => 'POST /people/people-token-7/files')]);
  expect(JSON.stringify([failed, await detail(), await deliveries()])).not.toContain('people-token');
});

test('after a later call failed, sending again does not make the earlier ones again', async () => {
  answers.push(({ url }) => (url.endsWith('/files') ? { status: 400, body: { error: 'No.' } } : null));
  const { route, send } = await prepared(each => [person(each), attach(each)], {
    id: 'x',
    ...aoife,
    photos: [photo('a.gif')],
  });
  await goLive(route);
  await send({ id: 'y', ...aoife, photos: [photo('a.gif'), photo('b.gif')] });
  const page = await settled(1);
  expect(page.counts.dead).toBe(1);
  answers = [];
  await client.call('POST', '/deliveries/resend', { ids: [page.deliveries[0]!.id], mapping: 'now' });
  await eventually(deliveries, each => each.counts.delivered === 1);
  expect(asked()).toEqual(['POST /people', 'POST /people/1/files', 'POST /people/1/files', 'POST /people/1/files']);
  expect(contacts).toHaveLength(1);
});

test('a call that fails and is passed over is noted, and the others are made', async () => {
  answers.push(({ url }) => (url.endsWith('/files') ? { status: 400, body: { error: 'No room.' } } : null));
  const calls = (each: string) => [person(each), attach(each, { whenFailed: 'passOver' })];
  const { route, send } = await prepared(calls, { id: 'x', ...aoife, photos: [photo('a.gif')] });
  await goLive(route);
  await send({ id: 'y', ...aoife, photos: [photo('a.gif'), photo('b.gif')] });
  await settled(1);
  expect(await detail()).toMatchObject({
    state: 'delivered',
    reason: expect.stringContaining('No room.'),
    done: [{ what: 'created' }, { what: 'failed' }, { what: 'failed' }],
  });
});

test('what is wrong is told beside its line, by our check before it goes and by the target’s answer after', async () => {
  const { route, send } = await prepared(each => [person(each)], { id: 'x', ...aoife });
  await goLive(route);
  await send({ id: 'y', ...aoife, email: 'aoife at example' });
  const held = await settled(1);
  expect(held.deliveries[0]).toMatchObject({ state: 'held', reason: expect.stringContaining('an e-mail address') });
  expect(target.heard).toEqual([]);
  answers.push(() => ({
    status: 422,
    body: { title: 'No', errors: [{ pointer: '#/town', detail: 'is not on the map' }] },
  }));
  await send({ id: 'z', ...aoife });
  await settled(2);
  expect((await detail()).attemptList[0]!.complaints).toEqual([
    { field: '#/town', message: 'is not on the map', lineId: 'l-town' },
  ]);
  const { json: refusals } = await client.call<RefusalView[]>('GET', `/routes/${route.id}/refusals`);
  expect(refusals).toMatchObject([{ callId: 'person', lineId: 'l-town', message: 'is not on the map' }]);
});

test.each<[string, { status: number; body?: string; type?: string }, string]>([
  ['a page as 200', { status: 200, body: '<!doctype html><h1>Sign in</h1>', type: 'text/html' }, 'with a web page'],
  ['what is no JSON', { status: 200, body: '{"people": [', type: 'application/json' }, 'not JSON'],
  ['larger than 1 MB', { status: 200, body: `"${'x'.repeat(1_100_000)}"` }, 'larger than 1 MB'],
  ['a redirect', { status: 307 }, 'redirects are not followed'],
])('an answer that is not what it should be: %s', async (_, answer, says) => {
  answers.push(({ method }) => (method === 'GET' ? answer : null));
  const { route, send } = await prepared(each => [person(each, { find })], { id: 'x', ...aoife });
  await goLive(route);
  await send({ id: 'y', ...aoife });
  const page = await settled(1);
  expect(page.deliveries[0]).toMatchObject({ state: 'dead', reason: expect.stringContaining(says) });
  expect(contacts).toEqual([]);
});

test.each([
  ['refused', {}, 'dead', 'Status 200, but the response says no: The key was revoked.'],
  [
    'delivered, where its status alone counts',
    { success: { by: 'status' as const, pointer: '', values: null } },
    'delivered',
    null,
  ],
  [
    'delivered, where what decides is there',
    { success: { by: 'member' as const, pointer: '/message', values: null } },
    'delivered',
    null,
  ],
  [
    'refused, where what decides is missing',
    { success: { by: 'member' as const, pointer: '/id', values: ['1'] } },
    'dead',
    'Status 200, but the response says no: id is missing. The key was revoked.',
  ],
])('what a target answers with 200 and “success: false” is %s', async (_, more, state, reason) => {
  answers.push(({ method }) =>
    method === 'POST' ? { status: 200, body: { success: false, message: 'The key was revoked.' } } : null,
  );
  const { route, send } = await prepared(each => [{ ...person(each), ...more }], { id: 'x', ...aoife });
  await goLive(route);
  await send({ id: 'y', ...aoife });
  const page = await settled(1);
  expect(page.deliveries[0]).toMatchObject({ state, reason });
});

test('what a response may say is counted, and a value in it can be made to decide', async () => {
  const states = ['OK', 'KO'];
  answers.push(({ method }) => (method === 'POST' ? { status: 200, body: { state: states.shift() } } : null));
  const { route, send } = await prepared(each => [person(each)], { id: 'x', ...aoife });
  await goLive(route);
  await send({ id: 'y', ...aoife });
  await settled(1);
  await send({ id: 'z', ...aoife });
  await settled(2);
  const { json: responses } = await client.call<ResponsesView>('GET', `/routes/${route.id}/responses?call=person`);
  expect([responses.total, responses.members[0]]).toEqual([
    2,
    {
      pointer: '/state',
      present: 2,
      values: expect.arrayContaining([
        { value: 'OK', count: 1 },
        { value: 'KO', count: 1 },
      ]),
    },
  ]);
  expect((await client.call<ResponsesView>('GET', `/routes/${route.id}/responses?call=none`)).json.total).toBe(0);
});

test('what is named in a notice is fetched; of the list in the response each item is sent; the response is learned by a dry run', async () => {
  const visits = [{ town: 'Weir End' }, { town: 'Mill Lane' }];
  contacts.push({ id: '7', email: aoife.email, visits });
  const calls = (targetId: string): RouteDefinition['calls'] => [
    { id: 'details', targetId, operationId: 'read', lines: [line('id', 'contact')] },
    {
      id: 'each',
      targetId,
      operationId: 'create',
      repeat: '@answer/details/visits',
      lines: [line('email', '@answer/details/email'), line('town', '@item/town')],
    },
  ];
  const { route, send, sampleId, made } = await prepared(calls, { id: 'x', contact: '7' });
  const seen = async () => (await client.call<RouteView>('GET', `/routes/${route.id}`)).json.targets[0]!;
  expect((await seen()).answers).toEqual({});
  const { json: dry } = await client.call<RunView>('POST', `/routes/${route.id}/run`, { sampleId, send: false });
  expect([dry.problems, asked()]).toEqual([[], ['GET /people/7']]);
  expect(dry.asks.map(each => each.purpose)).toEqual(['create', 'create', 'create']);
  expect((await seen()).answers).toEqual({ read: { id: '7', email: aoife.email, visits } });
  await goLive(route);
  target.heard.length = 0;
  await send({ id: 'y', contact: '7' });
  await settled(1);
  expect(asked()).toEqual(['GET /people/7', 'POST /people', 'POST /people']);
  expect(contacts.slice(1).map(each => [each.email, each.town])).toEqual([
    [aoife.email, 'Weir End'],
    [aoife.email, 'Mill Lane'],
  ]);
  // Somebody who takes the answer of an operation away takes what was learned away, too.
  const { operation } = (await client.call<OperationView>('GET', `/targets/${made.id}/operation?id=read`)).json;
  await client.call('PUT', `/targets/${made.id}/operation`, { ...operation, answer: [] });
  expect((await seen()).answers).toEqual({});
});

describe('a draft is run for one sample', () => {
  test('looking up only: what would be sent is shown, with the changes, and nothing is', async () => {
    contacts.push({ id: '1', email: aoife.email, name: 'A' });
    const { route, sampleId } = await prepared(each => [person(each, { find }), attach(each)], {
      id: 'x',
      ...aoife,
      photos: [photo('a.gif')],
    });
    const { json: ran } = await client.call<RunView>('POST', `/routes/${route.id}/run`, { sampleId, send: false });
    expect(asked()).toEqual(['GET /people']);
    expect(ran.problems).toEqual([]);
    expect(
      ran.asks.map(each => [
        each.purpose,
        each.changes.map(change => [change.field, change.before ?? null, change.after]),
      ]),
    ).toEqual([
      ['find', []],
      [
        'update',
        [
          ['name', 'A', 'Aoife'],
          ['town', null, 'Weir End'],
        ],
      ],
      ['create', []],
    ]);
    expect(ran.asks[1]!.request).toContain('authorization: Bearer ••••••');
  });

  test('what hangs on a record that is not made yet is not looked up, though an earlier one was learned', async () => {
    const { route, sampleId } = await prepared(
      each => [
        person(each),
        { id: 'details', targetId: each, operationId: 'read', lines: [line('id', '@answer/person/id')] },
      ],
      { id: 'x', ...aoife },
    );
    await client.call('POST', `/routes/${route.id}/run`, { sampleId, send: true });
    expect(asked()).toEqual(['POST /people', `GET /people/${contacts[0]!.id}`]);
    target.heard.length = 0;
    const { json: ran } = await client.call<RunView>('POST', `/routes/${route.id}/run`, { sampleId, send: false });
    expect(asked()).toEqual([]);
    expect([ran.asks.length, ran.problems]).toEqual([2, []]);
  });

  test('for real on the side to try on; read back; and gone live only when nothing was lost', async () => {
    const trying = await startAnswering(({ method }, response) =>
      json(
        response,
        200,
        method === 'POST' ? { id: '5' } : { id: '5', email: aoife.email, name: 'Ao', town: 'Weir End' },
      ),
    );
    const readBack = { operationId: 'read', to: 'id', from: '/id' };
    const { route, sampleId, made } = await prepared(
      each => [person(each, { readBack })],
      { id: 'x', ...aoife },
      { needsTrial: true },
    );
    await client.call('PATCH', `/targets/${made.id}`, { tryBaseUrl: trying.url, tryToken: 'try-token' });
    expect(await goLive(route)).toMatchObject({
      status: 409,
      json: { title: expect.stringContaining('needs a real test') },
    });
    await client.call('POST', `/routes/${route.id}/run`, { sampleId, send: true });
    expect(target.heard).toEqual([]);
    expect(trying.heard.map(each => [each.method, each.headers.authorization])).toEqual([
      ['POST', 'Bearer try-token'],
      ['GET', 'Bearer try-token'],
    ]);
    const { json: after } = await client.call<RouteView>('GET', `/routes/${route.id}`);
    expect(after.trial!.done[0]!.compared!.map(each => [each.field, each.verdict])).toEqual([
      ['email', 'same'],
      ['name', 'shortened'],
      ['town', 'same'],
    ]);
    expect(await goLive(route)).toMatchObject({
      status: 409,
      json: { title: 'The target did not store name as sent.' },
    });
    await trying.stop();
  });
});

describe('files', () => {
  const withPhotos = (photos: object[]) =>
    prepared(each => [person(each), attach(each)], { id: 'x', ...aoife, photos });

  test.each<[string, string]>([
    ['/gone', 'its URL no longer exists (410)'],
    ['/locked', 'returns a web page, probably for signing in'],
    ['/inward', 'private address'],
    ['/round', 'redirects too often'],
  ])('%s: %s, seen before the first call is made', async (place, says) => {
    const { route, send } = await withPhotos([photo('a.gif', place)]);
    const { json: looked } = await client.call<FilesView>('GET', `/routes/${route.id}/files`);
    expect(looked).toMatchObject({ looked: 1, faults: [{ message: expect.stringContaining(says) }] });
    await goLive(route);
    await send({ id: 'y', ...aoife, photos: [photo('a.gif', place)] });
    const page = await settled(1);
    expect(page.deliveries[0]).toMatchObject({ state: 'held', reason: expect.stringContaining(says), attempts: 0 });
  });

  test('credentials for files open them, and go to their own host only', async () => {
    const { route, intake } = await withPhotos([photo('a.gif', '/locked')]);
    const other = await startAnswering(
      (_, response) => void response.writeHead(200, { 'content-type': 'image/gif' }).end('GIF89a'),
    );
    const { host } = new URL(builder.url);
    const access = { host, kind: 'bearer', secret: 'file-secret' };
    const set = await client.call<IntakeView>('PATCH', `/intakes/${intake.id}`, { fileAccess: access });
    expect(set.json.fileAccess).toEqual({ host, kind: 'bearer', name: '', hasSecret: true });
    expect(JSON.stringify(set.json)).not.toContain('file-secret');
    expect((await client.call<FilesView>('GET', `/routes/${route.id}/files`)).json).toEqual({ looked: 1, faults: [] });
    const elsewhere = { ...photo('b.gif'), url: `${other.url}/b.gif` };
    await fetch(`${client.url}${new URL(intake.address).pathname}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id: 'z', ...aoife, photos: [elsewhere] }),
    });
    await eventually(
      async () => (await client.call<FilesView>('GET', `/routes/${route.id}/files`)).json.looked,
      looked => looked === 2,
    );
    expect(other.heard.map(each => each.headers.authorization)).toEqual([undefined]);
    const moved = await client.call('PATCH', `/intakes/${intake.id}`, {
      fileAccess: { host: 'evil.example.org', kind: 'bearer' },
    });
    expect(moved.status).toBe(422);
    await other.stop();
  });

  test.each([
    ['small, in the database', 3_000],
    ['large, in a file of its own', 1_500_000],
  ])('that came along in the message, %s, go on byte for byte', async (_, size) => {
    const { route, intake } = await withPhotos([photo('a.gif')]);
    await goLive(route);
    const bytes = randomBytes(size);
    const form = new FormData();
    form.set('email', aoife.email);
    form.set('name', 'Aoife');
    form.append('photos', new File([randomBytes(10)], 'other.gif', { type: 'image/gif' }));
    form.append('photos', new File([bytes], 'Föhre "x".gif', { type: 'image/gif' }));
    const formOf = (await client.call<FormView[]>('GET', '/forms')).json[0]!;
    await fetch(`${client.url}${new URL(intake.address).pathname}`, { method: 'POST', body: form });
    await eventually(
      async () =>
        (await client.call<FormView[]>('GET', '/forms')).json.find(each => each.id === formOf.id)!.submissions,
      n => n === 2,
    );
    await settled(1);
    const sent = target.heard.filter(each => each.url.endsWith('/files'));
    expect(sent).toHaveLength(2);
    expect(sent[1]!.body.includes(bytes)).toBe(true);
  });

  test('a copy is handed out by a link that is signed and ends', async () => {
    const lines = [
      line('email', 'email'),
      line('name', 'photos', {
        copies: true,
        cleaning: [
          { id: 'files.part', params: { give: 'url' } },
          { id: 'list.join', params: { separator: ' ' } },
        ],
      }),
    ];
    const { intake, route, send } = await prepared(each => [person(each, { lines })], {
      id: 'x',
      ...aoife,
      photos: [photo('a.gif')],
    });
    await goLive(route);
    await send({ id: 'y', ...aoife, photos: [photo('a b.gif')] });
    await settled(1);
    const link = String(contacts[0]!.name);
    expect(link).toMatch(/^http:\/\/127\.0\.0\.1\/copies\/[a-f0-9]{32}\/a%20b\.gif\?until=\d+&sig=[\w-]{43}$/);
    const { pathname, search } = new URL(link);
    const got = await fetch(`${client.url}${pathname}${search}`);
    expect(await got.text()).toBe('GIF89a-a-picture');
    expect(got.headers.get('content-disposition')).toBe("attachment; filename*=UTF-8''a%20b.gif");
    const changed = (await fetch(`${client.url}${pathname}${search.replace(/until=\d/, 'until=9')}`)).status;
    expect([changed, (await fetch(`${client.url}${pathname}`)).status]).toEqual([403, 403]);
    const { store, copies } = client.running.services;
    store.copies.put({ ...store.copies.byId(pathname.split('/')[2]!)!, id: 'ended', expiresAt: 1 });
    copies.sweep();
    expect(store.copies.byId('ended')).toBeUndefined();
    expect((await detail()).attemptList[0]!.request).toContain('sig=••••••');
    // It goes with its submission, and what nobody knows of goes, too.
    const kept = path.join(client.running.services.config.dataDir, 'copies');
    writeFileSync(path.join(kept, 'orphan'), 'x');
    await client.running.services.ledger.removeBefore({ intakeId: intake.id, time: Date.now() + 1000, most: 100 });
    copies.sweep();
    expect([readdirSync(kept), (await fetch(`${client.url}${pathname}${search}`)).status]).toEqual([[], 410]);
  });
});

test('a secret is bound to where it was given for: another place of tokens has to be given both anew', async () => {
  const { made } = await prepared(each => [person(each)], { id: 'x', ...aoife });
  const auth = (host: string) => ({ kind: 'oauth', tokenUrl: `https://${host}.example.org/token`, clientId: 'c' });
  const change = (more: object) => client.call('PATCH', `/targets/${made.id}`, more);
  const first = { auth: auth('a'), token: 's1', tryBaseUrl: 'https://try.example.org', tryToken: 's2' };
  expect((await change(first)).status).toBe(200);
  const elsewhere = { auth: auth('b'), tryBaseUrl: first.tryBaseUrl };
  expect(await change(elsewhere)).toMatchObject({ status: 422, json: { errors: [{ field: 'token' }] } });
  expect(await change({ ...elsewhere, token: 's1' })).toMatchObject({
    status: 422,
    json: { errors: [{ field: 'tryToken' }] },
  });
  expect((await change({ ...elsewhere, token: 's1', tryToken: 's2' })).status).toBe(200);
});
