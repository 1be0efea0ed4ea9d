import type { DeliveryPage, DeliveryView, IntakeView, RouteView, TargetView } from '@grammata/contract';
import { triesWithin } from '@grammata/core/perform';
import { draftOf } from '../testing/draftOf';
import { eventually, startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

let client: Client;
let target: FakeTarget;
let route: RouteView;
let intake: IntakeView;

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  intake = (await client.call<IntakeView>('POST', '/intakes', { name: 'Reports' })).json;
  await send('first');
  const [seen] = await eventually(
    async () => (await client.call<{ formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`)).json,
    list => Boolean(list[0]?.formId),
  );
  const made = (
    await client.call<TargetView>('POST', '/targets', { name: 'T', baseUrl: target.url, discoveryPath: '/tables' })
  ).json;
  const body = { name: 'R', formId: seen!.formId, targetId: made.id, operationId: 'create:samples' };
  route = (await client.call<RouteView>('POST', '/routes', body)).json;
  route.draft.calls[0]!.lines.find(each => each.to === 'site')!.source = { from: 'field', field: 'site' };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  await client.call('POST', `/routes/${route.id}/live`);
});
afterEach(async () => {
  jest.restoreAllMocks();
  await client.stop();
  await target.stop();
});

const send = (id: string) =>
  fetch(`${client.url}${new URL(intake.address).pathname}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ submission_id: id, site: 'AB-07', ph: 7 }),
  });
const page = async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json;
const waiting = () => eventually(page, each => each.counts.waiting > 0 && (each.deliveries[0]?.attempts ?? 0) > 0);

// RFC 9110 §10.2.3: seconds without a bound, or a date.
test.each(['99999999999999', '1e9', 'Fri, 31 Dec 9999 23:59:59 GMT', '-1', ''])(
  'a target that asks to wait for %j breaks no page, and is asked again within a day and a half',
  async retryAfter => {
    target.answer = { status: 503, headers: { 'retry-after': retryAfter } };
    await send('x');
    const [delivery] = (await waiting()).deliveries;
    const due = Date.parse(delivery!.nextAttemptAt!);
    expect(due).toBeLessThanOrEqual(Date.now() + 1.5 * 86_400_000 + 1000);
    expect((await client.call<DeliveryView>('GET', `/deliveries/${delivery!.id}`)).status).toBe(200);
  },
);

test('what fails in passing is kept for a day by default, and many tries are made', async () => {
  target.answer = { status: 503 };
  await send('x');
  const [delivery] = (await waiting()).deliveries;
  const view = (await client.call<DeliveryView>('GET', `/deliveries/${delivery!.id}`)).json;
  expect(view.hours).toBe(24);
  const given = Date.parse(view.tryUntil!) - Date.parse(view.attemptList[0]!.startedAt);
  expect(Math.abs(given - 86_400_000)).toBeLessThan(5000);
  expect(triesWithin(86_400_000).length).toBeGreaterThan(50);
});

test('a clock that is set back takes what waits along', async () => {
  target.answer = { status: 503, headers: { 'retry-after': '3000' } };
  await send('x');
  const before = Date.parse((await waiting()).deliveries[0]!.nextAttemptAt!) - Date.now();
  const real = Date.now.bind(Date);
  const back = 2 * 3_600_000;
  jest.spyOn(Date, 'now').mockImplementation(() => real() - back);
  client.running.services.deliveries.wake();
  // As long from now as it was, and not two hours longer.
  await eventually(
    async () => Date.parse((await page()).deliveries[0]!.nextAttemptAt!) - Date.now(),
    after => Math.abs(after - before) < 60_000,
  );
});

test('another request has another key, the same request the same one', async () => {
  target.answer = { status: 422 };
  await send('x');
  const [delivery] = (await eventually(page, each => each.counts.dead === 1)).deliveries;
  await client.call('POST', '/deliveries/resend', { ids: [delivery!.id], mapping: 'then' });
  await eventually(
    () => target.requests.length,
    n => n >= 2,
  );
  const [first, second] = target.requests.map(each => each.headers['idempotency-key']);
  expect(second).toBe(first);
  // A person changes the mapping and sends with today's: that is another request.
  route = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  route.draft.calls[0]!.lines.find(each => each.to === 'ph')!.source = { from: 'field', field: 'ph' };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  await client.call('POST', `/routes/${route.id}/live`);
  const known = target.requests.length;
  await client.call('POST', '/deliveries/resend', { ids: [delivery!.id], mapping: 'now' });
  const third = await eventually(() => target.requests.slice(known).find(each => each.body.includes('"ph"')), Boolean);
  expect(third!.headers['idempotency-key']).not.toBe(first);
});
