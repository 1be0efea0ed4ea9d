import Ajv2020 from 'ajv/dist/2020';
import fc from 'fast-check';
import { enact } from '../proof';
import { newLine, ROUTE_FORMAT, targetsOf, usualTerms, withTargets, type RouteDefinition } from '../route';
import type { Json } from '../submission';
import { conditions, roster, routes as calls, stagesOf, submissions } from '../testing';
import {
  checkProofs,
  fileNameFor,
  filesOf,
  fileText,
  rehearseSamples,
  workspaceOf,
  workspaceSchemas,
  type Workspace,
  type WorkspaceFiles,
} from '.';

const kept = { ...roster, operations: roster.operations, reached: { reads: 'tables' } };

/** Workspaces with a route of random calls and proofs of random submissions. */
const workspaces = fc
  .tuple(calls, conditions, fc.array(submissions, { minLength: 1, maxLength: 3 }))
  .map(([of, condition, all]): Workspace => {
    const definition: RouteDefinition = {
      format: ROUTE_FORMAT,
      name: 'Reports to the roster',
      condition,
      calls: of,
      terms: { ...usualTerms, timeZone: 'UTC' },
    };
    const play = { stages: stagesOf(of), condition, context: { timeZone: 'UTC' } };
    const proofs = all.map((submission, at) => ({
      id: `p${at}`,
      name: `Sample ${at}`,
      submission,
      answers: {},
      calls: of,
      approved: enact(play, submission, {}),
      loose: [],
    }));
    const samples = all.slice(1).map((submission, at) => ({ name: `Chosen ${at}`, submission }));
    const form = { name: 'Reports', key: 'reports', samples };
    return {
      intakes: [{ name: 'Field reports', settings: { sizeLimit: 10_000 }, forms: [form] }],
      targets: [kept],
      routes: [{ form, definition, proofs }],
    };
  });
const read = (files: WorkspaceFiles): Workspace => {
  const found = workspaceOf(files);
  if ('faults' in found) throw new Error(JSON.stringify(found.faults));
  return found;
};
const texts = (files: WorkspaceFiles) =>
  Object.fromEntries(Object.entries(files).map(([name, value]) => [name, fileText(value)]));
const parsed = (all: Record<string, string>): WorkspaceFiles =>
  Object.fromEntries(Object.entries(all).map(([name, text]) => [name, JSON.parse(text) as Json]));

test('files survive being read and written byte for byte, and proofs hold in them', () => {
  fc.assert(
    fc.property(workspaces, workspace => {
      const written = texts(filesOf(workspace));
      const again = read(parsed(written));
      expect(texts(filesOf(again))).toEqual(written);
      const [checked] = checkProofs(again);
      expect(checked).toMatchObject({ route: 'Reports to the roster', fault: null });
      expect(checked!.proofs.flatMap(each => each.differences)).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('each file is one of its own schema (2020-12), judged by ajv', () => {
  const ajv = new Ajv2020({ strict: false });
  const valid = Object.fromEntries(
    Object.entries(workspaceSchemas).map(([kind, schema]) => [kind, ajv.compile(schema as object)]),
  );
  const kindOf = (file: string) => Object.keys(valid).find(each => file.startsWith(`${each}s/`)) ?? null;
  fc.assert(
    fc.property(workspaces, workspace => {
      for (const [file, value] of Object.entries(parsed(texts(filesOf(workspace))))) {
        const kind = kindOf(file);
        if (kind === null) continue;
        const check = valid[kind]!;
        expect([file, check(value) ? [] : check.errors]).toEqual([file, []]);
      }
    }),
    { numRuns: 40 },
  );
  expect(valid.route!({ name: 'R' })).toBe(false);
  expect(
    valid.target!({
      name: 'T',
      baseUrl: 'x',
      operations: [{ id: 'a', label: 'A', method: 'BREW', path: '/', fields: [] }],
    }),
  ).toBe(false);
});

const [sample] = fc.sample(workspaces, { numRuns: 1, seed: 7 }) as [Workspace];
const files = () => parsed(texts(filesOf(sample)));

test('a line that is edited in its file is told, with the proof and the place', () => {
  fc.assert(
    fc.property(workspaces, workspace => {
      const edited = parsed(texts(filesOf(workspace)));
      const route = edited['routes/reports-to-the-roster.json'] as {
        calls: { lines: { to: string; source: Json; cleaning: Json[] }[] }[];
      };
      const line = route.calls[0]!.lines.find(each => each.to === 'name')!;
      line.source = { from: 'constant', value: 'Edited' };
      line.cleaning = [];
      const before = rehearseSamples(workspace)[0]!.samples;
      const sent = before.some(each =>
        each.requests.some(request => request.callId === 'c0' && request.purpose === 'create'),
      );
      const differing = checkProofs(read(edited))[0]!.proofs.filter(each => each.differences.length > 0);
      if (sent)
        expect(differing.flatMap(each => each.differences.map(difference => difference.place))).toContain('/name');
    }),
    { numRuns: 60 },
  );
});

test('targets are named, and no secret is in any file', () => {
  const all = files();
  expect(
    Object.keys(all)
      .filter(each => !/^(proofs|samples)\//.test(each))
      .sort(),
  ).toEqual([
    'intakes/field-reports.json',
    'routes/reports-to-the-roster.json',
    'schemas/intake.json',
    'schemas/proof.json',
    'schemas/route.json',
    'schemas/sample.json',
    'schemas/target.json',
    'targets/roster.json',
    'workspace.json',
  ]);
  expect((all['routes/reports-to-the-roster.json'] as { calls: { target: string }[] }).calls[0]!.target).toBe('roster');
  const withSecret = filesOf({
    ...sample,
    targets: [{ ...kept, secret: 's3cret', auth: { kind: 'bearer' } } as never],
  });
  expect(JSON.stringify(withSecret)).not.toContain('s3cret');
});

test.each<[string, (all: WorkspaceFiles) => void, string, RegExp]>([
  ['no workspace', all => void delete all['workspace.json'], 'workspace.json', /Not a workspace of format 1/],
  ['one of another format', all => void (all['workspace.json'] = { format: 2 }), 'workspace.json', /format 1/],
  [
    'a target without operations',
    all => void (all['targets/roster.json'] = { name: 'Roster' }),
    'targets/roster.json',
    /list of operations/,
  ],
  [
    'a target that is not there',
    all => void delete all['targets/roster.json'],
    'routes/reports-to-the-roster.json',
    /no targets\/roster.json/,
  ],
  [
    'a route without calls',
    all => void (all['routes/reports-to-the-roster.json'] = { name: 'R' }),
    'routes/reports-to-the-roster.json',
    /has a name, a condition, calls/,
  ],
  [
    'a route that is a list',
    all => void (all['routes/reports-to-the-roster.json'] = []),
    'routes/reports-to-the-roster.json',
    /has a name/,
  ],
  [
    'a route of a form that is nowhere',
    all => void ((all['routes/reports-to-the-roster.json'] as { form: string }).form = 'elsewhere/reports'),
    'routes/reports-to-the-roster.json',
    /“elsewhere\/reports” is in none of the intakes/,
  ],
  [
    'an intake whose forms have no key',
    all => void ((all['intakes/field-reports.json'] as { forms: Json }).forms = { reports: { name: 'Reports' } }),
    'intakes/field-reports.json',
    /forms that have a name and a key/,
  ],
  [
    'a sample without a submission',
    all => void (all['samples/field-reports/reports/x.json'] = { name: 'x' }),
    'samples/field-reports/reports/x.json',
    /A sample has/,
  ],
  [
    'a proof without a submission',
    all => void (all['proofs/reports-to-the-roster/sample-0.json'] = { name: 'x' }),
    'proofs/reports-to-the-roster/sample-0.json',
    /A proof has/,
  ],
])('what is wrong is told of the file: %s', (_, spoil, file, message) => {
  const all = files();
  spoil(all);
  expect(workspaceOf(all)).toEqual({
    faults: expect.arrayContaining([{ file, message: expect.stringMatching(message) }]),
  });
});

test.each([
  ['Sampling report to Register', 'sampling-report-to-register'],
  ['Élodie & Sören!', 'elodie-soren'],
  ['../../etc/passwd', 'etc-passwd'],
  ['…', 'unnamed'],
])('“%s” is a file called %s', (name, file) => expect(fileNameFor(name)).toBe(file));

test('two of one name are two files', () => {
  const two = filesOf({ intakes: [], targets: [kept, { ...kept, id: 't2' }], routes: [] });
  expect(Object.keys(two).filter(each => each.startsWith('targets/'))).toEqual([
    'targets/roster.json',
    'targets/roster-2.json',
  ]);
});

test('a route whose operation is gone is told as a whole', () => {
  const all = files();
  (all['targets/roster.json'] as { operations: Json[] }).operations = [];
  expect(checkProofs(read(all))[0]).toMatchObject({ fault: expect.stringMatching(/no longer offers/), proofs: [] });
});

test('of many of one name each stays what it was, also where one of them is gone', () => {
  const intakes = Array.from({ length: 12 }, (_, at) => ({
    name: 'Put right',
    settings: { sizeLimit: 1000 + at },
    forms: [],
  }));
  const written = filesOf({ intakes, targets: [], routes: [] });
  expect(filesOf(read(written))).toEqual(written);
  delete written['intakes/put-right-3.json'];
  expect(filesOf(read(written))).toEqual(written);
  // A file that is renamed is what its name says.
  written['intakes/mine.json'] = written['intakes/put-right-2.json']!;
  delete written['intakes/put-right-2.json'];
  const again = filesOf(read(written));
  expect(Object.keys(again)).not.toContain('intakes/mine.json');
  expect(Object.keys(again)).toContain('intakes/put-right-2.json');
});

describe('references to targets', () => {
  const other = { ...kept, id: 'files-desk', name: 'Files desk' };
  const fetching = (from: string): RouteDefinition['calls'][number]['lines'][number] => ({
    ...newLine('f', 'name'),
    source: { from: 'field', field: 'name' },
    cleaning: [{ id: 'files.fetch', params: { from, path: '/files/{value}', name: '' } }],
  });
  const withFetch = (from: string): Workspace => {
    const [route] = sample.routes;
    const [call] = route!.definition.calls;
    const definition = { ...route!.definition, calls: [{ ...call!, lines: [...call!.lines, fetching(from)] }] };
    return { ...sample, targets: [kept, { ...other, id: 'db-7' }], routes: [{ ...route!, definition, proofs: [] }] };
  };

  test('are by the names of files wherever they stand, and come back', () => {
    const written = filesOf(withFetch('db-7'));
    expect(JSON.stringify(written['routes/reports-to-the-roster.json'])).toContain('"from":"files-desk"');
    const again = read(parsed(texts(written)));
    expect(targetsOf(again.routes[0]!.definition)).toEqual([
      again.targets.find(each => each.name === kept.name)!.id,
      'files-desk',
    ]);
    expect(texts(filesOf(again))).toEqual(texts(written));
  });
  test('to a target that is in none of the files are told; to the form builder is none', () => {
    const found = workspaceOf(parsed(texts(filesOf(withFetch('gone')))));
    expect('faults' in found && found.faults[0]!.message).toMatch(/has files from “gone”/);
    expect(targetsOf(read(filesOf(withFetch('builder'))).routes[0]!.definition)).toHaveLength(1);
  });
  test('in what was approved are renamed as well', () =>
    expect(withTargets({ body: ['via:db-7/files/1', 'via:builder/x', 'viaduct'] }, id => `${id}!`)).toEqual({
      body: ['via:db-7!/files/1', 'via:builder/x', 'viaduct'],
    }));
});

test.each(['(((((a+)+)+)+)+)+b', 'visits (new', '[', '\\', '^.*$'])(
  'a route whose file is called “%s” is read in no time, and has its own proofs only',
  name => {
    const all = files();
    const route = all['routes/reports-to-the-roster.json']!;
    const named = Object.fromEntries(
      Object.entries(all).map(([file, value]) => [
        file.replace('/reports-to-the-roster/', `/${'a'.repeat(40)}/`),
        value,
      ]),
    );
    delete named['routes/reports-to-the-roster.json'];
    const found = read({ ...named, [`routes/${name}.json`]: route });
    expect(found.routes.map(each => [each.own, each.proofs])).toEqual([[name, []]]);
  },
);

test('no answer of a person stands in the name of a file', () => {
  const [route] = sample.routes;
  const proofs = route!.proofs.map(each => ({ ...each, name: 'Mira Teal, 14 Weir Lane' }));
  const named = Object.keys(filesOf({ ...sample, routes: [{ ...route!, proofs }] }));
  expect(named.filter(each => /mira|weir/i.test(each))).toEqual([]);
  expect(named.filter(each => each.startsWith('proofs/'))).toHaveLength(proofs.length);
});
