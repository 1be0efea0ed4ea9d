import { buildSchema, graphqlSync, parse, validate, getIntrospectionQuery as introspection } from 'graphql';
import fc from 'fast-check';
import { newLine } from '../route';
import { scopeOf } from '../scope';
import { compileCall } from '../request';
import type { Json, Submission } from '../submission';
import { graphqlErrors, readGraphql } from '.';

const roster = `
  "When, in UTC."
  scalar DateTime
  enum Stage { SEEDLING GROWN }
  "A place on the map."
  input PlaceInput { lat: Float!, lon: Float!, name: String }
  input SightingInput {
    "What was seen."
    species: String!
    count: Int = 1
    stage: Stage
    seen: DateTime!
    place: PlaceInput
    tags: [String!]
    numbers: [Int!]
    notes: [NoteInput!]
    like: SightingInput
  }
  input NoteInput { text: String! }
  type Note { text: String! }
  type Sighting { id: ID!, species: String!, count: Int!, stage: Stage, notes: [Note!]!, tags: [String!]!, like: Sighting, near(km: Float!): [Sighting!]! }
  type SightingPage { nodes: [Sighting!]!, total: Int! }
  union Thing = Sighting | Note
  type Query {
    "Sightings, newest first. All of them."
    sightings(species: String, first: Int = 20): SightingPage!
    thing(id: ID!): Thing
    version: String!
  }
  type Mutation {
    addSighting(input: SightingInput!): Sighting!
    removeSighting(id: ID!, reason: String @deprecated(reason: "Say nothing")): Boolean!
  }
`;
const read = (text: string) => {
  const found = readGraphql(text, '/graphql');
  if ('fault' in found) throw new Error(found.fault);
  return found;
};
const operation = (id: string, text = roster) => read(text).operations.find(each => each.id === id)!;

test('mutations and queries are operations; queries only read', () => {
  expect(read(roster).operations.map(({ id, label, reads, path }) => [id, label, reads ?? false, path])).toEqual([
    ['mutation addSighting', 'Add sighting', false, '/graphql'],
    ['mutation removeSighting', 'Remove sighting', false, '/graphql'],
    ['query sightings', 'Sightings, newest first', true, '/graphql'],
    ['query thing', 'Thing', true, '/graphql'],
    ['query version', 'Version', true, '/graphql'],
  ]);
});

test('inputs are typed fields by their whole path; what has a default is not required, and nothing goes round', () => {
  const { fields } = operation('mutation addSighting');
  expect(
    fields.map(({ key, pointer, type, required, options, items }) => [
      key,
      pointer,
      type,
      required,
      options ?? items ?? null,
    ]),
  ).toEqual([
    ['input.species', '/variables/input/species', 'text', true, null],
    ['input.count', '/variables/input/count', 'integer', false, null],
    ['input.stage', '/variables/input/stage', 'choice', false, ['SEEDLING', 'GROWN']],
    ['input.seen', '/variables/input/seen', 'datetime', true, null],
    ['input.place.lat', '/variables/input/place/lat', 'number', false, null],
    ['input.place.lon', '/variables/input/place/lon', 'number', false, null],
    ['input.place.name', '/variables/input/place/name', 'text', false, null],
    ['input.tags', '/variables/input/tags', 'choices', false, null],
    ['input.numbers', '/variables/input/numbers', 'choices', false, 'integer'],
    ['input.notes', '/variables/input/notes', 'json', false, null],
    ['input.like', '/variables/input/like', 'json', false, null],
  ]);
  expect(fields[0]!.description).toBe('What was seen.');
  expect(operation('mutation removeSighting').fields[1]!.description).toBe('deprecated: Say nothing');
});

test('what is asked of an answer, and where it stands in it', () => {
  const { graphql, answer } = operation('query sightings');
  expect(graphql).toBe(
    [
      'query Sightings($species: String, $first: Int) {',
      '  sightings(species: $species, first: $first) {',
      '    total',
      '    nodes {',
      '      id',
      '      species',
      '      count',
      '      stage',
      '      tags',
      '      notes {',
      '        text',
      '      }',
      '    }',
      '  }',
      '}',
    ].join('\n'),
  );
  expect(answer!.map(each => each.pointer)).toEqual(['/data/sightings/total', '/data/sightings/nodes']);
  expect(answer![1]!.items!.map(each => each.pointer)).toContain('/id');
  expect(operation('query thing').graphql).toContain('__typename');
  expect(operation('query version').graphql).toBe('query Version {\n  version\n}');
});

// graphql-js, the reference implementation, on the other side.
describe('what is sent is what the reference implementation takes', () => {
  const schema = buildSchema(roster);
  test('every document is valid', () => {
    for (const { graphql } of read(roster).operations) expect(validate(schema, parse(graphql!))).toEqual([]);
  });
  test('a request runs with the values of its lines; a wrong one is refused in a 200', () => {
    const add = operation('mutation addSighting');
    const lines = (values: Record<string, Json>) =>
      Object.entries(values).map(([key, value]) => ({
        ...newLine(key, key),
        source: { from: 'constant' as const, value },
      }));
    const sent = (values: Record<string, Json>) => {
      const call = compileCall(
        { id: 'a', targetId: 't', operationId: add.id, lines: lines(values) },
        add,
        'https://a.example.org',
      );
      return call.plan(
        scopeOf({
          form: null,
          id: null,
          submittedAt: null,
          fields: [],
          files: [],
          questions: [],
          meta: {},
        } as Submission),
      );
    };
    const run = (body: Json) => {
      const { query, variables } = body as { query: string; variables: Record<string, unknown> };
      const answer = graphqlSync({
        schema,
        source: query,
        variableValues: variables,
        rootValue: { addSighting: ({ input }: { input: object }) => ({ id: 7, notes: [], tags: [], ...input }) },
      });
      return JSON.stringify(answer);
    };
    const good = sent({
      'input.species': 'Eel',
      'input.seen': '2026-11-04T08:00:00Z',
      'input.place.lat': 1.5,
      'input.place.lon': 2,
      'input.notes': [{ text: 'Still' }],
    });
    expect([good.sendable, good.request.url, good.request.method]).toEqual([
      true,
      'https://a.example.org/graphql',
      'POST',
    ]);
    expect(graphqlErrors(run(good.request.body))).toBeNull();
    expect(JSON.parse(run(good.request.body))).toMatchObject({
      data: { addSighting: { id: '7', species: 'Eel', count: 1 } },
    });
    const partly = sent({ 'input.species': 'Eel', 'input.seen': '2026-11-04T08:00:00Z', 'input.place.lat': 1.5 });
    expect(graphqlErrors(run(partly.request.body))).toMatch(/lon/);
    expect(sent({ 'input.species': 'Eel' }).missing.map(each => each.key)).toEqual(['input.seen']);
  });
  test('an introspection says the same as the text', () => {
    const told = JSON.stringify(graphqlSync({ schema, source: introspection({ inputValueDeprecation: true }) }));
    expect(read(told)).toEqual(read(roster));
    expect(read(JSON.stringify((JSON.parse(told) as { data: Json }).data))).toEqual(read(roster));
  });
});

// The type system examples of the GraphQL specification, October 2021, §3.6 to §3.10; from memory.
test('the examples of the specification are read', () => {
  const text = `
    type Query { person(id: ID!): Person, findDog(searchBy: FindDogInput): Dog, user(id: ID!): User }
    type Person { name: String, age: Int, picture(size: Int): Url, relationship: Person }
    scalar Url @specifiedBy(url: "https://tools.ietf.org/html/rfc3986")
    interface NamedEntity { name: String }
    type Dog implements NamedEntity { name: String, barkVolume: Int, owner: Person }
    input FindDogInput { name: String, owner: String, place: Point2D }
    input Point2D { x: Float, y: Float }
    enum Direction { NORTH EAST SOUTH WEST }
    type User { id: ID, name: String, profilePic(width: Int, height: Int): String, faces: [Direction!] }
  `;
  expect(
    read(text).operations.map(each => [
      each.id,
      each.fields.map(field => field.key),
      each.answer!.map(part => part.pointer),
    ]),
  ).toEqual([
    ['query person', ['id'], ['/data/person/name', '/data/person/age', '/data/person/picture']],
    [
      'query findDog',
      ['searchBy.name', 'searchBy.owner', 'searchBy.place.x', 'searchBy.place.y'],
      [
        '/data/findDog/name',
        '/data/findDog/barkVolume',
        '/data/findDog/owner/name',
        '/data/findDog/owner/age',
        '/data/findDog/owner/picture',
      ],
    ],
    ['query user', ['id'], ['/data/user/id', '/data/user/name', '/data/user/profilePic', '/data/user/faces']],
  ]);
});

describe('what is no schema is said', () => {
  test.each<[string, RegExp]>([
    ['', /Not a GraphQL schema/],
    ['hello', /Not a GraphQL schema/],
    ['{"a":1}', /Not an introspection response/],
    ['{"errors":[{"message":"introspection is off"}]}', /introspection is off/],
    ['type Query { a: Nothing }', /can’t be read: Unknown type: "Nothing"/],
    ['type Query { a: ', /can’t be read: Syntax Error.*line 1/],
    ['type A { b: Int }', /no mutation and no query/],
    ['{"data":{"__schema":{}}}', /can’t be read/],
  ])('%s', (text, fault) => expect(readGraphql(text, '/')).toEqual({ fault: expect.stringMatching(fault) }));
  test('inputs that hold each other are read as far as fields are, in no time', () => {
    const names = Array.from({ length: 40 }, (_, at) => `I${at}`);
    const inputs = names.map(
      name => `input ${name} { n: Int ${names.map(each => `${each.toLowerCase()}: ${each}`).join(' ')} }`,
    );
    const read = readGraphql(`type Query { a: Int } type Mutation { add(input: I0): Int } ${inputs.join('\n')}`, '/');
    if ('fault' in read) throw new Error(read.fault);
    expect(read.operations[0]!.fields).toHaveLength(400);
    expect(read.notes).toEqual(['Only the first 400 fields of an operation are read.']);
  });
  test('whatever it is given, it does not throw', () =>
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.json(),
          fc.string().map(each => `type Query { ${each} }`),
        ),
        text => {
          expect(typeof readGraphql(text, '/')).toBe('object');
        },
      ),
    ));
});

// GraphQL, October 2021, §7.1.2, “errors”; the first answer is its example 8.
test.each<[string, string | null]>([
  [
    '{"errors":[{"message":"Name for character with ID 1002 could not be fetched.","locations":[{"line":6,"column":7}],"path":["hero"]}]}',
    'Name for character with ID 1002 could not be fetched.',
  ],
  ['{"data":{"a":1}}', null],
  ['{"data":null,"errors":[]}', null],
  ['{"errors":[{}]}', 'It does not say why.'],
  ['<html>', null],
])('%s says %s', (body, says) => expect(graphqlErrors(body)).toBe(says));
