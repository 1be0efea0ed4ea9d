import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { operationChanges } from '@grammata/core/drift';
import { readGraphql } from '@grammata/core/graphql';
import { buildSchema } from 'graphql';
import { startYard } from '..';
import type { ApiEdit } from '../changing';
import { editedSchema, isSightingEdit, recordingName, sightingAsBefore, sightingFields, stageAfter } from './edits';
import { sightingsText } from './schema';

const edit = (field: string, what: ApiEdit['what'], to = ''): ApiEdit => ({ field, what, to });
function offered(...edits: ApiEdit[]) {
  const read = readGraphql(editedSchema(sightingsText, edits), '/graphql');
  if ('fault' in read) throw new Error(read.fault);
  return read.operations;
}
const told = (...edits: ApiEdit[]) => operationChanges(offered(), offered(...edits)).map(each => each.change);

test.each<[string, ApiEdit[], string[]]>([
  ['nothing', [], []],
  ['one that is required', [edit('observer', 'required')], ['required']],
  ['one with a value of its own that is required', [edit('count', 'required')], ['required']],
  ['one that is required already', [edit('species', 'required')], []],
  ['one that is renamed', [edit('observer', 'renamed', 'seenBy')], ['field-renamed']],
  ['one that is taken away', [edit('observer', 'retired')], ['field-gone']],
  [
    'required under another name',
    [edit('observer', 'renamed', 'observerName'), edit('observer', 'required')],
    ['field-renamed', 'required'],
  ],
])('its schema tells %s, and is one', (_, edits, expected) => {
  expect(() => buildSchema(editedSchema(sightingsText, edits))).not.toThrow();
  expect(told(...edits)).toEqual(expected);
});

test('a stage that is renamed is told of recording and of changing one', () =>
  expect(told(edit('stage', 'option-renamed', 'SPAWN'))).toEqual(['option-renamed', 'option-renamed']));

test('what is sent now is what was sent first, and what is kept is called as it is now', () => {
  const edits = [edit('observer', 'renamed', 'seenBy'), edit('stage', 'option-renamed', 'SPAWN')];
  expect(sightingAsBefore({ species: 'Otter', seenBy: 'Mira Teal', stage: 'SPAWN' }, edits)).toEqual({
    species: 'Otter',
    observer: 'Mira Teal',
    stage: 'EGG',
  });
  expect([stageAfter('EGG', edits), stageAfter('GROWN', edits), stageAfter(null, edits)]).toEqual([
    'SPAWN',
    'GROWN',
    null,
  ]);
  expect([recordingName([]), recordingName([edit('species', 'moved', 'addSighting')])]).toEqual([
    'recordSighting',
    'addSighting',
  ]);
});

test.each<[ApiEdit, boolean]>([
  [edit('observer', 'required'), true],
  [edit('nobody', 'required'), false],
  [edit('observer', 'renamed', 'not a name'), false],
  [edit('observer', 'option-renamed', 'SPAWN'), false],
  [edit('stage', 'option-renamed', 'SPAWN'), true],
])('%j can be done: %s', (one, can) => expect(isSightingEdit(one, sightingsText)).toBe(can));

test('it is asked as it says, and put back', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-sightings-'));
  const yard = await startYard({ host: '127.0.0.1', port: 0, dataDir: folder });
  const change = (form: Record<string, string>) =>
    fetch(`${yard.url}/sightings/changes`, { method: 'POST', body: new URLSearchParams(form), redirect: 'manual' });
  const ask = async (name: string, input: object) => {
    const query = `mutation ($input: SightingInput!) { ${name}(input: $input) { number stage observer } }`;
    const headers = { 'content-type': 'application/json', 'x-sightings-key': 'yard-sightings-key-5d07' };
    const body = JSON.stringify({ query, variables: { input } });
    return (await (await fetch(`${yard.url}/sightings/graphql`, { method: 'POST', headers, body })).json()) as {
      data?: Record<string, object>;
      errors?: { message: string }[];
    };
  };
  const otter = { species: 'Otter', place: { site: 'AB-07' } };
  expect(await ask('recordSighting', { ...otter, stage: 'EGG' })).toMatchObject({
    data: { recordSighting: { stage: 'EGG' } },
  });
  for (const form of [
    { field: 'observer', what: 'renamed', to: 'seenBy' },
    { field: 'stage', what: 'option-renamed', to: 'SPAWN' },
    { field: 'species', what: 'moved', to: 'addSighting' },
  ])
    expect((await change(form)).status).toBe(303);
  expect((await ask('recordSighting', otter)).errors![0]!.message).toMatch(/recordSighting/);
  expect((await ask('addSighting', { ...otter, observer: 'Mira' })).errors![0]!.message).toMatch(/observer/);
  expect(await ask('addSighting', { ...otter, seenBy: 'Mira', stage: 'SPAWN' })).toMatchObject({
    data: { addSighting: { number: 2, stage: 'SPAWN', observer: 'Mira' } },
  });
  expect(await (await fetch(`${yard.url}/sightings`)).text()).toContain('Undo all changes');
  await change({ what: 'back' });
  expect(await ask('recordSighting', { ...otter, stage: 'EGG' })).toMatchObject({
    data: { recordSighting: { number: 3, stage: 'EGG' } },
  });
  expect(sightingFields(sightingsText)).toHaveLength(7);
  await yard.stop();
  rmSync(folder, { recursive: true });
});
