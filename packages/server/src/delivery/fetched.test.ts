import {
  OperationFieldInput,
  OperationInput,
  type DeliveryPage,
  type DeliveryView,
  type IntakeView,
  type OperationView,
  type RouteView,
  type TargetView,
} from '@grammata/contract';
import { json, startAnswering, type Answering } from '../testing/answering';
import { draftOf } from '../testing/draftOf';
import { post, withForm } from '../testing/forms';
import { eventually, startServer, type Client } from '../testing/running';

// A submission says which file it means; another system has it, and gives it to whoever shows who asks.

let client: Client;
let desk: Answering;
let store: Answering;
let intake: IntakeView;
let route: RouteView;

const send = (data: object) => post(client, intake, data);
const field = (key: string, more: Partial<OperationFieldInput> = {}) => ({
  ...new OperationFieldInput(),
  key,
  label: key,
  pointer: `/${key}`,
  ...more,
});
const target = async (name: string, baseUrl: string) =>
  (
    await client.call<TargetView>('POST', '/targets', {
      name,
      baseUrl,
      reads: 'example',
      auth: { kind: 'bearer' },
      token: `token-of-${name}`,
    })
  ).json;
const operation = async (id: string, more: Partial<OperationInput>) =>
  (await client.call<OperationView>('PUT', `/targets/${id}/operation`, { ...new OperationInput(), ...more })).json
    .operation;
const states = async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json.deliveries;

beforeEach(async () => {
  desk = await startAnswering((_heard, response) => json(response, 201, { id: 7 }));
  store = await startAnswering(({ url, headers }, response) => {
    if (headers.authorization !== 'Bearer token-of-store') return json(response, 401, {});
    if (!url.startsWith('/files/4711')) return json(response, 404, {});
    response
      .writeHead(200, { 'content-type': 'text/plain', 'content-disposition': 'attachment; filename="outfall.txt"' })
      .end('what it looks like');
  });
  client = await startServer();
  const form = await withForm(client, [{ site: 'AB-01', photo: '4711' }]);
  ({ intake } = form);
  const [to, from] = [await target('desk', desk.url), await target('store', store.url)];
  const open = await operation(to.id, { label: 'Open', path: '/tickets', body: 'json', fields: [field('site')] });
  const attach = await operation(to.id, {
    label: 'Attach',
    path: '/files',
    body: 'multipart',
    fields: [field('file', { type: 'file' }), field('site')],
  });
  route = (
    await client.call<RouteView>('POST', '/routes', {
      name: 'R',
      formId: form.formId,
      targetId: to.id,
      operationId: open.id,
    })
  ).json;
  const [call] = route.draft.calls;
  call!.lines[0]!.source = { from: 'field', field: 'site' };
  const lines = ['file', 'site'].map(to => ({
    ...call!.lines[0]!,
    id: `attach-${to}`,
    to,
    source: { from: 'field' as const, field: to === 'file' ? 'photo' : 'site' },
    cleaning: to === 'file' ? [{ id: 'files.fetch', params: { from: from.id, path: '/files/{value}', name: '' } }] : [],
  }));
  route.draft.calls.push({ id: 'attach', targetId: to.id, operationId: attach.id, lines });
});
afterEach(async () => {
  await client.stop();
  await Promise.all([desk.stop(), store.stop()]);
});

const goLive = async () => {
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  expect((await client.call('POST', `/routes/${route.id}/live`)).status).toBe(200);
};
const settled = (state: string, site: string) =>
  eventually(states, all => all.some(each => each.state === state && each.about.includes(site)));

test('the file is had from where it is, under its own name, and goes along; each is shown its own credentials', async () => {
  await goLive();
  await send({ site: 'AB-02', photo: '4711' });
  await settled('delivered', 'AB-02');
  const sent = desk.heard.find(each => each.url === '/files')!;
  expect(sent.body.toString()).toContain('filename="outfall.txt"');
  expect(sent.body.toString()).toContain('what it looks like');
  expect(desk.heard.every(each => each.headers.authorization === 'Bearer token-of-desk')).toBe(true);
});

test('one that can’t be had holds the delivery before its first call', async () => {
  await goLive();
  await send({ site: 'AB-03', photo: '9999' });
  await settled('held', 'AB-03');
  const [held] = await states();
  expect(held!.reason).toMatch(/A file can’t be downloaded: its URL no longer exists \(404\)/);
  expect(desk.heard.filter(each => each.method === 'POST')).toEqual([]);
});

test('where its line says so, the rest goes without it, and that is told', async () => {
  route.draft.calls[1]!.lines[0]!.whenProblem = 'leaveOut';
  await goLive();
  await send({ site: 'AB-04', photo: '9999' });
  await settled('delivered', 'AB-04');
  const sent = desk.heard.find(each => each.url === '/files')!;
  expect(sent.body.toString()).toContain('AB-04');
  expect(sent.body.toString()).not.toContain('filename=');
  const [row] = await states();
  const page = (await client.call<DeliveryView>('GET', `/deliveries/${row!.id}`)).json;
  expect(page.attemptList.map(each => each.message).join(' ')).toMatch(
    /Sent without a file: A file can’t be downloaded/,
  );
});
