import {
  OperationFieldInput,
  OperationInput,
  type DocumentView,
  type OfferedView,
  type OperationView,
  type RouteView,
  type TargetView,
  type TestResultView,
} from '@grammata/contract';
import { draftOf } from '../testing/draftOf';
import { json, startAnswering, type Answering } from '../testing/answering';
import { withForm } from '../testing/forms';
import { eventually, startServer, type Client } from '../testing/running';

let client: Client;
let side: Answering;
/** What the target says of itself, changed by tests. */
let paths: Record<string, unknown>;

const body = (...names: string[]) => ({
  requestBody: {
    content: {
      'application/json': { schema: { properties: Object.fromEntries(names.map(name => [name, { type: 'string' }])) } },
    },
  },
});

beforeEach(async () => {
  paths = { '/v1/contacts': { post: body('email', 'name', 'phone') }, '/v1/tags': { post: body('title') } };
  side = await startAnswering(({ url, method, body: sent }, response) => {
    if (url.startsWith('/openapi.json')) return json(response, 200, { openapi: '3.1.0', paths });
    if (method === 'GET') return json(response, 200, { data: [{ id: 7, name: 'Ana' }] });
    return json(response, 201, { contact: { id: 7 }, got: JSON.parse(sent.toString() || 'null') as unknown });
  });
  client = await startServer();
});
afterEach(async () => {
  await client.stop();
  await side.stop();
});

const read = async (): Promise<TargetView> =>
  (
    await client.call<TargetView>('POST', '/targets', {
      name: 'Roster',
      baseUrl: side.url,
      reads: 'openapi',
      discoveryPath: '/openapi.json',
    })
  ).json;
const byHand = async (document: string | null = null, more = {}): Promise<TargetView> =>
  (
    await client.call<TargetView>('POST', '/targets', {
      name: 'Hand',
      baseUrl: side.url,
      reads: 'example',
      document,
      ...more,
    })
  ).json;
const at = (id: string, operation: string, more = '') =>
  `/targets/${id}/operation${more}?id=${encodeURIComponent(operation)}`;
const field = (key: string, more: Partial<OperationFieldInput> = {}) => ({
  ...new OperationFieldInput(),
  key,
  label: key,
  pointer: `/${key}`,
  ...more,
});
const operation = (more: Partial<OperationInput> = {}): OperationInput => ({
  ...new OperationInput(),
  label: 'Add a contact',
  path: '/contacts',
  body: 'json',
  fields: [field('email', { required: true })],
  ...more,
});
const heads = async (id: string) => (await client.call<TargetView>('GET', `/targets/${id}`)).json.operations;

test('a target is set by hand from nothing: added, changed, taken away', async () => {
  const made = await byHand();
  expect(made).toMatchObject({ operations: [], fault: null });
  const { status, json: added } = await client.call<OperationView>('PUT', `/targets/${made.id}/operation`, operation());
  expect([status, added.own, added.was]).toEqual([200, 'added', null]);
  const { id } = added.operation;
  const changed = await client.call<OperationView>(
    'PUT',
    `/targets/${made.id}/operation`,
    operation({ id, path: '/people' }),
  );
  expect(changed.json.operation).toMatchObject({ id, path: '/people' });
  // Reading the source again leaves it as it is.
  await client.call('POST', `/targets/${made.id}/read`);
  expect(await heads(made.id)).toEqual([
    { id, label: 'Add a contact', method: 'POST', path: '/people', body: 'json', fields: 1, own: 'added' },
  ]);
  expect((await client.call('DELETE', at(made.id, id))).status).toBe(204);
  expect(await heads(made.id)).toEqual([]);
});

test('what is wrong is said of the part it is wrong with, and nothing is stored', async () => {
  const { id } = await byHand();
  const put = (more: object) =>
    client.call<{ errors: { field: string; message: string }[] }>(
      'PUT',
      `/targets/${id}/operation`,
      operation(more as never),
    );
  const errors = async (more: object) => (await put(more)).json.errors.map(each => each.field);
  expect(await errors({ label: '' })).toEqual(['label']);
  expect(await errors({ path: '/a/{b}' })).toEqual(['path']);
  expect(await errors({ fields: [field('a'), field('a')] })).toEqual(['fields.1.key']);
  expect(await errors({ fields: [field('a', { pointer: 'a' })] })).toEqual(['fields.0.pointer']);
  expect(await errors({ fields: [field('a', { type: 'colour' as never })] })).toEqual(['fields.0.type']);
  expect((await put({ id: 'nobody' })).status).toBe(404);
  expect(await heads(id)).toEqual([]);
});

test('what people set of a document stays when it is read again; what it says can be taken again', async () => {
  const { id, operations } = await read();
  const first = operations.find(each => each.path === '/v1/contacts')!;
  const whole = (await client.call<OperationView>('GET', at(id, first.id))).json.operation;
  const set = { ...whole, fields: whole.fields.map(each => ({ ...each, required: true })) };
  expect((await client.call<OperationView>('PUT', `/targets/${id}/operation`, set)).json.own).toBe('changed');
  await client.call('POST', `/targets/${id}/read`);
  const kept = (await client.call<OperationView>('GET', at(id, first.id))).json;
  expect(kept.operation.fields.every(each => each.required)).toBe(true);
  expect(kept.was!.fields.some(each => each.required)).toBe(false);
  const back = await client.call<OperationView>('POST', at(id, first.id, '/source'));
  expect([back.json.own, back.json.operation]).toEqual([null, whole]);
  expect((await client.call('POST', at(id, first.id, '/source'))).status).toBe(404);
});

test('what people take away stays away, and is taken back', async () => {
  const { id, operations } = await read();
  const tags = operations.find(each => each.path === '/v1/tags')!;
  await client.call('DELETE', at(id, tags.id));
  await client.call('POST', `/targets/${id}/read`);
  const seen = (await client.call<TargetView>('GET', `/targets/${id}`)).json;
  expect(seen.operations.map(each => each.path)).toEqual(['/v1/contacts']);
  expect(seen.takenAway).toEqual([{ id: tags.id, label: tags.label }]);
  await client.call('POST', at(id, tags.id, '/source'));
  expect((await heads(id)).map(each => each.path).sort()).toEqual(['/v1/contacts', '/v1/tags']);
});

/** A route that goes to an operation. */
async function routeTo(targetId: string, operationId: string): Promise<RouteView> {
  const { formId } = await withForm(client, [{ email: 'a@example.org' }]);
  return (await client.call<RouteView>('POST', '/routes', { name: 'R', formId, targetId, operationId })).json;
}

test('when an operation moves, its calls move along', async () => {
  const { id, operations } = await read();
  const contacts = operations.find(each => each.path === '/v1/contacts')!;
  const route = await routeTo(id, contacts.id);
  paths = { '/v2/crm/contacts': { post: body('email', 'name', 'phone') }, '/v1/tags': { post: body('title') } };
  await client.call('POST', `/targets/${id}/read`);
  const seen = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  expect(seen.targets[0]!.operations.find(each => each.id === route.draft.calls[0]!.operationId)!.path).toBe(
    '/v2/crm/contacts',
  );
  expect((await client.call<OperationView>('GET', at(id, contacts.id))).json.usedBy).toEqual(['R']);
  const refused = await client.call<{ title: string }>('DELETE', at(id, contacts.id));
  expect([refused.status, refused.json.title]).toEqual([409, 'The route “R” uses it.']);
});

test('what is always the same goes along with what lines fill', async () => {
  const made = await byHand();
  const fields = [
    field('email', { required: true }),
    field('source', { fixed: 'form' }),
    field('v', { in: 'query', pointer: 'v', fixed: '2' }),
  ];
  const set = (await client.call<OperationView>('PUT', `/targets/${made.id}/operation`, operation({ fields }))).json
    .operation;
  const route = await routeTo(made.id, set.id);
  route.draft.calls[0]!.lines.find(each => each.to === 'email')!.source = { from: 'field', field: 'email' };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  expect((await client.call('POST', `/routes/${route.id}/live`)).status).toBe(200);
  await client.call('POST', `/routes/${route.id}/recorded`, { selection: {}, again: false });
  const sent = await eventually(
    () => Promise.resolve(side.heard.find(each => each.method === 'POST')),
    each => each !== undefined,
  );
  expect([sent!.url, JSON.parse(sent!.body.toString())]).toEqual([
    '/contacts?v=2',
    { source: 'form', email: 'a@example.org' },
  ]);
});

describe('examples', () => {
  const lines = [
    `curl -X POST 'https://a.example.org/contacts?v=2' -H 'Authorization: Bearer t0ken-1' --json '{"email":"a"}'`,
    `curl https://a.example.org/contacts/42 -H 'Authorization: Bearer t0ken-1'`,
  ].join('\n');
  test('are looked at before a target is made: the address, who asks, and the text without the secret', async () => {
    const { json: seen } = await client.call<DocumentView>('POST', '/targets/look', {
      reads: 'example',
      document: lines,
    });
    expect(seen).toMatchObject({
      fault: null,
      says: 'shows 2 operations',
      baseUrl: 'https://a.example.org',
      auth: { kind: 'bearer' },
      secret: 't0ken-1',
    });
    expect(seen.text).not.toContain('t0ken-1');
    const openapi = JSON.stringify({
      openapi: '3.1.0',
      servers: [{ url: '/v1' }, { url: 'https://b.example.org/v1/' }],
      paths,
    });
    expect(
      (await client.call<DocumentView>('POST', '/targets/look', { reads: 'openapi', document: openapi })).json.baseUrl,
    ).toBe('https://b.example.org/v1');
    expect(
      (await client.call<DocumentView>('POST', '/targets/look', { reads: 'example', document: 'words' })).json.fault,
    ).toMatch(/Not a curl command/);
  });
  test('a secret in one is not stored, whoever sends it', async () => {
    const made = await byHand(lines);
    expect(made.operations.map(each => each.path)).toEqual(['/contacts', '/contacts/{contact_id}']);
    expect(JSON.stringify(made)).not.toContain('t0ken-1');
  });
  test('add operations to any target, those that are there already left as they are', async () => {
    const { id } = await read();
    const { status, json: added } = await client.call<OperationView[]>('POST', `/targets/${id}/examples`, {
      text: lines,
    });
    expect([status, added.map(each => [each.own, each.operation.path])]).toEqual([
      201,
      [
        ['added', '/contacts'],
        ['added', '/contacts/{contact_id}'],
      ],
    ]);
    const again = await client.call<{ errors: { message: string }[] }>('POST', `/targets/${id}/examples`, {
      text: lines,
    });
    expect([again.status, again.json.errors[0]!.message]).toEqual([422, 'All its operations exist already.']);
    expect((await client.call('POST', `/targets/${id}/examples`, { text: 'words' })).status).toBe(422);
  });
});

test('a real try: its request, its answer, and what can’t be sent', async () => {
  const made = await byHand();
  const set = (
    await client.call<OperationView>(
      'PUT',
      `/targets/${made.id}/operation`,
      operation({
        path: '/contacts/{id}',
        fields: [field('id', { in: 'path', pointer: 'id', required: true }), field('email')],
      }),
    )
  ).json.operation;
  const tried = async (values: object) =>
    (await client.call<TestResultView>('POST', `/targets/${made.id}/try`, { operationId: set.id, values })).json;
  expect(await tried({ id: '4 2', email: 'a@example.org' })).toMatchObject({
    status: 201,
    answer: { contact: { id: 7 }, got: { email: 'a@example.org' } },
  });
  expect(side.heard.at(-1)!.url).toBe('/contacts/4%202');
  const before = side.heard.length;
  expect(await tried({ email: 'a@example.org' })).toMatchObject({
    request: '',
    status: null,
    message: 'id is required but has no source.',
  });
  expect(side.heard).toHaveLength(before);
});

test('a target with very many operations: the list is small, and a route has those at hand that are near', async () => {
  paths = Object.fromEntries(
    Array.from({ length: 900 }, (_, n) => [`/part${n % 30}/thing${n}`, { post: body('a', 'b', 'c') }]),
  );
  const { id, operations } = await read();
  expect(operations).toHaveLength(900);
  const list = await client.call<unknown[]>('GET', '/targets');
  expect(list.json).toMatchObject([{ id, operations: 900, writing: 900 }]);
  expect(JSON.stringify(list.json).length).toBeLessThan(1000);
  const offered = (await client.call<OfferedView[]>('GET', '/targets/offered')).json;
  expect(offered[0]!.operations).toHaveLength(900);
  const used = operations.find(each => each.path === '/part7/thing7')!;
  const route = await routeTo(id, used.id);
  const near = route.targets[0]!.operations;
  expect(near).toHaveLength(200);
  expect(near[0]!.id).toBe(used.id);
  expect(near.slice(0, 30).every(each => each.path.startsWith('/part7/'))).toBe(true);
});
