import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ComparedView, IntakeView, ProofView, RouteView, TargetView } from '@grammata/contract';
import type { WorkspaceFiles } from '@grammata/core/workspace';
import { draftOf } from '../testing/draftOf';
import { grammata } from '../testing/grammata';
import { withProofs, withRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// A workspace goes from a server to files and back, or to another server.

let client: Client;
let target: FakeTarget;
let routeId: string;
let formId: string;

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  const drawn = await withRoute(client, target, [
    { submission_id: 's1', site: 'AB-07', ph: 7.4 },
    { submission_id: 's2', site: 'AB-02', ph: 7.4 },
  ]);
  ({ formId } = drawn);
  routeId = drawn.route.id;
  await withProofs(client, drawn.route);
  const { samples } = (await client.call<{ samples: { submission: object }[] }>('GET', `/forms/${formId}/samples`))
    .json;
  await client.call('POST', `/forms/${formId}/variants`, { name: 'No reading', submission: samples[0]!.submission });
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

const files = async (of: Client = client) => (await of.call<WorkspaceFiles>('GET', '/workspace')).json;
// Edited as a person edits a file: nothing says what is in it.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
const at = (all: WorkspaceFiles, file: string) => all[file] as Record<string, any>;
const compare = async (all: WorkspaceFiles, to: Client = client) =>
  (await to.call<ComparedView>('POST', '/workspace/compare', { files: all })).json;
const take = (all: WorkspaceFiles, mark: string, to: Client = client) =>
  to.call<{ title: string; errors?: { field: string; message: string }[] }>('POST', '/workspace', { files: all, mark });
const draft = async () => (await client.call<RouteView>('GET', `/routes/${routeId}`)).json;

test('what was exported is no difference; what is edited is shown, and taken over as a whole', async () => {
  const all = await files();
  expect(Object.keys(all)).toEqual(
    expect.arrayContaining(['intakes/reports.json', 'samples/reports/reports/no-reading.json']),
  );
  expect(await compare(all)).toMatchObject({ changes: [], stays: [], faults: [], proofs: [{ proofs: [] }] });

  const route = at(all, 'routes/reports.json');
  route.terms.hours = 5;
  route.calls[0].lines.find((each: { to: string }) => each.to === 'ph').source.field = 'site';
  at(all, 'samples/reports/reports/no-reading.json').submission.fields.pop();
  at(all, 'intakes/reports.json').settings.keepDays = 30;
  const view = await compare(all);
  expect(view.changes.map(({ file, change }) => [file, change])).toEqual([
    ['intakes/reports.json', 'changed'],
    ['routes/reports.json', 'changed'],
    ['samples/reports/reports/no-reading.json', 'changed'],
  ]);
  expect(view.changes[1]!.differences.map(({ place, was, now }) => [place.slice(-3), was, now])).toEqual([
    [['ph', 'source', 'field'], 'ph', 'site'],
    [['terms', 'hours'], 24, 5],
  ]);
  // What was approved would be otherwise: told before anything is done.
  expect(view.proofs[0]!.proofs.length).toBeGreaterThan(0);
  expect((await draft()).draft.terms.hours).toBe(24);

  const before = await draft();
  expect((await take(all, view.mark)).status).toBe(200);
  const after = await draft();
  expect([after.draft.terms.hours, after.revision]).toEqual([5, before.revision + 1]);
  expect((await client.call<IntakeView[]>('GET', '/intakes')).json[0]).toMatchObject({ keepDays: 30 });
  expect((await compare(await files())).changes).toEqual([]);
});

test('what was shown is what is done: an edit in between refuses it', async () => {
  const all = await files();
  at(all, 'routes/reports.json').terms.hours = 5;
  const { mark } = await compare(all);
  const route = await draft();
  await client.call('PUT', `/routes/${routeId}/draft`, {
    ...draftOf(route),
    definition: { ...route.draft, name: 'Reports, by hand' },
  });
  const { status, json } = await take(all, mark);
  expect([status, json.title]).toEqual([409, 'Something has changed.']);
  expect((await draft()).draft.terms.hours).toBe(24);
  expect((await take(all, 'of nothing')).status).toBe(409);
});

test.each<[string, (all: WorkspaceFiles) => void, string, RegExp]>([
  [
    'an operation of no known method',
    all => void (at(all, 'targets/register.json').operations[0].method = 'BREW'),
    'targets/register.json',
    /^\/operations\/0\/method must be/,
  ],
  [
    'a route that moves to another form',
    all => {
      at(all, 'intakes/reports.json').forms.other = { name: 'Other', key: 'other' };
      at(all, 'routes/reports.json').form = 'reports/other';
    },
    'routes/reports.json',
    /can’t change its form/,
  ],
  [
    'two lines of one identifier, among much that is fine',
    all => {
      at(all, 'intakes/reports.json').settings.keepDays = 7;
      const { lines } = at(all, 'routes/reports.json').calls[0];
      lines[1].id = lines[0].id;
    },
    'routes/reports.json',
    /./,
  ],
  [
    'an intake that asks for signatures, without its secret',
    all =>
      void (at(all, 'intakes/reports.json').settings.verification = {
        kind: 'header',
        name: 'x-token',
      }),
    'intakes/reports.json',
    /./,
  ],
  [
    'a setting that is none',
    all => {
      at(all, 'routes/reports.json').terms.hours = 9;
      at(all, 'intakes/reports.json').settings.sizeLimit = 1;
    },
    'intakes/reports.json',
    /sizeLimit: Enter a size/,
  ],
])('one thing that can’t be taken over refuses all: %s', async (_, spoil, file, message) => {
  const all = await files();
  spoil(all);
  const was = await files();
  const { mark } = await compare(all);
  const { status, json } = await take(all, mark);
  expect(status).toBe(422);
  expect(json.errors).toEqual(expect.arrayContaining([{ field: file, message: expect.stringMatching(message) }]));
  expect(await files()).toEqual(was);
});

test('on a server that has nothing yet, all of it is made, without secrets, and gives the same files', async () => {
  const all = await files();
  const other = await startServer();
  try {
    const view = await compare(all, other);
    expect(view.changes.every(each => each.change === 'added')).toBe(true);
    expect((await take(all, view.mark, other)).status).toBe(200);
    expect(await files(other)).toEqual(all);
    const [route] = (await other.call<RouteView[]>('GET', '/routes')).json;
    const proofs = (await other.call<ProofView[]>('GET', `/routes/${route!.id}/proofs`)).json;
    expect(proofs.length).toBeGreaterThan(0);
    const [head] = (await other.call<TargetView[]>('GET', '/targets')).json;
    const register = (await other.call<TargetView>('GET', `/targets/${head!.id}`)).json;
    expect(register).toMatchObject({ name: 'Register', hasToken: false });
  } finally {
    await other.stop();
  }
});

test('proofs and variants that a folder lacks go; a recorded sample stays, and is not rewritten', async () => {
  const { samples } = (
    await client.call<{ samples: { id: string; isVariant: boolean }[] }>('GET', `/forms/${formId}/samples`)
  ).json;
  await client.call('PATCH', `/samples/${samples.find(each => !each.isVariant)!.id}`, { name: 'The usual' });
  const all = await files();
  for (const file of Object.keys(all)) if (/^(proofs|samples)\//.test(file)) delete all[file];
  const view = await compare(all);
  expect(new Set(view.changes.map(({ kind, change }) => `${kind} ${change}`))).toEqual(
    new Set(['proof gone', 'sample gone']),
  );
  expect(view.stays).toEqual([{ kind: 'sample', name: 'The usual' }]);
  expect((await take(all, view.mark)).status).toBe(200);
  expect((await client.call<ProofView[]>('GET', `/routes/${routeId}/proofs`)).json).toEqual([]);

  const rewritten = await files();
  at(rewritten, 'samples/reports/reports/the-usual.json').submission.fields.pop();
  expect((await compare(rewritten)).faults).toEqual([
    {
      file: 'samples/reports/reports/the-usual.json',
      message: expect.stringMatching(/Received samples can’t be changed/),
    },
  ]);
});

test.each<[unknown, number, string]>([
  [{}, 400, 'Give the files by their paths.'],
  [{ files: [] }, 400, 'Give the files by their paths.'],
])('what is no workspace is refused: %j', async (body, status, title) => {
  const answer = await client.call<{ title: string }>('POST', '/workspace/compare', body);
  expect([answer.status, answer.json.title]).toEqual([status, title]);
});

test('what is nested without end is refused, and takes nobody down', async () => {
  const deep = `${'['.repeat(5000)}${']'.repeat(5000)}`;
  const answer = await fetch(`${client.url}/api/workspace/compare`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie: client.cookie() },
    body: `{"files":{"routes/a.json":${deep}}}`,
  });
  expect(answer.status).toBe(422);
  expect((await client.call('GET', '/session')).status).toBe(200);
});

test('by the command line: the difference first, then the whole of it', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'workspace-'));
  const password = { GRAMMATA_PASSWORD: 'withy bridge at dawn' };
  const run = (...args: string[]) => grammata([...args, '--server', client.url], password);
  try {
    await run('export', folder);
    expect(await run('import', folder)).toMatchObject({ code: 0 });
    const file = path.join(folder, 'routes/reports.json');
    writeFileSync(file, readFileSync(file, 'utf8').replace('"hours": 24', '"hours": 5'));
    const shown = await run('import', folder);
    expect([shown.code, JSON.parse(shown.out)]).toEqual([
      1,
      expect.objectContaining({ imported: false, changes: [expect.objectContaining({ file: 'routes/reports.json' })] }),
    ]);
    expect((await draft()).draft.terms.hours).toBe(24);
    const taken = await run('import', folder, '--apply');
    expect([taken.code, JSON.parse(taken.out)]).toEqual([0, expect.objectContaining({ imported: true })]);
    expect((await draft()).draft.terms.hours).toBe(5);
    // The same checks run against the server itself.
    const held = await run('proof');
    expect([held.code, JSON.parse(held.out)]).toEqual([
      0,
      { routes: [expect.objectContaining({ route: 'Reports', differing: [] })] },
    ]);
    const rehearsed = JSON.parse((await run('rehearse')).out) as { routes: { samples: { name: string }[] }[] };
    expect(rehearsed.routes[0]!.samples.map(each => each.name)).toContain('No reading');
    writeFileSync(file, readFileSync(file, 'utf8').replace('"hours": 5', '"hours": -5'));
    const refused = await run('import', folder, '--apply');
    expect([refused.code, JSON.parse(refused.out)]).toEqual([
      1,
      expect.objectContaining({
        imported: false,
        faults: [{ file: 'routes/reports.json', message: expect.any(String) }],
      }),
    ]);
    expect(readdirSync(folder).sort()).toEqual(
      ['intakes', 'proofs', 'routes', 'samples', 'schemas', 'targets', 'workspace.json'].sort(),
    );
  } finally {
    rmSync(folder, { recursive: true });
  }
});
