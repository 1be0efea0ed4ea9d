import { randomBytes } from 'node:crypto';
import { RecipeInput, recipeFrom, recipeInput } from '@grammata/contract';
import { vaultWith } from '../access';
import { Authorizations, type Outward, type OutwardAnswer, type OutwardFault, type OutwardRequest } from '../outward';
import { connect, listingOf } from './connection';
import { offerIn } from './offer';

const vault = vaultWith(randomBytes(32));

/** A target that answers like this, and what it was asked. */
function answering(body: string, more: Partial<OutwardAnswer> | OutwardFault = {}) {
  const asked: OutwardRequest[] = [];
  const answer = { status: 200, headers: {}, bytes: Buffer.from(body), body, cut: false, milliseconds: 7, ...more };
  const send = (request: OutwardRequest) => {
    asked.push(request);
    return Promise.resolve(answer);
  };
  return { asked, outward: { send, mask: (text: string) => text } as unknown as Outward };
}
const target = {
  baseUrl: 'https://roster.example.org/v1/',
  discoveryPath: '/openapi.json',
  reads: 'openapi' as const,
  auth: { kind: 'query' as const, name: 'key' },
  secret: vault.seal('s3 cret'),
  document: null,
  recipe: null,
};
const connected = (outward: Outward) =>
  connect(
    target,
    outward,
    new Authorizations(outward, vault),
    {
      check: () => Promise.reject(new Error('no mail server')),
    },
    offers,
  );
/** Reads in place, without a thread. */
const offers = { offer: (...of: Parameters<typeof offerIn>) => Promise.resolve(offerIn(...of)) };
const yaml = `
openapi: 3.0.3
info: { title: Roster, version: '1' }
paths:
  /contacts:
    post:
      operationId: createContact
      requestBody:
        content:
          application/json:
            schema: { type: object, required: [email], properties: { email: { type: string } } }
    get: { operationId: findContacts }
`;

test('a document in YAML is read, with the credentials where they belong', async () => {
  const { asked, outward } = answering(yaml);
  const { view, operations } = await connected(outward);
  expect(view).toEqual({
    ok: true,
    verdict: 'It answered in 7 ms and offers 2 operations, 1 of which stores something.',
    advice: null,
    status: 200,
    milliseconds: 7,
  });
  expect(operations!.map(each => each.id)).toEqual(['findContacts', 'createContact']);
  expect(asked[0]).toMatchObject({ method: 'GET', url: 'https://roster.example.org/v1/openapi.json?key=s3%20cret' });
});

test.each<[string, string, Partial<OutwardAnswer> | OutwardFault, RegExp, RegExp]>([
  ['a page as 200', '<html>Welcome</html>', {}, /not with JSON/, /path of the OpenAPI document/],
  ['words', 'just words', {}, /not with JSON/, /path of the OpenAPI document/],
  ['JSON of another kind', '{"tables":[]}', {}, /no OpenAPI document/, /path of the OpenAPI document/],
  ['an old version', '{"swagger":"1.2"}', {}, /version 1.2/, /path/],
  ['more than 20 MB', '{', { cut: true }, /more than 20 MB/, /smaller document/],
  ['no right', '', { status: 403 }, /does not take these credentials/, /new ones/],
  ['nothing there', '', { status: 404 }, /nothing at this path/, /path of the OpenAPI document/],
  ['no answer', '', { code: 'private', message: 'It is private.', milliseconds: 1 }, /private/, /ALLOW_PRIVATE/],
])('%s is told with what to do', async (_, body, more, verdict, advice) => {
  const { view, operations } = await connected(answering(body, more).outward);
  expect(operations).toBeNull();
  expect(view.ok).toBe(false);
  expect(view.verdict).toMatch(verdict);
  expect(view.advice).toMatch(advice);
});

test('aliases in YAML are not multiplied without end', async () => {
  const bomb = [
    'a: &a [x, x, x, x, x, x, x, x, x]',
    ...'bcdefghi'.split('').map((each, at) => `${each}: &${each} [${Array(9).fill(`*${'abcdefgh'[at]}`).join(', ')}]`),
  ];
  const { view } = await connected(answering(bomb.join('\n')).outward);
  expect(view.ok).toBe(false);
});

test('what was not read of a document is said', async () => {
  const document = { openapi: '3.1.0', paths: { '/a': { post: { requestBody: { content: { 'text/csv': {} } } } } } };
  const { view } = await connected(answering(JSON.stringify(document)).outward);
  expect(view.verdict).toBe(
    'It answered in 7 ms and offers 1 operation, 1 of which stores something. Of its document this was not read: A body of text/csv is not written.',
  );
});

test('a list of tables that is built otherwise is read by pointers', async () => {
  const built = {
    data: { sheets: [{ id: 's1', name: 'Samples', cols: [{ id: 'c1', caption: 'pH', kind: 'number', must: true }] }] },
  };
  const recipe = recipeFrom({
    ...new RecipeInput(),
    tables: '/data/sheets',
    tableKey: '/id',
    tableLabel: '/name',
    columns: '/cols',
    columnKey: '/id',
    columnLabel: '/caption',
    columnType: '/kind',
    columnRequired: '/must',
    createPath: '/sheets/{table}/rows',
    bodyAt: '/cells',
  });
  const { outward } = answering(JSON.stringify(built));
  const found = await connect(
    { ...target, reads: 'tables', recipe },
    outward,
    new Authorizations(outward, vault),
    {
      check: () => Promise.reject(new Error('no mail server')),
    },
    offers,
  );
  expect(found.operations).toMatchObject([
    {
      label: 'Add a record to Samples',
      path: '/sheets/s1/rows',
      fields: [{ key: 'c1', label: 'pH', type: 'number', required: true, pointer: '/cells/c1' }],
    },
  ]);
  expect(recipeFrom(recipeInput(recipe))).toEqual(recipe);
});

test('what the document asks for is told where the credentials are of another kind', async () => {
  const document = {
    openapi: '3.0.3',
    components: {
      securitySchemes: {
        c: { type: 'oauth2', flows: { clientCredentials: { tokenUrl: 'https://a.example.org/token' } } },
      },
    },
    paths: { '/a': { post: {} } },
  };
  const { view } = await connected(answering(JSON.stringify(document)).outward);
  expect(view.advice).toBe('Its document asks for OAuth 2 tokens, had at https://a.example.org/token.');
});

test('a bare list of columns is read without a word where its parts’ names tell', async () => {
  const columns = [
    { field: 'email', label: 'E-mail', type: 'text', required: true },
    { field: 'age', label: 'Age', type: 'number' },
  ];
  const { view, operations, recipe } = await connect(
    { ...target, reads: 'tables' },
    answering(JSON.stringify(columns)).outward,
    new Authorizations(answering('').outward, vault),
    { check: () => Promise.reject(new Error('no mail server')) },
    offers,
  );
  expect(view.verdict).toMatch(/lists 1 table with 2 columns. What stands where was concluded/);
  expect(recipe).toMatchObject({ isOneTable: true, columns: '', column: { key: '/field', label: '/label' } });
  expect(operations![0]!.fields.map(({ key, type, required }) => [key, type, required])).toEqual([
    ['email', 'text', true],
    ['age', 'number', false],
  ]);
});

test('what a target lists is had to be pointed at, or why not', async () => {
  const listing = (body: string, more: Partial<OutwardAnswer> = {}) => {
    const { outward } = answering(body, more);
    return listingOf({ ...target, reads: 'tables' } as never, outward, new Authorizations(outward, vault));
  };
  expect(await listing('{"a":[1]}')).toEqual({ answer: { a: [1] }, fault: null });
  expect((await listing('<html>')).fault).toMatch(/not with JSON/);
  expect((await listing('', { status: 404 })).fault).toMatch(/nothing at this path/);
});

describe('a target whose document was given is asked for a sign of life where its connection is tested', () => {
  const tested = (body: string, more: Partial<OutwardAnswer> | OutwardFault) => {
    const { outward, asked } = answering(body, more);
    const of = { ...target, reads: 'example' as const, document: '{"a":1}' };
    return connect(
      of,
      outward,
      new Authorizations(outward, vault),
      { check: () => Promise.reject(new Error('none')) },
      offers,
      true,
    ).then(found => ({ ...found, asked }));
  };
  test.each([200, 404, 403, 405])('%i is one', async status => {
    const { view, operations, asked } = await tested('', { status });
    expect(view).toMatchObject({ ok: true, verdict: expect.stringContaining(`Its address answers, with ${status}`) });
    expect([operations!.length, asked.length]).toEqual([1, 1]);
  });
  test.each<[string, Partial<OutwardAnswer> | OutwardFault, RegExp]>([
    ['credentials that are refused', { status: 401 }, /does not take these credentials/],
    ['trouble of its own', { status: 503 }, /answered 503/],
    ['no answer', { code: 'refused', message: 'Nothing answers.', milliseconds: 1 }, /Nothing answers/],
  ])('%s: told, and what was read is kept', async (_, more, verdict) => {
    const { view, operations } = await tested('', more);
    expect(view).toMatchObject({ ok: false, verdict: expect.stringMatching(verdict) });
    expect(operations).toHaveLength(1);
  });
});
