import type { IntakeView, RouteView, TargetView } from '@grammata/contract';
import { draftOf } from '../testing/draftOf';
import { withRoute, type TestRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';
import { freeName } from './names';

// In a folder of files things are told apart by their names: no two of a kind have the same.

let client: Client;
let target: FakeTarget;
let drawn: TestRoute;
beforeAll(async () => {
  [client, target] = [await startServer(), await startTarget()];
  drawn = await withRoute(client, target, [{ submission_id: 's0', site: 'AB-07', ph: 7.4 }]);
});
afterAll(async () => {
  await client.stop();
  await target.stop();
});
const fault = (what: string) => ({ status: 422, json: { errors: [{ field: 'name', message: `Another ${what} has this name. Choose another.` }] } }); // prettier-ignore

test('an intake and a target are refused a name that another has, and keep their own', async () => {
  expect(await client.call('POST', '/intakes', { name: 'Reports ' })).toMatchObject(fault('intake'));
  const other = (await client.call<IntakeView>('POST', '/intakes', { name: 'Others' })).json;
  expect(await client.call('PATCH', `/intakes/${other.id}`, { name: 'Reports' })).toMatchObject(fault('intake'));
  expect((await client.call('PATCH', `/intakes/${other.id}`, { name: 'Others', keepDays: 9 })).status).toBe(200);
  const add = { name: 'Register', baseUrl: target.url, discoveryPath: '/tables' };
  expect(await client.call('POST', '/targets', add)).toMatchObject(fault('target'));
  const second = (await client.call<TargetView>('POST', '/targets', { ...add, name: 'Second' })).json;
  expect(await client.call('PATCH', `/targets/${second.id}`, { name: 'Register' })).toMatchObject(fault('target'));
  expect((await client.call('PATCH', `/targets/${second.id}`, { discoveryPath: '/tables' })).status).toBe(200);
});

test('a route that is drawn gets a number, and is not renamed to what another is called', async () => {
  const body = { name: 'Reports', formId: drawn.formId, targetId: drawn.register.id, operationId: 'create:samples' };
  const second = (await client.call<RouteView>('POST', '/routes', body)).json;
  expect(second.name).toBe('Reports 2');
  second.draft.name = 'Reports';
  expect(await client.call('PUT', `/routes/${second.id}/draft`, draftOf(second))).toMatchObject(fault('route'));
  second.draft.name = 'Reports of others';
  expect((await client.call('PUT', `/routes/${second.id}/draft`, draftOf(second))).status).toBe(200);
});

test.each([
  ['R', [], 'R'],
  ['R', ['R', 'R 2'], 'R 3'],
  ['R', ['R '], 'R 2'],
])('%s beside %j is %s', (name, others, free) => expect(freeName(name, others)).toBe(free));
