import { randomBytes } from 'node:crypto';
import { RecipeInput, recipeFrom, recipeInput } from '@grammata/contract';
import { vaultWith } from '../access';
import { Authorizations, type Outward, type OutwardAnswer, type OutwardFault, type OutwardRequest } from '../outward';
import { connect, listingOf } from './connection';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { offerIn } from './offer';
import { readTarget } from './readTarget';
import { testCredentials } from './testCredentials';

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
const connected = (outward: Outward) => connectedWith(outward, {});
const connectedWith = (outward: Outward, more: Partial<typeof target>) =>
  connect(
    { ...target, ...more },
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
    verdict: 'Answered in 7 ms: offers 2 operations, 1 of which stores something.',
    advice: null,
    status: 200,
    milliseconds: 7,
  });
  expect(operations!.map(each => each.id)).toEqual(['findContacts', 'createContact']);
  expect(asked[0]).toMatchObject({ method: 'GET', url: 'https://roster.example.org/v1/openapi.json?key=s3%20cret' });
});

test.each<[string, string, Partial<OutwardAnswer> | OutwardFault, RegExp, RegExp]>([
  ['a page as 200', '<html>Welcome</html>', {}, /not JSON/, /path of the OpenAPI document/],
  ['words', 'just words', {}, /not JSON/, /path of the OpenAPI document/],
  ['JSON of another kind', '{"tables":[]}', {}, /Not an OpenAPI document/, /path of the OpenAPI document/],
  ['an old version', '{"swagger":"1.2"}', {}, /version 1.2/, /path/],
  ['more than 20 MB', '{', { cut: true }, /larger than 20 MB/, /smaller document/],
  ['no right', '', { status: 403 }, /credentials rejected/, /new ones/],
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
    'Answered in 7 ms: offers 1 operation, 1 of which stores something. Of its document this was not read: A body of text/csv is not written.',
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
  expect(view.advice).toBe('The document requires OAuth 2 client credentials, token URL https://a.example.org/token.');
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
  expect((await listing('<html>')).fault).toMatch(/not JSON/);
  expect((await listing('', { status: 404 })).fault).toMatch(/nothing at this path/);
});

describe('a document in another place', () => {
  const document = (servers: string[]) =>
    JSON.stringify({ openapi: '3.1.0', servers: servers.map(url => ({ url })), paths: { '/a': { post: {} } } });
  test('is read there, and nobody but the target is shown the credentials', async () => {
    const { asked, outward } = answering(document([]));
    await connectedWith(outward, { discoveryPath: 'https://docs.example.net/roster.json' });
    expect(asked[0]).toMatchObject({
      url: 'https://docs.example.net/roster.json',
      headers: { accept: 'application/json, application/yaml;q=0.9' },
    });
  });
  test.each<[string[], string[]]>([
    [['https://roster.example.org/v1'], []],
    [['/v1', 'https://other.example.org'], []],
    [
      ['/v2', 'https://test.example.org/'],
      ['https://roster.example.org/v2', 'https://test.example.org'],
    ],
    [['file:///etc'], []],
    [[], []],
  ])('servers that it names are offered where the target’s address is not among them: %j', async (servers, offers) => {
    expect((await connectedWith(answering(document(servers)).outward, {})).servers).toEqual(offers);
  });
});

describe('credentials are tested by a read that needs them', () => {
  const paths = {
    '/contacts': { get: { operationId: 'findContacts', summary: 'Find contacts' }, post: {} },
    '/contacts/{id}': {
      get: { summary: 'Fetch a contact', parameters: [{ name: 'id', in: 'path', required: true, schema: {} }] },
    },
  };
  /** Asked with the key and without it: what each path below the base address answers. */
  const tested = async (
    answers: Record<string, [withKey: number | OutwardFault, without: number]>,
    more: Partial<typeof target> = {},
    document: object = { openapi: '3.1.0', paths },
  ) => {
    const asked: string[] = [];
    const outward = {
      mask: (text: string) => text,
      send({ url }: OutwardRequest) {
        const { pathname, search } = new URL(url);
        const path = pathname.replace('/v1', '');
        asked.push(path + search);
        if (path === '/openapi.json') return answered(200, JSON.stringify(document));
        const answer = answers[path]?.[search === '' ? 1 : 0] ?? 404;
        return typeof answer === 'number' ? answered(answer, '{}') : Promise.resolve(answer);
      },
    } as unknown as Outward;
    const of = { ...target, ...more };
    const authorizations = new Authorizations(outward, vault);
    const { view } = await testCredentials(await connectedWith(outward, more), of, outward, authorizations);
    return { view, asked: asked.slice(1) };
  };
  const answered = (status: number, body: string) =>
    Promise.resolve({ status, headers: {}, bytes: Buffer.from(body), body, cut: false, milliseconds: 7 });
  const gone: OutwardFault = { code: 'refused', message: 'Nothing answers.', milliseconds: 1 };
  test.each<[string, Parameters<typeof tested>[0], { ok: boolean; isUntested?: true }, RegExp]>([
    ['rejected without them', { '/contacts': [200, 401] }, { ok: true }, /work: “Find contacts” is answered only/],
    ['nothing is there, but only with them', { '/contacts': [200, 200], '/contacts/none': [404, 401] }, { ok: true }, /work: “Fetch a contact”/], // prettier-ignore
    ['rejected with them', { '/contacts': [401, 401] }, { ok: false }, /Status 401: credentials rejected/],
    ['rejected by one read, and answered by another', { '/contacts': [401, 401], '/contacts/none': [404, 401] }, { ok: true }, /work: “Fetch a contact”/], // prettier-ignore
    ['anybody may read', { '/contacts': [200, 200] }, { ok: true, isUntested: true }, /not tested: “Find contacts” answers with 200 with and without them/], // prettier-ignore
    ['no right to read', { '/contacts': [403, 401], '/contacts/none': [403, 401], '': [403, 403] }, { ok: true, isUntested: true }, /not tested: “Find contacts” answers with 403 in spite/], // prettier-ignore
    ['no answer', { '/contacts': [gone, 401] }, { ok: false }, /Nothing answers/],
    ['only trouble', { '/contacts': [500, 500], '/contacts/none': [500, 500], '': [503, 503] }, { ok: false }, /Status 503/], // prettier-ignore
  ])('%s', async (_, answers, { ok, isUntested }, words) => {
    const { view } = await tested(answers);
    expect([view.ok, view.isUntested, view.verdict]).toEqual([ok, isUntested, expect.stringMatching(words)]);
  });
  test('nothing is written, and a target that asks for nobody is asked once', async () => {
    const { asked } = await tested({ '/contacts': [200, 401] });
    expect(asked).toEqual(['/contacts?key=s3%20cret', '/contacts']);
    expect((await tested({}, { auth: { kind: 'none' } as never })).asked).toEqual(['/contacts']);
    expect((await tested({}, {}, { openapi: '3.1.0', paths: { '/a': { post: {} } } })).asked).toEqual(['?key=s3%20cret', '']); // prettier-ignore
  });
});

test('a target that is read again as it was is no news to anybody; one that changed or failed is', async () => {
  let body = yaml;
  const outward = {
    mask: (text: string) => text,
    send: () =>
      Promise.resolve({ status: 200, headers: {}, bytes: Buffer.from(body), body, cut: false, milliseconds: 7 }),
  } as unknown as Outward;
  let row = {
    ...target,
    id: 't',
    operations: [],
    own: [],
    readAt: null,
    fault: null,
    snapshot: null,
  } as unknown as TargetRow;
  const events: unknown[] = [];
  const services = {
    store: {
      targets: {
        byId: () => row,
        update: (_id: string, { operations, ...more }: Partial<TargetRow>) =>
          (row = { ...row, ...more, ...(operations && { operations, snapshot: JSON.stringify(operations) }) }),
      },
    },
    outward,
    authorizations: new Authorizations(outward, vault),
    postman: { check: () => Promise.reject(new Error('no mail server')) },
    decoders: offers,
    live: { publish: (event: unknown) => events.push(event) },
    config: { changesAfter: null },
  } as unknown as Services;
  const published = async () => {
    events.length = 0;
    await readTarget(services, row);
    return events.length;
  };
  expect([await published(), await published()]).toEqual([1, 0]);
  body = yaml.replaceAll('/contacts', '/people');
  expect([await published(), await published()]).toEqual([1, 0]);
  body = 'just words';
  expect([await published(), await published()]).toEqual([1, 0]);
});
