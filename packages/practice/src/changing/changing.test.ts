import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { documentChanges } from '@grammata/core/drift';
import type { Json } from '@grammata/core/submission';
import { startYard, type Yard } from '..';
import { archiveDocument } from '../archive/document';
import { labDeskDocument } from '../labDesk/document';
import { rosterDocument } from '../roster/document';
import { asAfter, asBefore, editedDocument, type ApiEdit, type Collection } from '.';

const contacts: Collection = { path: '/contacts', schemas: ['NewContact', 'Contact'] };
const roster = rosterDocument('https://roster.example.org/v1');
const edit = (field: string, what: ApiEdit['what'], to = ''): ApiEdit => ({ field, what, to });
const told = (...edits: ApiEdit[]) =>
  documentChanges(roster as unknown as Json, editedDocument(roster, contacts, edits) as unknown as Json)!.map(
    ({ change, operation, field, was, now }) => ({ change, operation, field, was, now }),
  );

test.each<[string, ApiEdit[], object[]]>([
  ['nothing', [], []],
  [
    'one that is required',
    [edit('phone', 'required')],
    [{ change: 'required', operation: 'POST /contacts', field: '/phone' }],
  ],
  [
    'one that is renamed',
    [edit('phone', 'renamed', 'telephone')],
    [
      { change: 'field-renamed', operation: 'POST /contacts', field: '/phone', now: '/telephone' },
      { change: 'field-renamed', operation: 'PATCH /contacts/{id}', field: '/phone', now: '/telephone' },
    ],
  ],
  [
    'an option that is renamed',
    [edit('interests', 'option-renamed', 'Sampling of water')],
    ['POST /contacts', 'PATCH /contacts/{id}'].map(operation => ({
      change: 'option-renamed',
      operation,
      field: '/interests',
      was: 'Water sampling',
      now: 'Sampling of water',
    })),
  ],
  [
    'one that is taken away',
    [edit('note', 'retired')],
    ['POST /contacts', 'PATCH /contacts/{id}'].map(operation => ({ change: 'field-gone', operation, field: '/note' })),
  ],
  [
    'all of it at another path',
    [edit('note', 'moved', '/people')],
    ['GET /contacts', 'POST /contacts', 'GET /contacts/{id}', 'PATCH /contacts/{id}'].map(operation => ({
      change: 'operation-moved',
      operation,
      now: operation.replace('contacts', 'people'),
    })),
  ],
])('the document tells %s', (_, edits, expected) => {
  const changes = told(...edits);
  expect(changes).toHaveLength(expected.length);
  expect(changes).toEqual(expect.arrayContaining(expected.map(each => expect.objectContaining(each) as object)));
});

test('a document that nobody changed is as it was, and changing it changes no other', () => {
  const before = JSON.stringify(roster);
  expect(editedDocument(roster, contacts, [])).toEqual(roster);
  editedDocument(roster, contacts, [edit('note', 'retired'), edit('phone', 'renamed', 'x')]);
  expect(JSON.stringify(roster)).toBe(before);
});

test.each<[string, ApiEdit[], object, object]>([
  ['as it comes', [], { email: 'a@example.org' }, { values: { email: 'a@example.org' } }],
  [
    'under its new name',
    [edit('email', 'renamed', 'mail')],
    { mail: 'a@example.org' },
    { values: { email: 'a@example.org' } },
  ],
  [
    'under its old name',
    [edit('email', 'renamed', 'mail')],
    { email: 'a@example.org' },
    { wrong: [{ field: 'email', detail: 'is unknown' }] },
  ],
  ['without what is required', [edit('phone', 'required')], {}, { wrong: [{ field: 'phone', detail: 'is required' }] }],
  [
    'required and called otherwise',
    [edit('phone', 'required'), edit('phone', 'renamed', 'tel')],
    {},
    { wrong: [{ field: 'tel', detail: 'is required' }] },
  ],
  [
    'an option by its new name',
    [edit('interests', 'option-renamed', 'W')],
    { interests: ['W', 'Bank walks'] },
    { values: { interests: ['Water sampling', 'Bank walks'] } },
  ],
  [
    'an option by its old name',
    [edit('interests', 'option-renamed', 'W')],
    { interests: ['Water sampling'] },
    { wrong: [{ field: 'interests', detail: '“Water sampling” is not one of the options' }] },
  ],
  [
    'what was taken away',
    [edit('note', 'retired')],
    { note: 'x' },
    { wrong: [{ field: 'note', detail: 'is unknown' }] },
  ],
])('sent %s', (_, edits, sent, expected) =>
  expect(asBefore(roster, contacts, edits, sent as Record<string, unknown>, true)).toEqual(expected),
);

test('what is kept is answered as it is called now', () =>
  expect(
    asAfter(
      roster,
      contacts,
      [edit('interests', 'option-renamed', 'W'), edit('phone', 'renamed', 'tel'), edit('note', 'retired')],
      {
        id: '1',
        phone: '+44',
        interests: ['Water sampling'],
        note: 'x',
      },
    ),
  ).toEqual({ id: '1', tel: '+44', interests: ['W'] }));

describe('in the yard', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-changing-'));
  let yard: Yard;
  beforeAll(async () => (yard = await startYard({ host: '127.0.0.1', port: 0, dataDir: folder })));
  afterAll(async () => {
    await yard.stop();
    rmSync(folder, { recursive: true, force: true });
  });
  const base = () => new URL(yard.roster.baseUrl).origin;
  const change = (name: string, form: Record<string, string>) =>
    fetch(`${base()}/${name}/changes`, { method: 'POST', body: new URLSearchParams(form), redirect: 'manual' });
  const ask = async (method: string, at: string, body?: object) => {
    const answer = await fetch(`${yard.roster.baseUrl}${at}`, {
      method,
      headers: { 'x-roster-key': yard.roster.key, 'content-type': 'application/json' },
      ...(body && { body: JSON.stringify(body) }),
    });
    return {
      status: answer.status,
      body: (await answer.json()) as Record<string, unknown>,
      at: answer.headers.get('location'),
    };
  };

  test('the roster takes what it says it takes now, and is put back', async () => {
    await change('roster', { field: 'email', what: 'renamed', to: 'mail' });
    await change('roster', { field: 'phone', what: 'moved', to: '/people' });
    const page = await (await fetch(`${base()}/roster`)).text();
    expect(page).toContain('Undo all changes');
    expect((await ask('POST', '/contacts', { given_name: 'Wen', email: 'wen@example.org' })).status).toBe(404);
    expect(await ask('POST', '/people', { given_name: 'Wen', email: 'wen@example.org' })).toMatchObject({
      status: 422,
      body: { errors: [{ pointer: '#/email', detail: 'is unknown' }] },
    });
    const made = await ask('POST', '/people', { given_name: 'Wen', mail: 'wen@example.org' });
    expect(made).toMatchObject({ status: 201, body: { given_name: 'Wen', mail: 'wen@example.org' } });
    expect(new URL(made.at!).pathname).toBe(`/roster/v1/people/${String(made.body.id)}`);
    expect((await ask('GET', '/people')).body).toMatchObject({ contacts: [{ mail: 'wen@example.org' }] });
    await change('roster', { what: 'back' });
    expect((await ask('GET', '/contacts')).body).toMatchObject({ contacts: [{ email: 'wen@example.org' }] });
  });

  test('what can’t be done is not done', async () => {
    const forms: Record<string, string>[] = [
      { field: 'none', what: 'required' },
      { field: 'email', what: 'nonsense' },
      { field: 'email', what: 'option-renamed', to: 'x' },
    ];
    for (const form of forms) expect((await change('roster', form)).status).toBe(303);
    const served = (await (await fetch(`${yard.roster.baseUrl}/openapi.json`)).json()) as Json;
    expect(documentChanges(rosterDocument(yard.roster.baseUrl) as unknown as Json, served)).toEqual([]);
  });

  test('the archive’s notes are asked for otherwise, too', async () => {
    await change('archive', { field: 'shelf', what: 'renamed', to: 'place' });
    await change('archive', { field: 'kind', what: 'option-renamed', to: 'x' });
    const served = (await (await fetch(`${base()}/archive/v1/openapi.json`)).json()) as Json;
    expect(documentChanges(archiveDocument('') as unknown as Json, served)).toMatchObject([
      { change: 'field-renamed', operation: 'POST /notes', field: '/shelf', now: '/place' },
    ]);
    await change('archive', { what: 'back' });
  });

  test('the lab desk says what it takes now', async () => {
    await change('labdesk', { field: 'place', what: 'required' });
    const served = (await (await fetch(`${base()}/labdesk/v2/openapi.json`)).json()) as Json;
    expect(documentChanges(labDeskDocument('', '') as unknown as Json, served)).toMatchObject([
      { change: 'required', operation: 'POST /tickets', field: '/place' },
    ]);
    await change('labdesk', { what: 'back' });
  });
});
