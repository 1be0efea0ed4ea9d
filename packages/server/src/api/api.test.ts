import type {
  DeliveryPage,
  DeliveryView,
  DeskView,
  FormView,
  IntakeView,
  ListingView,
  RouteView,
  TargetView,
} from '@grammata/contract';
import type { RouteDefinition } from '@grammata/core/route';
import { draftOf } from '../testing/draftOf';
import {
  eventually,
  startAfterCrash,
  startServer,
  startTarget,
  type Client,
  type FakeTarget,
} from '../testing/running';
import { changeDelivery } from '../testing/deliveries';

let client: Client;
let target: FakeTarget;
beforeEach(async () => {
  client = await startServer();
  target = await startTarget();
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

const send = async (intake: IntakeView, answers: object) =>
  fetch(`${client.url}${new URL(intake.address).pathname}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(answers),
  });
const deliveries = async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json;
const settled = (n: number) =>
  eventually(deliveries, page => page.total === n && page.counts.waiting + page.counts.sending === 0);
const detail = async (id: string) => (await client.call<DeliveryView>('GET', `/deliveries/${id}`)).json;

/** An intake with one submission, the target, and a route between them with both columns filled. */
async function prepared(change: (draft: RouteDefinition) => void = () => undefined) {
  const intake = (await client.call<IntakeView>('POST', '/intakes', { name: 'Forms' })).json;
  await send(intake, { submission_id: 'first', site: 'AB-07', ph: '7,4' });
  const [form] = await eventually(
    async () => (await client.call<FormView[]>('GET', '/forms')).json,
    all => all[0]?.submissions === 1,
  );
  const made = (
    await client.call<TargetView>('POST', '/targets', {
      name: 'Register',
      baseUrl: target.url,
      discoveryPath: '/tables',
      token: 'secret-token-1',
    })
  ).json;
  let route = (
    await client.call<RouteView>('POST', '/routes', {
      name: 'To register',
      formId: form!.id,
      targetId: made.id,
      operationId: 'create:samples',
    })
  ).json;
  const { draft } = route;
  draft.calls[0]!.lines[0]!.source = { from: 'field', field: 'site' };
  draft.calls[0]!.lines[1]!.source = { from: 'field', field: 'ph' };
  draft.calls[0]!.lines[1]!.cleaning = [{ id: 'number.read', params: {} }];
  change(draft);
  route = (await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route))).json;
  return { intake, form: form!, made, route };
}

test('a connection is kept for longer than a proxy reuses it', async () => {
  const answer = await fetch(`${client.url}/api/desk`);
  const [, seconds] = /timeout=(\d+)/.exec(answer.headers.get('keep-alive') ?? '') ?? [];
  expect(Number(seconds)).toBeGreaterThan(60);
});

describe('access', () => {
  test('nothing is told to people who are not signed in, and problems are problem details', async () => {
    for (const place of ['/desk', '/intakes', '/deliveries', '/live', '/targets']) {
      const answer = await fetch(`${client.url}/api${place}`);
      expect([place, answer.status, answer.headers.get('content-type')]).toEqual([
        place,
        401,
        'application/problem+json; charset=utf-8',
      ]);
    }
  });
  test('the owner’s account is made once; a wrong password opens nothing', async () => {
    expect(
      (await client.call('POST', '/setup', { name: 'Mallory', password: 'long enough pw', token: 'guessed' })).status,
    ).toBe(409);
    expect((await client.call('POST', '/session', { password: 'guess' })).status).toBe(401);
  });
  test('the session cookie is HttpOnly and SameSite; signing out ends it', async () => {
    const answer = await fetch(`${client.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ password: 'withy bridge at dawn' }),
    });
    expect(answer.headers.get('set-cookie')).toMatch(/HttpOnly.*SameSite=Strict/);
    await client.call('DELETE', '/session');
    expect((await client.call('GET', '/desk')).status).toBe(401);
  });
  test('outside the demo nobody is signed in by himself', async () =>
    expect(await (await fetch(`${client.url}/api/session`)).json()).toEqual({
      user: null,
      needsSetup: false,
      demo: false,
    }));
  test('a change that another site asks for is refused', async () => {
    const answer = await fetch(`${client.url}/api/setup`, {
      method: 'POST',
      headers: { origin: 'https://evil.example.org', 'content-type': 'application/json' },
      body: '{}',
    });
    expect(answer.status).toBe(403);
  });
});

describe('targets', () => {
  test('tables and columns are read from it; the token goes in and never comes out', async () => {
    const { made } = await prepared();
    expect(made).toMatchObject({
      hasToken: true,
      fault: null,
      operations: [{ id: 'create:samples', fields: 2 }],
    });
    const one = await client.call('GET', `/targets/${made.id}/operation?id=create%3Asamples`);
    expect(one.json).toMatchObject({
      operation: {
        fields: [
          { key: 'site', required: true, options: ['AB-07', 'AB-02'] },
          { key: 'ph', type: 'number' },
        ],
      },
      own: null,
      usedBy: ['To register'],
    });
    expect(JSON.stringify(made)).not.toContain('secret-token');
  });
  test('one that can’t be reached is kept, with words for why', async () => {
    const { json } = await client.call<TargetView>('POST', '/targets', {
      name: 'Gone',
      baseUrl: 'http://127.0.0.1:1',
      discoveryPath: '/tables',
    });
    expect(json).toMatchObject({ operations: [], fault: expect.stringContaining('Nothing answers at 127.0.0.1:1') });
  });
  test('moving to another host asks for the token again', async () => {
    const { made } = await prepared();
    expect(
      await client.call('PATCH', `/targets/${made.id}`, { baseUrl: 'http://elsewhere.example.org' }),
    ).toMatchObject({ status: 422, json: { errors: [{ field: 'token' }] } });
  });
  test('bad input is told field by field', async () => {
    const { status, json } = await client.call<{ errors: { field: string }[] }>('POST', '/targets', {
      name: '',
      baseUrl: 'ftp://x',
      discoveryPath: 'tables',
      token: 'a\nb',
    });
    expect([status, json.errors.map(each => each.field)]).toEqual([422, ['name', 'baseUrl', 'discoveryPath', 'token']]);
  });
  test('one that a route delivers to can’t be removed', async () => {
    const { made } = await prepared();
    expect((await client.call('DELETE', `/targets/${made.id}`)).status).toBe(409);
  });
});

describe('routes', () => {
  test('an edit on an old revision is refused, and loses nothing', async () => {
    const { route } = await prepared();
    expect((await client.call('PUT', `/routes/${route.id}/draft`, { ...draftOf(route), revision: 0 })).status).toBe(
      409,
    );
    expect((await client.call<RouteView>('GET', `/routes/${route.id}`)).json.draft.calls[0]!.lines[0]!.source).toEqual({
      from: 'field',
      field: 'site',
    });
  });
  test.each<[string, (draft: RouteDefinition) => void]>([
    ['a source of no kind', draft => Object.assign(draft.calls[0]!.lines[0]!, { source: { from: 'thin air' } })],
    ['too many tries', draft => Object.assign(draft.terms, { hours: 9999 })],
    ['no such time zone', draft => Object.assign(draft.terms, { timeZone: 'Basin/Alder' })],
  ])('%s is refused', async (_, change) => {
    const { route } = await prepared();
    change(route.draft);
    expect((await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route))).status).toBe(422);
  });
  test('does not go live with a required column unfilled', async () => {
    const { route } = await prepared(draft => (draft.calls[0]!.lines[0]!.source = null));
    expect(await client.call('POST', `/routes/${route.id}/live`)).toMatchObject({
      status: 409,
      json: { title: expect.stringContaining('site') },
    });
  });
  test('a live route can’t be removed; a paused one can, with its deliveries', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    await send(intake, { submission_id: 'x', site: 'AB-02' });
    await settled(1);
    expect((await client.call('DELETE', `/routes/${route.id}`)).status).toBe(409);
    await client.call('POST', `/routes/${route.id}/pause`);
    expect((await client.call('DELETE', `/routes/${route.id}`)).status).toBe(204);
    expect((await deliveries()).total).toBe(0);
  });
});

describe('delivery', () => {
  test('what was rehearsed is what is sent, once, with the token, and recorded with the token masked', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    await send(intake, { submission_id: 'e2', site: 'AB-02', ph: '7,4 or so' });
    await send(intake, { submission_id: 'e2', site: 'AB-02', ph: '7,4 or so' });
    const page = await settled(1);
    expect(target.requests).toHaveLength(1);
    expect(target.requests[0]).toMatchObject({
      method: 'POST',
      url: '/tables/samples/records',
      headers: { authorization: 'Bearer secret-token-1', 'idempotency-key': expect.stringContaining(route.id) },
    });
    const view = await detail(page.deliveries[0]!.id);
    expect(JSON.parse(target.requests[0]!.body)).toEqual(view.planned[0]!.plan.body);
    expect(view.planned[0]!.plan.body).toEqual({ values: { site: 'AB-02', ph: 7.4 } });
    expect(view.attemptList).toMatchObject([
      {
        number: 1,
        status: 201,
        outcome: 'delivered',
        request: expect.stringContaining('authorization: Bearer ••••••'),
      },
    ]);
    expect(JSON.stringify(view)).not.toContain('secret-token');
  });

  test('the condition decides who goes', async () => {
    const { route, intake } = await prepared(
      draft => (draft.condition = { all: [{ field: 'site', is: 'equals', values: ['AB-02'], not: false }] }),
    );
    await client.call('POST', `/routes/${route.id}/live`);
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    await send(intake, { submission_id: 'b', site: 'AB-02' });
    await settled(1);
    expect(target.requests.map(each => JSON.parse(each.body) as unknown)).toEqual([{ values: { site: 'AB-02' } }]);
  });

  test('what the target would refuse is held, not sent; mended and sent again it goes', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    await send(intake, { submission_id: 'a', site: 'AB-99' });
    const page = await settled(1);
    expect(page.deliveries[0]).toMatchObject({
      state: 'held',
      reason: expect.stringContaining('does not list “AB-99”'),
    });
    expect(target.requests).toHaveLength(0);
    const { json: now } = await client.call<RouteView>('GET', `/routes/${route.id}`);
    Object.assign(now.draft.calls[0]!.lines[0]!, { whenProblem: 'fallback', fallback: 'AB-07' });
    await client.call('PUT', `/routes/${route.id}/draft`, draftOf(now));
    await client.call('POST', `/routes/${route.id}/live`);
    await client.call('POST', '/deliveries/resend', { ids: [page.deliveries[0]!.id], mapping: 'now' });
    const after = await eventually(deliveries, each => each.counts.delivered === 1);
    expect(after.deliveries[0]).toMatchObject({ version: 2, state: 'delivered' });
  });

  test('deliveries are filtered by route, target, arrival, day and words, and sent again by the same', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    for (const site of ['AB-98', 'AB-99']) await send(intake, { submission_id: site, site });
    const page = await settled(2);
    const ids = async (query: object) =>
      (await client.call<DeliveryPage>('GET', `/deliveries?${new URLSearchParams({ ...query })}`)).json.deliveries.map(
        each => each.id,
      );
    const [newest, oldest] = page.deliveries.map(each => each.id) as [string, string];
    const { arrivalId } = await detail(newest);
    const [targetId] = route.targets.map(each => each.id) as [string];
    const [past, future] = [new Date(0).toISOString(), new Date(Date.now() + 60_000).toISOString()];
    const cases: [object, string[]][] = [
      [{}, [newest, oldest]],
      [{ routeId: route.id }, [newest, oldest]],
      [{ routeId: 'another' }, []],
      [{ targetId }, [newest, oldest]],
      [{ targetId: 'another' }, []],
      [{ arrivalId }, [newest]],
      [{ since: past, until: future }, [newest, oldest]],
      [{ since: future }, []],
      [{ until: past }, []],
      [{ search: 'list AB-99' }, [newest]],
      [{ search: 'AB-99 AB-98' }, []],
      [{ state: 'held', targetId, search: 'ab-98' }, [oldest]],
    ];
    for (const [query, expected] of cases) expect([query, await ids(query)]).toEqual([query, expected]);
    expect((await client.call('GET', '/deliveries?since=yesterday')).json).toMatchObject({
      errors: [{ field: 'since' }],
    });
    const desk = (await client.call<DeskView>('GET', '/desk')).json;
    expect(desk.troubles).toMatchObject([
      { routeId: route.id, state: 'held', count: 1, reason: expect.stringContaining('AB-98') },
      { routeId: route.id, state: 'held', count: 1, reason: expect.stringContaining('AB-99') },
    ]);
    const { json: now } = await client.call<RouteView>('GET', `/routes/${route.id}`);
    Object.assign(now.draft.calls[0]!.lines[0]!, { whenProblem: 'fallback', fallback: 'AB-07' });
    await client.call('PUT', `/routes/${route.id}/draft`, draftOf(now));
    await client.call('POST', `/routes/${route.id}/live`);
    await client.call('POST', '/deliveries/resend', {
      ids: [],
      filter: { state: 'held', targetId, since: past, search: 'ab-98' },
      mapping: 'now',
    });
    const after = await eventually(deliveries, each => each.counts.delivered === 1);
    expect(after.deliveries.filter(each => each.state === 'delivered').map(each => each.id)).toEqual([oldest]);
  });

  test('a passing failure is tried again under the same key; a final one becomes a dead letter', async () => {
    const { route, intake } = await prepared(draft => (draft.terms.hours = 1));
    await client.call('POST', `/routes/${route.id}/live`);
    target.answer = { status: 503 };
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    await eventually(
      () => target.requests.length,
      n => n >= 1,
    );
    target.answer = { status: 201 };
    const page = await eventually(deliveries, each => each.counts.delivered === 1);
    expect((await detail(page.deliveries[0]!.id)).attemptList[0]).toMatchObject({ outcome: 'retry', status: 503 });
    expect(new Set(target.requests.map(each => each.headers['idempotency-key'])).size).toBe(1);

    target.answer = { status: 422, body: { title: 'Not taken.', errors: [{ field: 'site', message: 'no' }] } };
    await send(intake, { submission_id: 'b', site: 'AB-07' });
    const dead = await eventually(deliveries, each => each.counts.dead === 1);
    expect(dead.deliveries[0]!.reason).toBe('Request rejected by the target (422). Response: Not taken. site: no');
  });

  test('tries run out, with a dropped connection too', async () => {
    const { route, intake } = await prepared(draft => (draft.terms.hours = 1.2 / 3600));
    await client.call('POST', `/routes/${route.id}/live`);
    target.answer = 'drop';
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    const page = await eventually(deliveries, each => each.counts.dead === 1);
    expect(page.deliveries[0]).toMatchObject({
      attempts: 3,
      reason: expect.stringMatching(/Failed after 3 attempts.*closed the connection/),
    });
  });

  test('a paused route gathers, and sends when it is resumed', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    await client.call('POST', `/routes/${route.id}/pause`);
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    await eventually(deliveries, page => page.counts.waiting === 1);
    expect(target.requests).toHaveLength(0);
    await client.call('POST', `/routes/${route.id}/live`);
    await settled(1);
    expect(target.requests).toHaveLength(1);
  });

  test('sending a delivered one again is a second delivery under a key of its own', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    const first = await settled(1);
    await client.call('POST', '/deliveries/resend', { ids: [first.deliveries[0]!.id], mapping: 'then' });
    await settled(2);
    expect(new Set(target.requests.map(each => each.headers['idempotency-key'])).size).toBe(2);
  });

  test('what a crash left as being sent is sent again under its key', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    target.answer = { status: 503, headers: { 'retry-after': '60' } };
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    const page = await eventually(deliveries, ({ deliveries: all }) => all[0]?.attempts === 1);
    target.answer = { status: 201 };
    const { store } = client.running.services;
    changeDelivery(store, page.deliveries[0]!.id, { state: 'sending' });
    const second = await startAfterCrash(client);
    await eventually(
      () => target.requests.length,
      n => n === 2,
    );
    expect(target.requests[1]!.headers['idempotency-key']).toBe(target.requests[0]!.headers['idempotency-key']);
    await second.stop();
  });

  test('the list is filtered and searched', async () => {
    const { route, intake } = await prepared();
    await client.call('POST', `/routes/${route.id}/live`);
    await send(intake, { submission_id: 'a', site: 'AB-07' });
    await send(intake, { submission_id: 'b', site: 'AB-99' });
    await settled(2);
    const found = async (query: string) =>
      (await client.call<DeliveryPage>('GET', `/deliveries?${query}`)).json.deliveries.map(each => each.about);
    expect(await found('state=held')).toEqual(['AB-99']);
    expect(await found('search=ab-07')).toEqual(['AB-07']);
    expect(await found('search=%25')).toEqual([]);
    expect(await found('search=AB-')).toEqual(['AB-99', 'AB-07']);
    expect(await found(`routeId=${route.id}&limit=1`)).toEqual(['AB-99']);
  });
});

test('the live stream tells of arrivals and deliveries', async () => {
  const { route, intake } = await prepared();
  await client.call('POST', `/routes/${route.id}/live`);
  const session = await fetch(`${client.url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ password: 'withy bridge at dawn' }),
  });
  const stream = await fetch(`${client.url}/api/live`, {
    headers: { cookie: session.headers.get('set-cookie')!.split(';')[0]! },
  });
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  let heard = '';
  await send(intake, { submission_id: 'z', site: 'AB-07' });
  while (!heard.includes('"state":"delivered"')) heard += (await reader.read()).value ?? '';
  expect(heard).toContain('event: beat');
  expect(heard).toContain(`"type":"arrival","intakeId":"${intake.id}"`);
  await reader.cancel();
});

describe('a form’s submissions as a file', () => {
  const exported = async (as: string) => {
    const session = await fetch(`${client.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ password: 'withy bridge at dawn' }),
    });
    const { form, intake } = await prepared();
    await send(intake, { submission_id: 'second', site: '=1+1', ph: '-7' });
    await eventually(
      async () => (await client.call<FormView>('GET', `/forms/${form.id}`)).json,
      each => each.submissions === 2,
    );
    const headers = { cookie: session.headers.get('set-cookie')!.split(';')[0]! };
    const answer = await fetch(`${client.url}/api/forms/${form.id}/export/${as}`, { headers });
    return { text: await answer.text(), header: (name: string) => answer.headers.get(name), status: answer.status };
  };

  test('CSV, with what a spreadsheet would run as a formula made text', async () => {
    const { text, header } = await exported('csv');
    expect(header('content-disposition')).toContain('.csv');
    const [head, first, second] = text.split('\r\n');
    expect(head).toBe('Received,Id,Site,Ph');
    expect(first).toMatch(/^\d{4}-.*,first,AB-07,"7,4"$/);
    expect(second).toMatch(/,second,"'=1\+1",-7$/);
  });
  test('NDJSON, one submission a line', async () => {
    const { text } = await exported('ndjson');
    expect(
      text
        .trim()
        .split('\n')
        .map(line => (JSON.parse(line) as { id: string }).id),
    ).toEqual(['first', 'second']);
  });
  test('JSON Schema', async () =>
    expect(JSON.parse((await exported('schema')).text)).toMatchObject({
      required: ['site', 'ph'],
      properties: { site: { title: 'Site' } },
    }));
  test('nothing else', async () => expect((await exported('constructor')).status).toBe(404));
});

test('what a target lists is shown before it is stored, and nothing of it is', async () => {
  const typed = { baseUrl: target.url, discoveryPath: '/list', reads: 'tables', token: 'secret-token-1' };
  target.answer = { status: 200, body: { tables: [] } };
  const listed = await client.call<ListingView>('POST', '/targets/listing', typed);
  expect(listed.json).toMatchObject({ fault: null, answer: { tables: [] } });
  expect(target.requests.at(-1)!.headers.authorization).toBe('Bearer secret-token-1');
  expect((await client.call<unknown[]>('GET', '/targets')).json).toEqual([]);
  expect((await client.call('POST', '/targets/listing', { ...typed, discoveryPath: 'list' })).status).toBe(422);
});
