import type {
  DeliveryPage,
  IntakeView,
  RecordedPreview,
  RouteView,
  SelectionInput,
  TargetView,
  WorkView,
} from '@grammata/contract';
import { draftOf } from '../testing/draftOf';
import { eventually, startServer, startTarget, type Client, type FakeTarget } from '../testing/running';
import { changeDelivery } from '../testing/deliveries';

let client: Client;
let target: FakeTarget;
let intake: IntakeView;
let route: RouteView;

const post = (id: string, site: string) =>
  fetch(`${client.url}${new URL(intake.address).pathname}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ submission_id: id, site, ph: 7 }),
  });
const arrivals = async () =>
  (
    await client.call<{ id: string; formId: string | null; submissions: number }[]>(
      'GET',
      `/intakes/${intake.id}/arrivals`,
    )
  ).json;
const page = async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json;
const settled = (count: number) =>
  eventually(
    page,
    ({ counts }) => counts.waiting + counts.sending === 0 && counts.delivered + counts.held + counts.dead === count,
  );
const preview = async (selection: SelectionInput = {}) =>
  (await client.call<RecordedPreview>('POST', `/routes/${route.id}/recorded/preview`, selection)).json;
const sendAll = (selection: SelectionInput = {}, again = false) =>
  client.call<{ id: string }>('POST', `/routes/${route.id}/recorded`, { selection, again });
const worked = async (id: string) =>
  eventually(
    async () => (await client.call<WorkView[]>('GET', `/work?route=${route.id}`)).json.find(each => each.id === id)!,
    work => work?.state !== 'running',
  );
const sites = () => target.requests.map(each => (JSON.parse(each.body) as { values: { site: string } }).values.site);

/** Five that are recorded before the route is live; the third has a site that the target does not list. */
beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  intake = (await client.call<IntakeView>('POST', '/intakes', { name: 'Reports' })).json;
  for (const [at, site] of ['AB-07', 'AB-02', 'AB-99', 'AB-07', 'AB-02'].entries()) await post(`s${at}`, site);
  const [seen] = await eventually(arrivals, list => list.length === 5 && list.every(each => each.formId !== null));
  const made = await client.call<TargetView>('POST', '/targets', {
    name: 'T',
    baseUrl: target.url,
    discoveryPath: '/tables',
  });
  const body = { name: 'R', formId: seen!.formId, targetId: made.json.id, operationId: 'create:samples' };
  route = (await client.call<RouteView>('POST', '/routes', body)).json;
  route.draft.calls[0]!.lines.find(each => each.to === 'site')!.source = { from: 'field', field: 'site' };
  route.draft.condition = { none: [{ field: 'ph', is: 'above', values: ['9'], not: false }] };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  await client.call('POST', `/routes/${route.id}/live`);
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

test('what is recorded is sent when a person says so: oldest first, and nothing twice', async () => {
  expect((await page()).total).toBe(0);
  expect(await preview()).toMatchObject({ total: 5, looked: 5, fresh: 5, held: 1, delivered: 0, leftOut: 0 });
  const { json } = await sendAll();
  expect(await worked(json.id)).toMatchObject({
    state: 'done',
    done: 5,
    summary: '5 queued.',
  });
  await settled(5);
  expect([...sites()].sort()).toEqual(['AB-02', 'AB-02', 'AB-07', 'AB-07']);
  expect((await page()).deliveries.map(each => each.about.slice(0, 5)).reverse()).toEqual([
    'AB-07',
    'AB-02',
    'AB-99',
    'AB-07',
    'AB-02',
  ]);
  expect(await preview()).toMatchObject({ fresh: 0, delivered: 4, troubled: 1 });
  const second = await worked((await sendAll()).json.id);
  expect(second.summary).toBe('0 queued. 5 were already delivered.');
  expect(target.requests).toHaveLength(4);
});

test('why some would be held is told before', async () => {
  const { reasons } = await preview();
  expect(reasons).toEqual([{ message: 'site does not list “AB-99”.', count: 1 }]);
});

test('who insists sends a second time, under another key; what is in trouble is not touched by that', async () => {
  await worked((await sendAll()).json.id);
  await settled(5);
  await worked((await sendAll({}, true)).json.id);
  await settled(9);
  expect(new Set(target.requests.map(each => each.headers['idempotency-key'])).size).toBe(8);
});

test.each<[string, (all: { id: string }[], samples: { id: string }[]) => SelectionInput, number]>([
  ['a search', () => ({ search: 'AB-02' }), 2],
  ['a search with a sign that has a meaning elsewhere', () => ({ search: 'OR' }), 0],
  ['an upload or another arrival', all => ({ arrivalId: all[0]!.id }), 1],
  ['a selection', (_, samples) => ({ sampleIds: samples.slice(0, 3).map(each => each.id) }), 3],
  ['from a time on', () => ({ since: '2026-01-01T00:00:00Z' }), 5],
  ['before a time', () => ({ until: '2026-01-01T00:00:00Z' }), 0],
  ['both of a search and an arrival', all => ({ search: 'AB-07', arrivalId: all[0]!.id }), 0],
])('only %s', async (_, selection, count) => {
  const samples = (await client.call<{ samples: { id: string }[] }>('GET', `/forms/${route.formId}/samples`)).json
    .samples;
  const meant = selection(await arrivals(), samples);
  expect((await preview(meant)).total).toBe(count);
  const { status, json } = await sendAll(meant);
  expect(status).toBe(count === 0 ? 409 : 202);
  if (count === 0) return;
  await worked(json.id);
  expect((await settled(count)).total).toBe(count);
});

test('those that the condition leaves out stay where they are', async () => {
  route = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  route.draft.condition = { all: [{ field: 'site', is: 'equals', values: ['AB-02'], not: false }] };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  expect(await preview()).toMatchObject({ fresh: 5, leftOut: 0 });
  await client.call('POST', `/routes/${route.id}/live`);
  expect(await preview()).toMatchObject({ fresh: 2, leftOut: 3 });
  await worked((await sendAll()).json.id);
  await settled(2);
  expect(sites()).toEqual(['AB-02', 'AB-02']);
});

test('a route that is not live sends nothing of what is recorded', async () => {
  await client.call('POST', `/routes/${route.id}/pause`);
  expect((await sendAll()).status).toBe(409);
  expect((await client.call('POST', `/routes/${route.id}/recorded/preview`, {})).status).toBe(409);
  expect((await page()).total).toBe(0);
});

test('all that are alike are sent again, however many are seen, oldest first', async () => {
  target.answer = { status: 422, body: { title: 'No.' } };
  await worked((await sendAll({ search: 'AB-0' })).json.id);
  await settled(4);
  const [first] = target.requests.map(each => each.headers['idempotency-key']);
  target.answer = { status: 201, body: { no: 1 } };
  target.requests.length = 0;
  const filter = { state: 'dead', routeId: route.id, search: 'AB-07' };
  const { status, json } = await client.call<{ work: string }>('POST', '/deliveries/resend', {
    ids: [],
    filter,
    mapping: 'then',
  });
  expect(status).toBe(202);
  expect((await worked(json.work)).summary).toBe('2 of 2 queued again.');
  await eventually(page, ({ counts }) => counts.delivered === 2 && counts.dead === 2);
  expect(sites()).toEqual(['AB-07', 'AB-07']);
  expect(target.requests.map(each => each.headers['idempotency-key'])).toContain(first);
  const gone = await client.call('POST', '/deliveries/resend', { ids: [], filter, mapping: 'now' });
  expect(gone.status).toBe(409);
});

test('a version sends what its target offered when it went live; going live again takes over what is offered now', async () => {
  const { store } = client.running.services;
  const row = store.targets.byId(route.draft.calls[0]!.targetId)!;
  const [operation] = row.operations;
  const listed = {
    ...operation!,
    fields: operation!.fields.map(each => (each.options ? { ...each, options: ['AB-99'] } : each)),
  };
  store.targets.update(row.id, { operations: [listed] });
  const view = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  expect(view).toMatchObject({ changed: true, targetsChanged: ['T'] });
  expect(await preview()).toMatchObject({ held: 1 });
  await client.call('POST', `/routes/${route.id}/live`);
  expect((await client.call<RouteView>('GET', `/routes/${route.id}`)).json).toMatchObject({
    changed: false,
    version: 2,
  });
  expect(await preview()).toMatchObject({ held: 4 });
});

test('a target that fails time and again is parked, and says so; a person has it asked again', async () => {
  target.answer = { status: 503 };
  const targetId = route.draft.calls[0]!.targetId;
  await client.call('PATCH', `/targets/${targetId}`, { pace: { concurrency: 2, perSecond: null, parkAfter: 2 } });
  await sendAll({ search: 'AB-0' });
  const parked = await eventually(
    async () => (await client.call<TargetView>('GET', `/targets/${targetId}`)).json,
    each => each.parked !== null,
  );
  expect(parked).toMatchObject({
    pace: { concurrency: 2 },
    parked: { reason: 'Status 503.' },
  });
  // Two were under way at once; those that were turned away were not tried.
  await eventually(page, ({ counts }) => counts.waiting === 4);
  expect(target.requests.length).toBeLessThanOrEqual(3);
  expect((await page()).deliveries.filter(each => each.attempts === 0).length).toBeGreaterThan(0);
  // All of them wait for another time: asking it now is now all the same.
  const { store } = client.running.services;
  for (const { id } of (await page()).deliveries) changeDelivery(store, id, { nextAttemptAt: Date.now() + 3_600_000 });
  target.answer = { status: 201, body: { no: 1 } };
  await client.call('POST', `/targets/${targetId}/probe`);
  await eventually(
    async () => (await client.call<TargetView>('GET', `/targets/${targetId}`)).json.parked,
    each => each === null,
  );
  await eventually(page, ({ counts }) => counts.delivered === 4);
});

test.each([401, 403])(
  'credentials that are not good any more (%d) make no dead letters: all waits, and goes once they are given anew',
  async status => {
    target.answer = { status, body: { title: 'The key has expired.' } };
    const targetId = route.draft.calls[0]!.targetId;
    await client.call('PATCH', `/targets/${targetId}`, { pace: { concurrency: 2, perSecond: null, parkAfter: 2 } });
    await sendAll({ search: 'AB-0' });
    const parked = await eventually(
      async () => (await client.call<TargetView>('GET', `/targets/${targetId}`)).json.parked,
      each => each !== null,
    );
    expect(parked!.reason).toMatch(status === 401 ? /Credentials rejected/ : /Not allowed with these credentials/);
    await eventually(page, ({ counts }) => counts.waiting === 4);
    expect(target.requests.length).toBeLessThanOrEqual(3);
    target.answer = { status: 201, body: { no: 1 } };
    await client.call('PATCH', `/targets/${targetId}`, { token: 'another key', auth: { kind: 'bearer' } });
    await eventually(page, ({ counts }) => counts.delivered === 4);
  },
);

test('a parked target that somebody changes is asked as before', async () => {
  target.answer = { status: 503 };
  const targetId = route.draft.calls[0]!.targetId;
  const paced = (parkAfter: number) =>
    client.call('PATCH', `/targets/${targetId}`, { pace: { concurrency: 1, perSecond: null, parkAfter } });
  const parked = async () => (await client.call<TargetView>('GET', `/targets/${targetId}`)).json.parked;
  await paced(1);
  await sendAll({ search: 'AB-07' });
  await eventually(parked, each => each !== null);
  await paced(0);
  expect(await parked()).toBeNull();
});

test('a route is copied as a draft of its own, with a name that no other has', async () => {
  const copy = async () => (await client.call<RouteView>('POST', `/routes/${route.id}/copy`)).json;
  const first = await copy();
  expect([first.name, (await copy()).name]).toEqual(['R, copy', 'R, copy 2']);
  expect([first.state, first.version, first.formId]).toEqual(['draft', null, route.formId]);
  const { draft } = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  expect(first.draft).toEqual({ ...draft, name: 'R, copy' });
  expect((await client.call('POST', '/routes/none/copy')).status).toBe(404);
});
