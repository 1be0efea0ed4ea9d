import { applyPatch } from 'fast-json-patch';
import { patchOf, parseJson } from '../submission';
import { compareSides, type Side } from '.';

const message = (answers: object[]): Side => ({ text: JSON.stringify({ id: 'f1', answers }) });
const site = { id: 's1', label: 'Which site?', value: 'AB-07' };
const ph = { id: 's2', label: 'pH', value: 7.4 };
const openapi = (...required: string[]): Side => ({
  text: JSON.stringify({
    openapi: '3.1.0',
    paths: {
      '/kits': {
        post: {
          requestBody: {
            content: { 'application/json': { schema: { required, properties: { size: { type: 'string' } } } } },
          },
        },
      },
    },
  }),
});
const schema = (max: number): Side => ({
  text: JSON.stringify({ type: 'object', properties: { name: { type: 'string', maxLength: max } } }),
});

test('two messages: what is asked otherwise, and every answer side by side', () => {
  const told = compareSides(
    message([site, ph]),
    message([
      { ...site, label: 'At which site?', value: 'AB-02' },
      { id: 's3', label: 'Nitrate', value: 2 },
    ]),
  );
  expect(told.kind).toBe('messages');
  expect(told.changes.map(each => [each.change, 'question' in each ? each.question : null])).toEqual(
    expect.arrayContaining([['reworded', 's1']]),
  );
  expect(told.answers).toEqual([
    { key: 's1', label: 'At which site?', before: 'AB-07', after: 'AB-02' },
    { key: 's2', label: 'pH', before: 7.4, after: null },
    { key: 's3', label: 'Nitrate', before: null, after: 2 },
  ]);
});

test('what came under another key stands beside what it was', () =>
  expect(compareSides(message([site, ph]), message([{ ...site, id: 's9', value: 'AB-02' }, ph])).answers).toEqual([
    { key: 's1', label: 'Which site?', before: 'AB-07', after: 'AB-02' },
    { key: 's2', label: 'pH', before: 7.4, after: 7.4 },
  ]));

test('messages that are no JSON have no places, and are read all the same', () => {
  const type = 'application/x-www-form-urlencoded';
  const told = compareSides({ text: 'site=AB-07&ph=7.4', type }, { text: 'site=AB-02&ph=7.4', type });
  expect(told).toMatchObject({ kind: 'messages', places: null });
  expect(told.answers.map(each => [each.key, each.before, each.after])).toEqual([
    ['site', 'AB-07', 'AB-02'],
    ['ph', '7.4', '7.4'],
  ]);
});

test.each<[string, Side, Side, string, object[]]>([
  [
    'two documents',
    openapi(),
    openapi('size'),
    'documents',
    [{ change: 'required', operation: 'POST /kits', field: '/size' }],
  ],
  [
    'two schemas',
    schema(20),
    schema(10),
    'schemas',
    [{ change: 'narrowed', field: '/name', was: { maxLength: 20 }, now: { maxLength: 10 } }],
  ],
  ['the same twice', schema(20), schema(20), 'schemas', []],
])('%s', (_, before, after, kind, changes) => {
  const told = compareSides(before, after);
  expect(told.kind).toBe(kind);
  expect(told.changes).toMatchObject(changes);
  expect(told.changes).toHaveLength(changes.length);
  // As a patch (RFC 6902) that fast-json-patch applies, the places give what is after.
  const given = { root: parseJson(before.text)! };
  const patch = patchOf(told.places!).map(each => ({ ...each, path: `/root${each.path}` }));
  expect(applyPatch(given, patch as Parameters<typeof applyPatch>[1]).newDocument.root).toEqual(parseJson(after.text));
});

test.each<[string, string, string]>([
  ['nothing', '', ''],
  ['a message and a document', message([site]).text, openapi().text],
  ['what can’t be read', '{"a":', '\u0000'],
])('%s is held against each other all the same', (_, before, after) =>
  expect(compareSides({ text: before }, { text: after })).toMatchObject({ kind: 'messages' }),
);
