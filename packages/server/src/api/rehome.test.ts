import type { DeliveryPage, IntakeView, RehomeView, RouteView, TargetView } from '@grammata/contract';
import { eventually } from '../testing/eventually';
import { post, withForm } from '../testing/forms';
import { withProofs, withRoute, type TestRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// A route is hung on another form, or another target: every line goes along, and what is live goes on until the draft does.

let client: Client;
let target: FakeTarget;
let other: FakeTarget;
let drawn: TestRoute;
let second: { intake: IntakeView; formId: string };
let ledger: TargetView;

beforeEach(async () => {
  [client, target, other] = [await startServer(), await startTarget(), await startTarget()];
  drawn = await withRoute(client, target, [
    { submission_id: 's1', site: 'AB-07', ph: 7.4, note: 'Foam' },
    { submission_id: 's2', site: 'AB-02', ph: 7.5, note: 'None' },
  ]);
  const answer = (at: number, site: string) => ({
    id: `t${at}`,
    answers: [
      { id: 'q1', label: 'Site', value: site },
      { id: 'q2', label: 'pH', value: 7.1 + at / 10 },
    ],
  });
  second = await withForm(client, [answer(0, 'AB-07'), answer(1, 'AB-02')], 'Others');
  other.tables = {
    tables: [
      {
        key: 'readings',
        title: 'Readings',
        columns: [
          { key: 'location', title: 'Site', type: 'option', options: ['AB-07', 'AB-02'] },
          { key: 'acidity', title: 'pH', type: 'number' },
        ],
      },
    ],
  };
  const add = { name: 'Ledger', baseUrl: other.url, discoveryPath: '/tables' };
  ledger = (await client.call<TargetView>('POST', '/targets', add)).json;
});
afterEach(async () => {
  for (const each of [client, target, other]) await each.stop();
});

const ask = async (more: object) =>
  client.call<RehomeView>('POST', `/routes/${drawn.route.id}/rehome`, {
    what: 'form',
    was: '',
    now: second.formId,
    ...more,
  });
const take = async (more: object) =>
  client.call<RouteView>('POST', `/routes/${drawn.route.id}/rehome/take`, {
    what: 'form',
    was: '',
    now: second.formId,
    ...more,
  });
const sourcesOf = ({ draft }: Pick<RouteView, 'draft'>) => draft.calls[0]!.lines.map(each => [each.to, each.source]);
const toLedger = () => ({ what: 'target', was: drawn.register.id, now: ledger.id });
const posted = ({ requests }: FakeTarget) => requests.filter(each => each.method === 'POST').map(each => each.body);

test('another form: what is asked alike is taken, it is tried on what came there, and nothing is stored by asking', async () => {
  const { json } = await ask({});
  expect(json.moves.map(({ was, now }) => [was, now])).toEqual([
    ['site', 'q1'],
    ['ph', 'q2'],
  ]);
  expect(json.samples).toEqual({ looked: 2, held: 0, reasons: [] });
  expect(json.offered.map(each => each.key)).toEqual(expect.arrayContaining(['q1', 'q2']));
  const chosen = (await ask({ chosen: { ph: '' } })).json;
  expect(chosen.moves[1]).toMatchObject({ was: 'ph', now: null });
  const { json: route } = await client.call<RouteView>('GET', `/routes/${drawn.route.id}`);
  expect(route).toMatchObject({ formId: drawn.formId, revision: drawn.route.revision });
});

test('what is live takes its form until the draft goes live, and then the other', async () => {
  await client.call('POST', `/routes/${drawn.route.id}/live`);
  const { json } = await take({ revision: drawn.route.revision });
  expect(json).toMatchObject({ formId: second.formId, changed: true, state: 'live' });
  const deliveries = async () =>
    (await client.call<DeliveryPage>('GET', `/deliveries?route=${drawn.route.id}`)).json.deliveries;
  await post(client, drawn.intake, { submission_id: 's3', site: 'AB-07', ph: 6.9, note: '' });
  await eventually(deliveries, all => all.length === 1 && all[0]!.state === 'delivered');
  const live = (await client.call<RouteView>('POST', `/routes/${drawn.route.id}/live`)).json;
  expect(live).toMatchObject({ version: 2, changed: false });
  await post(client, drawn.intake, { submission_id: 's4', site: 'AB-07', ph: 6.8, note: '' });
  await post(client, second.intake, {
    id: 't9',
    answers: [
      { id: 'q1', label: 'Site', value: 'AB-02' },
      { id: 'q2', label: 'pH', value: 6.7 },
    ],
  });
  await eventually(deliveries, all => all.length === 2 && all.every(each => each.state === 'delivered'));
  expect(posted(target).map(each => (JSON.parse(each) as { values: { ph: number } }).values.ph)).toEqual([6.9, 6.7]);
  // Neither intake can be removed while a route takes what comes there; the one that it left can.
  expect((await client.call('DELETE', `/intakes/${second.intake.id}`)).status).toBe(409);
  expect((await client.call('DELETE', `/intakes/${drawn.intake.id}`)).status).toBe(204);
  expect((await client.call<RouteView>('GET', `/routes/${drawn.route.id}`)).json.state).toBe('live');
});

test('another target: each line goes into the field that means the same', async () => {
  await withProofs(client, drawn.route);
  const { json } = await ask(toLedger());
  expect(json.moves.map(({ what, was, now }) => [what, was, now])).toEqual([
    ['operation', 'create:samples', 'create:readings'],
    ['field', 'site', 'location'],
    ['field', 'ph', 'acidity'],
  ]);
  expect(json).toMatchObject({ samples: { looked: 2, held: 0 }, proofs: expect.any(Number) });
  const taken = (await take({ ...toLedger(), revision: json.revision })).json;
  expect(sourcesOf(taken)).toEqual([
    ['location', { from: 'field', field: 'site' }],
    ['acidity', { from: 'field', field: 'ph' }],
  ]);
  expect((await client.call('DELETE', `/targets/${drawn.register.id}`)).status).toBe(204);
  const proofs = (await client.call<{ id: string }[]>('GET', `/routes/${drawn.route.id}/proofs`)).json;
  await client.call('POST', `/routes/${drawn.route.id}/proofs/accept`, { ids: proofs.map(each => each.id) });
  expect((await client.call('POST', `/routes/${drawn.route.id}/live`)).status).toBe(200);
  await post(client, drawn.intake, { submission_id: 's5', site: 'AB-07', ph: 6.9, note: '' });
  await eventually(
    () => Promise.resolve(posted(other)),
    all => all.length === 1,
  );
  expect(JSON.parse(posted(other)[0]!)).toEqual({ values: { location: 'AB-07', acidity: 6.9 } });
});

test('a target that something live goes to can’t be removed, though the draft has left it', async () => {
  await client.call('POST', `/routes/${drawn.route.id}/live`);
  await take({ ...toLedger(), revision: drawn.route.revision });
  const refused = await client.call<{ title: string }>('DELETE', `/targets/${drawn.register.id}`);
  expect([refused.status, refused.json.title]).toEqual([409, expect.stringContaining('delivers to this target')]);
});

test.each<[string, () => object, string]>([
  ['the form that it has', () => ({ now: drawn.formId }), 'now'],
  ['a form that is not there', () => ({ now: 'none' }), 'now'],
  ['a target that it does not go to', () => ({ what: 'target', was: 'none', now: ledger.id }), 'was'],
  ['the target that it has', () => ({ what: 'target', was: ledger.id, now: ledger.id }), 'now'],
  ['a target that is not there', () => ({ what: 'target', was: drawn.register.id, now: 'none' }), 'now'],
])('%s is refused', async (_, more, field) => {
  const { status, json } = await client.call<{ errors: { field: string }[] }>(
    'POST',
    `/routes/${drawn.route.id}/rehome`,
    { what: 'form', was: '', ...more() },
  );
  expect([status, json.errors[0]!.field]).toEqual([422, field]);
});

test('an edit meanwhile is not written over', async () => {
  const taken = await take({ revision: drawn.route.revision - 1 });
  expect(taken.status).toBe(409);
  const { json } = await client.call<RouteView>('GET', `/routes/${drawn.route.id}`);
  expect(json).toMatchObject({ formId: drawn.formId, draft: drawn.route.draft });
});
