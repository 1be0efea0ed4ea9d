import fc from 'fast-check';
import type { Json } from '../../submission';
import { readOpenApi, type ReadOpenApi } from '.';

const document = (more: Record<string, Json>, version = '3.1.0'): Json => ({
  openapi: version,
  info: { title: 'Roster', version: '1' },
  paths: {},
  ...more,
});
const read = (value: Json): ReadOpenApi => {
  const result = readOpenApi(value);
  if ('fault' in result) throw new Error(result.fault);
  return result;
};
const post = (schema: Json, more: Record<string, Json> = {}): Json =>
  document({
    paths: { '/contacts': { post: { requestBody: { content: { 'application/json': { schema } } } } } },
    ...more,
  });
const fields = (value: Json) => read(value).operations[0]!.fields;

test('parameters of the path and the operation, the body and the answer become typed fields', () => {
  const { operations, servers, title, security } = read(
    document({
      servers: [{ url: 'https://{region}.example.org/v1', variables: { region: { default: 'eu' } } }],
      components: {
        securitySchemes: {
          key: { type: 'apiKey', in: 'header', name: 'X-Key' },
          token: { type: 'http', scheme: 'Bearer' },
          other: { type: 'openIdConnect' },
        },
        schemas: {
          Contact: {
            type: 'object',
            required: ['email'],
            properties: {
              id: { type: 'string', readOnly: true },
              email: { type: 'string', format: 'email' },
              born: { type: ['string', 'null'], format: 'date' },
              status: { enum: ['new', 'known'] },
              tags: { type: 'array', items: { type: 'string', enum: ['walks', 'samples'] } },
              visits: { type: 'integer' },
              address: {
                type: 'object',
                required: ['city'],
                properties: { city: { type: 'string', maxLength: 40 }, 'a/b': { type: 'string' } },
              },
            },
          },
        },
      },
      paths: {
        '/contacts/{id}': {
          parameters: [{ in: 'path', name: 'id', schema: { type: 'string' } }],
          put: {
            operationId: 'updateContact',
            summary: 'Update a contact',
            parameters: [
              { in: 'query', name: 'notify', schema: { type: 'boolean' } },
              { in: 'header', name: 'Authorization', schema: { type: 'string' } },
            ],
            requestBody: { content: { 'application/json': { schema: { $ref: '#/components/schemas/Contact' } } } },
            responses: {
              '200': { content: { 'application/json': { schema: { $ref: '#/components/schemas/Contact' } } } },
            },
          },
        },
      },
    }),
  );
  expect({ servers, title, security }).toEqual({
    servers: ['https://eu.example.org/v1'],
    title: 'Roster',
    security: [{ kind: 'header', name: 'X-Key' }, { kind: 'bearer' }],
  });
  const [operation] = operations;
  expect(operation).toMatchObject({ id: 'updateContact', label: 'Update a contact', method: 'PUT', body: 'json' });
  expect(
    operation!.fields.map(({ key, in: place, pointer, type, required }) => [key, place, pointer, type, required]),
  ).toEqual([
    ['id', 'path', 'id', 'text', true],
    ['notify', 'query', 'notify', 'boolean', false],
    ['body.id', undefined, '/id', 'text', false],
    ['email', undefined, '/email', 'text', true],
    ['born', undefined, '/born', 'date', false],
    ['status', undefined, '/status', 'choice', false],
    ['tags', undefined, '/tags', 'choices', false],
    ['visits', undefined, '/visits', 'integer', false],
    ['address.city', undefined, '/address/city', 'text', false],
    ['address.a/b', undefined, '/address/a~1b', 'text', false],
  ]);
  expect(operation!.fields.find(each => each.key === 'tags')!.options).toEqual(['walks', 'samples']);
  expect(operation!.fields.find(each => each.key === 'body.id')!.readOnly).toBe(true);
  expect(operation!.answer!.map(each => each.pointer)).toContain('/address/city');
});

describe('schemas put together', () => {
  test('allOf adds up; what is required in any part is required', () => {
    const schema: Json = {
      allOf: [
        { type: 'object', required: ['a'], properties: { a: { type: 'string' } } },
        { type: 'object', properties: { b: { type: 'number' } } },
      ],
      properties: { c: { type: 'boolean' } },
    };
    expect(fields(post(schema)).map(each => [each.key, each.type, each.required])).toEqual([
      ['a', 'text', true],
      ['b', 'number', false],
      ['c', 'boolean', false],
    ]);
  });

  test('of alternatives all may be filled and none must; one that may be null is no alternative', () => {
    const one = { type: 'object', required: ['a'], properties: { a: { type: 'string' } } };
    const other = {
      type: 'object',
      required: ['b'],
      properties: { b: { anyOf: [{ type: 'integer' }, { type: 'null' }] } },
    };
    expect(fields(post({ oneOf: [one, other] })).map(each => [each.key, each.type, each.required])).toEqual([
      ['a', 'text', false],
      ['b', 'integer', false],
    ]);
    expect(fields(post({ anyOf: [one, { type: 'null' }] }))[0]!.required).toBe(true);
  });

  test('a required part of an optional object is not required', () => {
    const inner = { type: 'object', required: ['city'], properties: { city: { type: 'string' } } };
    const required = (names: string[]) =>
      fields(post({ type: 'object', required: names, properties: { address: inner } }))[0]!.required;
    expect([required([]), required(['address'])]).toEqual([false, true]);
  });

  test('constants and alternatives of constants are options', () => {
    const schema = { type: 'object', properties: { kind: { oneOf: [{ const: 'a' }, { const: 'b' }] } } };
    expect(fields(post(schema))[0]).toMatchObject({ type: 'choice', options: ['a', 'b'] });
  });

  test('lists of objects and what says nothing of its type take any JSON', () => {
    const schema = { type: 'object', properties: { rows: { type: 'array', items: { type: 'object' } }, any: {} } };
    expect(fields(post(schema)).map(each => each.type)).toEqual(['json', 'json']);
  });
});

test.each<[string, Json, RegExp]>([
  ['version 1.2', { swagger: '1.2', paths: {} }, /version 1.2; 2.0 and 3.0 to 3.2 are read/],
  ['version 4', { openapi: '4.0.0', paths: {} }, /version 4.0.0; 2.0 and 3.0 to 3.2 are read/],
  ['version 2 without an operation', { swagger: '2.0', paths: {} }, /no operation/],
  ['no version', { paths: {} }, /the version is missing/],
  ['a list', [], /not an object/],
  ['nothing offered', document({}), /no operation/],
])('%s is told apart from a document', (_, value, says) =>
  expect((readOpenApi(value) as { fault: string }).fault).toMatch(says),
);

describe('hostile documents', () => {
  const self = (schema: Json) => post({ $ref: '#/components/schemas/A' }, { components: { schemas: { A: schema } } });

  test.each<[string, Json, RegExp]>([
    ['a reference to itself', self({ $ref: '#/components/schemas/A' }), /round in a circle/],
    ['allOf itself', self({ allOf: [{ $ref: '#/components/schemas/A' }] }), /without end/],
    ['a reference to nowhere', self({ $ref: '#/nowhere' }), /leads nowhere/],
    ['a reference to elsewhere', self({ $ref: 'http://127.0.0.1/secret.json' }), /in another document/],
  ])('%s is noted and read as far as it goes', (_, value, note) => {
    const { operations, notes } = read(value);
    expect(operations).toHaveLength(1);
    expect(notes.join(' ')).toMatch(note);
  });

  test('an object in itself is read to a depth, quickly', () => {
    const schema = {
      type: 'object',
      properties: { a: { $ref: '#/components/schemas/A' }, b: { $ref: '#/components/schemas/A' } },
    };
    expect(fields(self(schema)).length).toBeLessThanOrEqual(400);
  });

  test('a body that can’t be written is said', () => {
    const value = document({ paths: { '/a': { post: { requestBody: { content: { 'text/csv': {} } } } } } });
    expect(read(value).notes).toEqual(['A body of text/csv is not written.']);
  });

  test('it never throws, whatever stands where', () => {
    const places = ['paths', 'components', 'servers', 'info'];
    fc.assert(
      fc.property(fc.constantFrom(...places), fc.jsonValue(), (place, value) => {
        expect(readOpenApi(document({ [place]: value as Json }))).toBeDefined();
      }),
    );
    fc.assert(
      fc.property(fc.jsonValue(), value => {
        expect(readOpenApi(document({ paths: { '/a': { post: value as Json } } }))).toBeDefined();
        expect(readOpenApi(post(value as Json))).toBeDefined();
      }),
    );
  });
});

describe('files, other bodies, rules and lists', () => {
  const body = (type: string, schema: Json, version = '3.1.0'): Json =>
    document({ paths: { '/a': { post: { requestBody: { content: { [type]: { schema } } } } } } }, version);

  // OpenAPI 3.0.4 “Considerations for File Uploads” (`binary`, `byte`); 3.1.1 “Working with Binary Data” (JSON Schema’s content keywords).
  test.each<[string, string, Json, string, string]>([
    ['3.0.3', 'multipart/form-data', { type: 'string', format: 'binary' }, 'multipart', 'file'],
    ['3.1.0', 'multipart/form-data', { type: 'string', contentMediaType: 'image/png' }, 'multipart', 'file'],
    [
      '3.0.3',
      'multipart/form-data',
      { type: 'array', items: { type: 'string', format: 'binary' } },
      'multipart',
      'file',
    ],
    ['3.0.3', 'application/json', { type: 'string', format: 'byte' }, 'json', 'base64'],
    [
      '3.1.0',
      'application/json',
      { type: 'string', contentEncoding: 'base64', contentMediaType: 'image/png' },
      'json',
      'base64',
    ],
    ['3.1.0', 'application/xml', { type: 'string' }, 'xml', 'text'],
  ])('%s, %s, %j is a body of %s with a %s', (version, type, file, kind, fieldType) => {
    const [operation] = read(body(type, { type: 'object', properties: { f: file } }, version)).operations;
    expect(operation).toMatchObject({ body: kind, fields: [{ key: 'f', type: fieldType }] });
  });
  test('a file or a text as the whole body', () => {
    expect(read(body('application/octet-stream', {})).operations[0]).toMatchObject({
      body: 'raw',
      fields: [{ pointer: '', type: 'file' }],
    });
    expect(read(body('text/plain', { type: 'string' })).operations[0]).toMatchObject({
      body: 'text',
      fields: [{ pointer: '', type: 'text' }],
    });
  });
  test('of several ways to write a body JSON is taken, and parts before pairs', () => {
    const content = { 'application/x-www-form-urlencoded': {}, 'multipart/form-data': {}, 'application/json': {} };
    const of = (types: string[]) =>
      read(
        document({
          paths: {
            '/a': {
              post: {
                requestBody: {
                  content: Object.fromEntries(Object.entries(content).filter(([type]) => types.includes(type))),
                },
              },
            },
          },
        }),
      ).operations[0]!.body;
    expect(of(Object.keys(content))).toBe('json');
    expect(of(Object.keys(content).slice(0, 2))).toBe('multipart');
  });
  test('rules beside the type are kept', () => {
    const rules = {
      ph: { type: 'number', minimum: 0, maximum: 14 },
      site: { type: 'string', pattern: '^AB' },
      mail: { type: 'string', format: 'email' },
      page: { type: 'string', format: 'uri' },
    };
    expect(fields(post({ type: 'object', properties: rules }))).toMatchObject([
      { key: 'ph', minimum: 0, maximum: 14 },
      { key: 'site', pattern: '^AB' },
      { key: 'mail', format: 'email' },
      { key: 'page', format: 'uri' },
    ]);
  });
  test('version 3.2 is read like the others', () => {
    const paths = { '/a': { get: { operationId: 'list', responses: { 200: { description: 'x' } } } } };
    expect(readOpenApi({ ...(document({ paths }) as object), openapi: '3.2.0' })).toMatchObject({
      operations: [{ id: 'list' }],
    });
  });
  test('a list of numbers or marks says what each item is', () => {
    const of = (items: Json) =>
      read(
        document({
          paths: {
            '/a': {
              post: {
                requestBody: {
                  content: {
                    'application/json': { schema: { type: 'object', properties: { ids: { type: 'array', items } } } },
                  },
                },
                responses: {},
              },
            },
          },
        }),
      ).operations[0]!.fields[0];
    expect(of({ type: 'integer' })).toMatchObject({ type: 'choices', items: 'integer' });
    expect(of({ type: 'boolean' })).toMatchObject({ type: 'choices', items: 'boolean' });
    expect(of({ type: 'string' })).not.toHaveProperty('items');
    expect(of({ type: 'object' })).toMatchObject({ type: 'json' });
  });
  test('an answer that is or holds a list says what each of its records has', () => {
    const contact = {
      type: 'object',
      properties: { id: { type: 'string' }, postal: { type: 'object', properties: { town: { type: 'string' } } } },
    };
    const answering = (schema: Json) =>
      read(
        document({
          paths: { '/a': { get: { responses: { '200': { content: { 'application/json': { schema } } } } } } },
        }),
      ).operations[0]!.answer;
    const items = [{ pointer: '/id' }, { pointer: '/postal/town' }];
    expect(answering({ type: 'array', items: contact })).toMatchObject([{ pointer: '', items }]);
    expect(
      answering({
        type: 'object',
        properties: { total: { type: 'integer' }, people: { type: 'array', items: contact } },
      }),
    ).toMatchObject([{ pointer: '/total' }, { pointer: '/people', items }]);
    const wrapped = (inner: Json) => ({ type: 'object', properties: { data: inner } });
    expect(
      answering(wrapped({ type: 'object', properties: { items: { type: 'array', items: contact } } })),
    ).toMatchObject([{ pointer: '/data/items', items }]);
    // What holds itself ends.
    const endless = { type: 'object', properties: { inner: { $ref: '#/paths/~1a/get/responses/200/content/application~1json/schema' } } }; // prettier-ignore
    expect(answering(endless as Json)).toBeDefined();
  });
});
