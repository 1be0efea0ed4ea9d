import type { ChangesView, ChangeView, DeliveryPage, RouteView, TargetView } from '@grammata/contract';
import { registering, reporting } from '@grammata/core/testing';
import { draftOf } from '../testing/draftOf';
import { eventually } from '../testing/eventually';
import { post } from '../testing/forms';
import { withRoute, type TestRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';
import { placesIn } from './answerWatch';
import { keepSchemeChange } from './targetWatch';

// What a target answers is held against what it answered before: nobody has to wait for a person to notice.

test('of answers is looked at what routes take out of them, and what the target says is there beside what it was sent', () => {
  const operation = {
    ...registering,
    answer: ['', '/id', '/note', '/links'].map(pointer => ({ pointer, label: pointer, type: 'text' as const })),
  };
  const definition = {
    ...reporting,
    calls: reporting.calls.map(each => ({ ...each, identity: { found: '/id', made: '/links' } })),
  };
  expect([...placesIn({ id: 't', operations: [operation] }, [definition])]).toEqual([
    [
      'POST /r',
      [
        { place: '/links', isUsed: true },
        { place: '/id', isUsed: false },
      ],
    ],
  ]);
  expect([...placesIn({ id: 'other', operations: [operation] }, [definition])]).toEqual([]);
});

let client: Client;
let target: FakeTarget;
let drawn: TestRoute;
let sent = 0;

const changes = async () => (await client.call<ChangesView>('GET', '/changes')).json;
const heard = async (change: ChangeView['change']) =>
  (await eventually(changes, view => view.changes.some(each => each.change === change))).changes.find(
    each => each.change === change,
  )!;
const done = async () => (await client.call<DeliveryPage>('GET', `/deliveries?route=${drawn.route.id}`)).json;
/** Sends so many, and waits until all of them are over, or wait again. */
async function deliver(count: number): Promise<void> {
  const before = target.requests.length;
  for (let at = 0; at < count; at++) {
    sent += 1;
    await post(client, drawn.intake, { submission_id: `s${sent}`, site: 'AB-07', ph: 6 + (sent % 30) / 10 });
  }
  await eventually(
    done,
    ({ deliveries, total }) =>
      total === sent &&
      target.requests.length >= before + count &&
      deliveries.every(each => each.state !== 'sending' && each.attempts > 0),
  );
}

beforeEach(async () => {
  sent = 0;
  [client, target] = [await startServer(), await startTarget()];
  drawn = await withRoute(client, target, [{ submission_id: 's0', site: 'AB-07', ph: 7.4 }]);
  const { route } = drawn;
  // What the target gives a record is counted on.
  route.draft.calls[0]!.identity = { found: '', made: '/no' };
  await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route));
  expect((await client.call('POST', `/routes/${route.id}/live`)).status).toBe(200);
  await deliver(6);
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

test('credentials that are not taken any more, until something is delivered again', async () => {
  target.answer = { status: 401, body: { title: 'Expired' } };
  await deliver(1);
  expect(await heard('credentials')).toMatchObject({
    subject: 'target',
    subjectName: 'Register',
    operation: null,
    now: 401,
    touch: 'breaks',
    touches: [{ routeId: drawn.route.id, touch: 'breaks' }],
    state: 'open',
  });
  target.answer = { status: 201, body: { no: 1 } };
  await client.call('POST', `/targets/${drawn.register.id}/probe`);
  await eventually(changes, view => view.open === 0);
  expect((await changes()).changes[0]).toMatchObject({ change: 'credentials', state: 'settled', by: 'itself' });
});

test('credentials that work again when they are tested are over before anything is sent', async () => {
  target.answer = { status: 401, body: { title: 'Expired' } };
  await deliver(1);
  const { store } = client.running.services;
  const isOver = () => store.changes.openCount() === 0;
  await heard('credentials');
  target.refusesReading = true;
  await client.call('POST', `/targets/${drawn.register.id}/read`);
  expect(isOver()).toBe(false);
  target.refusesReading = false;
  await client.call('POST', `/targets/${drawn.register.id}/read`);
  expect(isOver()).toBe(false);
  target.wants = 'Bearer a secret token';
  await client.call('POST', `/targets/${drawn.register.id}/read`);
  expect(isOver()).toBe(true);
});

test('a refusal of a new sort, beside the line that it is about; there is no repair of it', async () => {
  target.answer = { status: 422, body: { errors: [{ field: 'site', message: '“AB-07” is closed for the winter' }] } };
  await deliver(2);
  const change = await heard('refused');
  expect(change).toMatchObject({
    operation: expect.stringMatching(/^POST /),
    field: 'site',
    now: '“AB-07” is closed for the winter',
    touch: 'breaks',
    touches: [{ uses: [{ to: 'site' }] }],
  });
  const repair = await client.call('POST', `/changes/${change.id}/repair`, { routeId: drawn.route.id });
  expect(repair.json).toMatchObject({ ways: [], repair: null, isDrafted: false });
  // Another value is refused for the same reason: nothing new.
  target.answer = { status: 422, body: { errors: [{ field: 'site', message: '“AB-02” is closed for the winter' }] } };
  await deliver(2);
  target.answer = { status: 422, body: { errors: [{ field: 'ph', message: 'must be below 9' }] } };
  await deliver(2);
  await eventually(changes, view => view.changes.some(each => each.field === 'ph'));
  expect((await changes()).changes.map(each => each.field)).toEqual(['ph', 'site']);
});

test('what was refused before an operation moved is no news under its other path', async () => {
  target.answer = { status: 422, body: { errors: [{ field: 'site', message: '“AB-07” is closed for the winter' }] } };
  await deliver(2);
  await heard('refused');
  const { store } = client.running.services;
  const { operations } = store.targets.byId(drawn.register.id)!;
  store.targets.update(drawn.register.id, {
    operations: operations.map(each => ({ ...each, path: `/v2${each.path}` })),
  });
  await deliver(2);
  target.answer = { status: 422, body: { errors: [{ field: 'ph', message: 'must be below 9' }] } };
  await deliver(2);
  await eventually(changes, view => view.changes.some(each => each.field === 'ph'));
  expect((await changes()).changes.map(each => each.field)).toEqual(['ph', 'site']);
});

test('the same refusal of another operation, after one that is not offered any more, is news', async () => {
  const { store } = client.running.services;
  const at = Date.now() - 3_600_000;
  store.changes.keep([
    {
      subject: 'target',
      subjectId: drawn.register.id,
      what: { change: 'refused', operation: 'POST /gone', field: 'site', now: '“AB-07” is closed for the winter' },
      before: null,
      after: null,
      at,
    },
  ]);
  const [old] = store.changes.of('target', drawn.register.id);
  store.changes.settle(old!.id, 'settled', 'Rowan');
  target.answer = { status: 422, body: { errors: [{ field: 'site', message: '“AB-07” is closed for the winter' }] } };
  await eventually(
    () => Promise.resolve(Date.now()),
    time => time > old!.lastAt,
  );
  await deliver(2);
  await eventually(changes, view => view.open === 1);
});

test('a target that refuses for a reason of its own is read again at once, and what it changed is told', async () => {
  const { store } = client.running.services;
  const tables = structuredClone(target.tables);
  tables.tables[0]!.columns[0]!.options = ['AB-02', 'AB-09'];
  target.tables = tables;
  target.answer = { status: 422, body: { errors: [{ field: 'site', message: '“AB-07” is not on the list' }] } };
  store.targets.update(drawn.register.id, { readAt: store.targets.byId(drawn.register.id)!.readAt! - 120_000 });
  await deliver(1);
  const told = await eventually(changes, view => view.changes.length > 0);
  expect(told.changes[0]).toMatchObject({
    subject: 'target',
    change: expect.stringMatching(/^option/),
    field: '/values/site',
  });
});

test('a document that asks for other credentials than it did is told, where the target has those', async () => {
  const { running } = client;
  const row = running.services.store.targets.byId(drawn.register.id)!;
  const scheme = { kind: 'header' as const, name: 'X-Key' };
  const asked = (before: typeof row.asksFor, after: typeof row.asksFor) =>
    keepSchemeChange(running.services, { ...row, auth: { kind: 'bearer' }, asksFor: before }, { asksFor: after });
  // Never asked for, not asked for now, or still among what is asked for.
  asked(null, [scheme]);
  asked([{ kind: 'bearer' }], []);
  asked([{ kind: 'bearer' }], [scheme, { kind: 'bearer' }]);
  expect((await changes()).changes).toEqual([]);
  asked([{ kind: 'bearer' }], [scheme]);
  expect(await heard('scheme')).toMatchObject({
    was: 'a bearer token',
    now: 'an API key in the header X-Key',
    touch: 'breaks',
    touches: [{ routeId: drawn.route.id, touch: 'breaks' }],
  });
  // It is over once the target has what is asked for.
  keepSchemeChange(running.services, { ...row, auth: scheme, asksFor: [scheme] }, { asksFor: [scheme] });
  expect((await changes()).changes[0]).toMatchObject({ change: 'scheme', state: 'settled', by: 'itself' });
});

test('what is counted on in the answer is not there any more', async () => {
  target.answer = { status: 201, body: { record: { no: 1 } } };
  await deliver(2);
  expect(await heard('answer')).toMatchObject({ field: '/no', was: 'number', now: null, touch: 'breaks' });
});

test('what nobody counts on may come and go, and refusals that pass are no change', async () => {
  target.answer = { status: 201, body: { no: 1, extra: true } };
  await deliver(3);
  target.answer = { status: 201, body: { no: 1 } };
  await deliver(3);
  // It was looked at: what comes after it is told.
  target.answer = { status: 401, body: {} };
  await deliver(1);
  await heard('credentials');
  expect((await changes()).changes.map(each => each.change)).toEqual(['credentials']);
});

test('reading a target that does not take its credentials any more tells it, too, and once', async () => {
  const read = () => client.call<{ target: TargetView }>('POST', `/targets/${drawn.register.id}/read`);
  target.refusesReading = true;
  expect((await read()).status).toBe(200);
  await read();
  expect((await changes()).changes).toMatchObject([{ change: 'credentials', operation: null, now: 401 }]);
});
