import { newLine } from '../route';
import type { Json } from '../submission';
import { roster } from '../testing';
import { compareFiles, filesOf, fileText, type Workspace, type WorkspaceFiles } from '.';

const submission = { form: null, id: 's', submittedAt: null, fields: [], files: [], questions: [], meta: {} };
const form = { name: 'Reports', key: 'reports', samples: [{ name: 'No file', submission }] };
const definition = {
  format: 1 as const,
  name: 'Reports to the roster',
  condition: { all: [] },
  calls: [
    {
      id: 'c0',
      targetId: roster.id,
      operationId: roster.operations[0]!.id,
      lines: [
        { ...newLine('l1', 'name'), source: { from: 'field' as const, field: 'who' } },
        { ...newLine('l2', 'email'), source: { from: 'field' as const, field: 'mail' } },
      ],
    },
  ],
  terms: { hours: 24, timeZone: 'UTC' },
};
const approved = { goes: true, requests: [], held: [] };
const workspace: Workspace = {
  intakes: [{ name: 'Field', settings: { sizeLimit: 10_000, keepDays: null }, forms: [form] }],
  targets: [
    { ...roster, operations: roster.operations, baseUrl: 'https://here.example.org', reached: { reads: 'tables' } },
  ],
  routes: [
    {
      form,
      definition: definition as never,
      proofs: [{ id: 'p', name: 'Zoe', submission, answers: {}, approved, loose: [], calls: [] }],
    },
  ],
};
const files = (): WorkspaceFiles =>
  Object.fromEntries(
    Object.entries(filesOf(workspace)).map(([file, value]) => [file, JSON.parse(fileText(value)) as Json]),
  );
// Edited as a person edits a file: nothing says what is in it.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
const at = (all: WorkspaceFiles, file: string) => all[file] as Record<string, any>;
const ROUTE = 'routes/reports-to-the-roster.json';
const PROOF = Object.keys(files()).find(each => each.startsWith('proofs/'))!;
const compared = (edit: (all: WorkspaceFiles) => void) => {
  const given = files();
  edit(given);
  return compareFiles(files(), given);
};

test('what was not edited is no difference, whatever stands where in a file', () => {
  expect(compared(() => undefined)).toEqual({ changes: [], stays: [] });
  expect(compared(all => void (all[ROUTE] = Object.fromEntries(Object.entries(at(all, ROUTE)).reverse())))).toEqual({
    changes: [],
    stays: [],
  });
});

test.each<[string, (all: WorkspaceFiles) => void, [place: string, was: unknown, now: unknown][]]>([
  [
    'a line that takes another question, told by its field',
    all => void (at(all, ROUTE).calls[0].lines[0].source.field = 'mail'),
    [['calls / c0 / lines / name / source / field', 'who', 'mail']],
  ],
  [
    'a line that is gone',
    all => void at(all, ROUTE).calls[0].lines.pop(),
    [['calls / c0 / lines / email', expect.objectContaining({ to: 'email' }), undefined]],
  ],
  [
    'lines in another order',
    all => void at(all, ROUTE).calls[0].lines.reverse(),
    [['calls / c0 / lines', expect.any(Array), expect.any(Array)]],
  ],
  ['terms', all => void (at(all, ROUTE).terms.hours = 2), [['terms / hours', 24, 2]]],
])('%s', (_, edit, expected) => {
  const { changes } = compared(edit);
  expect(changes.map(({ file, kind, change }) => [file, kind, change])).toEqual([[ROUTE, 'route', 'changed']]);
  expect(changes[0]!.differences.map(({ place, was, now }) => [place.join(' / '), was, now])).toEqual(expected);
});

test.each<[string, (all: WorkspaceFiles) => void, [kind: string, name: string, change: string][], string[]]>([
  [
    'a proof and a sample that a folder lacks are gone',
    all => {
      delete all[PROOF];
      delete all['samples/field/reports/no-file.json'];
    },
    [
      ['proof', 'Zoe', 'gone'],
      ['sample', 'No file', 'gone'],
    ],
    [],
  ],
  [
    'a route that a folder lacks stays, with its proofs',
    all => {
      delete all[ROUTE];
      delete all[PROOF];
    },
    [],
    ['Reports to the roster'],
  ],
  [
    'an intake that a folder lacks stays, with its samples',
    all => {
      delete all['intakes/field.json'];
      delete all['samples/field/reports/no-file.json'];
    },
    [],
    ['Field'],
  ],
  [
    'what is new is added',
    all => void (all['targets/archive.json'] = { ...at(all, 'targets/roster.json'), name: 'Archive' }),
    [['target', 'Archive', 'added']],
    [],
  ],
  [
    'where a target is reached is the server’s own business',
    all => {
      at(all, 'targets/roster.json').baseUrl = 'https://elsewhere.example.org';
      at(all, 'targets/roster.json').reached = { reads: 'openapi' };
    },
    [],
    [],
  ],
  [
    'what a target offers is not',
    all => void at(all, 'targets/roster.json').operations.pop(),
    [['target', roster.name, 'changed']],
    [],
  ],
])('%s', (_, edit, expected, staying) => {
  const { changes, stays } = compared(edit);
  expect(changes.map(({ kind, name, change }) => [kind, name, change])).toEqual(expected);
  expect(stays.map(each => each.name)).toEqual(staying);
});
