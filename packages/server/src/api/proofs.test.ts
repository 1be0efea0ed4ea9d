import type { DeliveryPage, ProofView, ProposedProofs, RouteView, TargetView } from '@grammata/contract';
import { draftOf } from '../testing/draftOf';
import { withForm } from '../testing/forms';
import { eventually, startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

let client: Client;
let target: FakeTarget;
let route: RouteView;

const at = (more = '') => `/routes/${route.id}/proofs${more}`;
const proofs = async () => (await client.call<ProofView[]>('GET', at())).json;
const store = () => client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
const reread = async () => (route = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json);
const goLive = () => client.call<{ title: string }>('POST', `/routes/${route.id}/live`);

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  const { formId } = await withForm(client, [
    { submission_id: 's1', site: 'AB-07', ph: 7.4 },
    { submission_id: 's2', site: 'AB-02', ph: 7.4 },
    { submission_id: 's3', site: 'AB-02', ph: 6.3 },
    { submission_id: 's4', site: 'AB-99', ph: 7.2 },
  ]);
  const made = (
    await client.call<TargetView>('POST', '/targets', { name: 'T', baseUrl: target.url, discoveryPath: '/tables' })
  ).json;
  route = (
    await client.call<RouteView>('POST', '/routes', {
      name: 'R',
      formId,
      targetId: made.id,
      operationId: 'create:samples',
    })
  ).json;
  const line = (to: string) => route.draft.calls[0]!.lines.find(each => each.to === to)!;
  line('site').source = { from: 'field', field: 'site' };
  line('ph').source = { from: 'field', field: 'ph' };
  await store();
  await reread();
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

test('samples are proposed, approved, and held against what the draft gives; what differs keeps it from going live until it is accepted', async () => {
  const { json: proposed } = await client.call<ProposedProofs>('POST', at('/propose'));
  expect(proposed.looked).toBe(4);
  expect(proposed.samples.flatMap(each => each.shows)).toEqual(
    expect.arrayContaining(['it goes', 'site: fine', 'site: problem, target.option']),
  );
  const ids = proposed.samples.map(each => each.sampleId);
  const { status, json: approved } = await client.call<ProofView[]>('POST', at(), { sampleIds: ids });
  expect([status, approved.length]).toEqual([201, ids.length]);
  expect(approved.map(each => each.approved.held.length > 0 || each.approved.requests.length === 1)).not.toContain(
    false,
  );
  expect((await client.call('POST', at(), { sampleIds: ids })).status).toBe(422);
  expect((await goLive()).status).toBe(200);

  // A step that changes what is sent: the route does not go live with it unseen.
  await reread();
  const line = route.draft.calls[0]!.lines.find(each => each.to === 'ph')!;
  line.cleaning = [{ id: 'number.round', params: { places: 0, way: 'nearest' } }];
  await store();
  const refused = await goLive();
  expect([refused.status, refused.json.title]).toEqual([
    409,
    expect.stringMatching(/^\d of \d proofs? differs? from what was approved/),
  ]);
  await client.call('POST', at('/accept'), { ids: approved.map(each => each.id) });
  expect((await goLive()).status).toBe(200);
  const now = await proofs();
  expect(now.map(each => each.id)).toEqual(approved.map(each => each.id));
  expect(JSON.stringify(now.map(each => each.approved.requests.map(request => request.body)))).not.toMatch(/\d\.\d/);
});

test('what a target really answered is what a proof is played with', async () => {
  await goLive();
  await client.call('POST', `/routes/${route.id}/recorded`, { selection: {}, again: false });
  await eventually(
    async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json.counts,
    counts => counts.delivered === 3,
  );
  const { json: proposed } = await client.call<ProposedProofs>('POST', at('/propose'));
  const all = (await client.call<ProofView[]>('POST', at(), { sampleIds: proposed.samples.map(each => each.sampleId) }))
    .json;
  const answered = all.filter(each => each.approved.held.length === 0);
  expect(answered.length).toBeGreaterThan(0);
  await eventually(
    () => Promise.resolve(answered.map(each => Object.keys(each.answers))),
    keys => keys.every(each => each.length === 1 && each[0]!.endsWith(' create')),
  );
});

test('a proof is loosened and removed; what is not there is told', async () => {
  const { json: proposed } = await client.call<ProposedProofs>('POST', at('/propose'));
  const [first] = (await client.call<ProofView[]>('POST', at(), { sampleIds: [proposed.samples[0]!.sampleId] })).json;
  const callId = route.draft.calls[0]!.id;
  const loose = [{ callId, pointer: '/values/ph', pattern: 'number' }];
  const loosened = await client.call<ProofView[]>('PATCH', at(`/${first!.id}`), { loose });
  expect(loosened.json[0]!.loose).toEqual(loose);
  const accept = () => client.call<ProofView[]>('POST', at('/accept'), { ids: [first!.id] });
  await accept();
  expect((await accept()).json[0]!.loose).toEqual(loose);
  expect(
    (await client.call('PATCH', at(`/${first!.id}`), { loose: [{ callId, pointer: 'x', pattern: 'number' }] })).status,
  ).toBe(422);
  expect((await client.call('PATCH', at('/nobody'), { loose })).status).toBe(404);
  expect((await client.call<ProofView[]>('POST', at('/remove'), { ids: [first!.id] })).json).toEqual([]);
  expect((await client.call('POST', at('/remove'), { ids: [first!.id] })).status).toBe(404);
  expect((await client.call('POST', at(), { sampleIds: ['nobody'] })).status).toBe(404);
  expect((await client.call('POST', at(), { sampleIds: [] })).status).toBe(422);
});
