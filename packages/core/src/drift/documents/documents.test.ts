import type { Json, JsonObject } from '../../submission';
import { documentChanges } from '..';

const documentOf = (schema: Json, more: JsonObject = {}): JsonObject => ({
  openapi: '3.1.0',
  info: { title: 'Kits', version: '1' },
  paths: {
    '/kits/{id}': {
      post: {
        parameters: [{ name: 'notify', in: 'query', schema: { type: 'boolean' } }],
        requestBody: { content: { 'application/json': { schema } } },
        responses: { '201': { description: 'made' } },
      },
    },
  },
  ...more,
});
const object = (properties: JsonObject, required: string[] = []): JsonObject => ({
  type: 'object',
  properties,
  required,
});
const text = (more: JsonObject = {}): JsonObject => ({ type: 'string', ...more });
const at = 'POST /kits/{id}';

test.each<[string, Json, Json, object[]]>([
  [
    'a field more',
    object({ a: text() }),
    object({ a: text(), b: text() }, ['b']),
    [{ change: 'field-added', field: '/b', now: { required: true } }],
  ],
  [
    'a field less',
    object({ a: text(), wheel: { type: 'integer' } }),
    object({ a: text() }),
    [{ change: 'field-gone', field: '/wheel' }],
  ],
  [
    'a field under another name',
    object({ phone: text({ maxLength: 20 }) }),
    object({ telephone: text({ maxLength: 20 }) }),
    [{ change: 'field-renamed', field: '/phone', was: '/phone', now: '/telephone' }],
  ],
  ['required', object({ a: text() }), object({ a: text() }, ['a']), [{ change: 'required', field: '/a' }]],
  ['optional', object({ a: text() }, ['a']), object({ a: text() }), [{ change: 'optional', field: '/a' }]],
  [
    'an option more',
    object({ a: text({ enum: ['x', 'y'] }) }),
    object({ a: text({ enum: ['x', 'y', 'z'] }) }),
    [{ change: 'option-added', field: '/a', now: 'z' }],
  ],
  [
    'an option less',
    object({ a: text({ enum: ['x', 'y'] }) }),
    object({ a: text({ enum: ['x'] }) }),
    [{ change: 'option-gone', field: '/a', was: 'y' }],
  ],
  [
    'an option under another name',
    object({ a: text({ enum: ['foam', 'litter'] }) }),
    object({ a: text({ enum: ['foam on water', 'litter'] }) }),
    [{ change: 'option-renamed', field: '/a', was: 'foam', now: 'foam on water' }],
  ],
  [
    'another type',
    object({ a: text() }),
    object({ a: { type: 'integer' } }),
    [{ change: 'type', field: '/a', was: 'string', now: 'integer' }],
  ],
  [
    'another format',
    object({ a: text({ format: 'date' }) }),
    object({ a: text({ format: 'date-time' }) }),
    [{ change: 'format', field: '/a', was: 'date', now: 'date-time' }],
  ],
  [
    'a narrower limit',
    object({ a: text({ maxLength: 9 }) }),
    object({ a: text({ maxLength: 5 }) }),
    [{ change: 'narrowed', field: '/a', was: { maxLength: 9 }, now: { maxLength: 5 } }],
  ],
  [
    'a wider one',
    object({ a: { type: 'integer', minimum: 5 } }),
    object({ a: { type: 'integer', minimum: 1 } }),
    [{ change: 'widened', field: '/a', was: { minimum: 5 }, now: { minimum: 1 } }],
  ],
  [
    'null that is removed',
    object({ a: { type: ['string', 'null'] } }),
    object({ a: text() }),
    [{ change: 'narrowed', field: '/a', was: { nullable: true }, now: { nullable: false } }],
  ],
  [
    'a field within another',
    object({ contact: object({ email: text() }) }),
    object({ contact: object({ email: text() }, ['email']) }),
    [{ change: 'required', field: '/contact/email' }],
  ],
  [
    'a field of the items of a list',
    object({ lines: { type: 'array', items: object({ count: { type: 'integer' } }) } }),
    object({ lines: { type: 'array', items: object({ count: text() }) } }),
    [{ change: 'type', field: '/lines/count', was: 'integer', now: 'string' }],
  ],
])('%s', (_, before, after, expected) =>
  expect(documentChanges(documentOf(before), documentOf(after))).toEqual(
    expected.map(each => ({ operation: at, ...each })),
  ),
);

test('the query is a part of what is sent', () => {
  const before = documentOf(object({}));
  const after = structuredClone(before);
  (after as unknown as { paths: Record<string, { post: { parameters: Json } }> }).paths['/kits/{id}']!.post.parameters =
    [
      { name: 'notify', in: 'query', required: true, schema: { type: 'boolean' } },
      { name: 'page', in: 'query', schema: { type: 'integer' } },
    ];
  expect(documentChanges(before, after)).toEqual([
    { change: 'required', operation: at, field: '?notify' },
    { change: 'field-added', operation: at, field: '?page', now: { required: false } },
  ]);
});

const schema = object({ name: text({ maxLength: 9 }), colour: text({ enum: ['red', 'blue'] }), tag: text() }, ['name']);
test.each<[string, JsonObject]>([
  ['references', documentOf({ $ref: '#/components/schemas/Kit' }, { components: { schemas: { Kit: schema } } })],
  [
    'parts put together',
    documentOf(
      {
        allOf: [
          object({ name: text({ maxLength: 9 }) }, ['name']),
          object({ tag: text(), colour: { $ref: '#/components/schemas/C' } }),
        ],
      },
      { components: { schemas: { C: text({ enum: ['red', 'blue'] }) } } },
    ),
  ],
  [
    'other words, examples and orders',
    documentOf(
      object(
        {
          tag: text({ description: 'A tag', example: 'x' }),
          colour: text({ enum: ['blue', 'red'], title: 'Colour' }),
          name: text({ maxLength: 9, minLength: 0 }),
        },
        ['name'],
      ),
    ),
  ],
  [
    'what is only told and never sent',
    documentOf(object({ ...(schema.properties as JsonObject), id: text({ readOnly: true }) }, ['name', 'id'])),
  ],
  [
    'a parameter of the path under another name',
    JSON.parse(JSON.stringify(documentOf(schema)).replace('/kits/{id}', '/kits/{kit}')) as JsonObject,
  ],
  [
    'a part of the path that the server’s address says now',
    {
      ...(JSON.parse(JSON.stringify(documentOf(schema)).replace('/kits/{id}', '/v2/kits/{id}')) as JsonObject),
      servers: [{ url: 'https://api.example.org' }],
    },
  ],
])('%s: no change', (_, after) => {
  const before = documentOf(schema, { servers: [{ url: 'https://api.example.org/v2' }] });
  expect(documentChanges(before, after)).toEqual([]);
  expect(documentChanges(after, before)).toEqual([]);
});

test('operations that go, come and move', () => {
  const post = (path: string, operationId: string, fields: JsonObject): JsonObject => ({
    [path]: { post: { operationId, requestBody: { content: { 'application/json': { schema: object(fields) } } } } },
  });
  const of = (...paths: JsonObject[]) => ({ openapi: '3.0.3', paths: Object.assign({}, ...paths) as JsonObject });
  const kits = { name: text(), size: { type: 'integer' }, colour: text() };
  const before = of(post('/kits', 'addKit', kits), post('/logs', 'addLog', { line: text() }));
  const after = of(
    post('/desk/kits', 'addKit', { ...kits, size: text() }),
    post('/walks', 'addWalk', { from: { type: 'number' }, to: { type: 'number' } }),
  );
  expect(documentChanges(before, after)).toEqual([
    { change: 'operation-moved', operation: 'POST /kits', was: 'POST /kits', now: 'POST /desk/kits' },
    { change: 'type', operation: 'POST /kits', field: '/size', was: 'integer', now: 'string' },
    { change: 'operation-gone', operation: 'POST /logs' },
    { change: 'operation-added', operation: 'POST /walks' },
  ]);
});

test('schemas that stand in themselves are read, and come to an end', () => {
  const of = (more: JsonObject) =>
    documentOf(
      { $ref: '#/components/schemas/Node' },
      {
        components: {
          schemas: { Node: object({ name: text(), next: { $ref: '#/components/schemas/Node' }, ...more }) },
        },
      },
    );
  expect(documentChanges(of({}), of({}))).toEqual([]);
  expect(documentChanges(of({}), of({ size: { type: 'integer' } }))).toEqual([
    { change: 'field-added', operation: at, field: '/size', now: { required: false } },
  ]);
});

test.each([[null], [[]], ['x'], [{}], [{ openapi: 3 }]])('%j is no document', given => {
  expect(documentChanges(given, documentOf({}))).toBeNull();
});
