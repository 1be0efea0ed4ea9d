import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ComparedView, TargetView } from '@grammata/contract';
import type { Json } from '@grammata/core/submission';
import { offered } from '@grammata/core/target';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { json, startAnswering } from '../testing/answering';
import { grammata } from '../testing/grammata';
import { withProofs, withRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// A folder is exported, checked in a pipeline, and edited: all by the command line.

let client: Client;
let target: FakeTarget;
let folder: string;

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  folder = mkdtempSync(path.join(tmpdir(), 'workspace-'));
  const { route } = await withRoute(client, target, [
    { submission_id: 's1', site: 'AB-07', ph: 7.4 },
    { submission_id: 's2', site: 'AB-02', ph: 7.4 },
  ]);
  await withProofs(client, route);
});
afterEach(async () => {
  await client.stop();
  await target.stop();
  rmSync(folder, { recursive: true });
});

const exported = () =>
  grammata(['export', folder, '--server', client.url], { GRAMMATA_PASSWORD: 'withy bridge at dawn' });

test('exported, checked, edited, refused with the place named; the same again is the same to the byte', async () => {
  const first = await exported();
  expect([first.code, first.err]).toEqual([0, '']);
  const files = readdirSync(folder, { recursive: true })
    .map(String)
    .filter(each => each.endsWith('.json'));
  expect(files.sort()).toEqual(
    expect.arrayContaining(['routes/reports.json', 'targets/register.json', 'workspace.json']),
  );
  const text = () => files.map(each => readFileSync(path.join(folder, each), 'utf8'));
  const before = text();
  expect(before.join()).not.toContain('a secret token');
  await exported();
  expect(text()).toEqual(before);

  const junit = path.join(folder, 'report.xml');
  const fine = await grammata(['proof', '--workspace', folder, '--junit', junit]);
  expect([fine.code, JSON.parse(fine.out)]).toEqual([
    0,
    { routes: [{ route: 'Reports', fault: null, proofs: expect.any(Number), differing: [] }] },
  ]);
  expect(XMLValidator.validate(readFileSync(junit, 'utf8'))).toBe(true);

  const at = path.join(folder, 'routes/reports.json');
  writeFileSync(at, readFileSync(at, 'utf8').replace('"field": "ph"', '"field": "site"'));
  const refused = await grammata(['proof', '--workspace', folder, '--route', 'Reports', '--junit', junit]);
  expect(refused.code).toBe(1);
  const [told] = (
    JSON.parse(refused.out) as { routes: { differing: { differences: { place: string; kind: string }[] }[] }[] }
  ).routes;
  expect(told!.differing.length).toBeGreaterThan(0);
  expect(JSON.stringify(told!.differing)).toMatch(/ph|held/);
  const { testsuites } = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(
    readFileSync(junit, 'utf8'),
  ) as { testsuites: { testsuite: { name: string; failures: string } } };
  expect(testsuites).toMatchObject({ testsuite: { name: 'Reports' } });
  expect(Number(testsuites.testsuite.failures)).toBeGreaterThan(0);

  const rehearsed = await grammata(['rehearse', '--workspace', folder]);
  expect([rehearsed.code, (JSON.parse(rehearsed.out) as { routes: object[] }).routes.length]).toEqual([0, 1]);
});

test('a slip in a file is told, and not passed over', async () => {
  await exported();
  const at = path.join(folder, 'routes/reports.json');
  writeFileSync(at, readFileSync(at, 'utf8').replace('"whenProblem"', '"whenProblm"'));
  const refused = await grammata(['proof', '--workspace', folder]);
  expect([refused.code, refused.err]).toEqual([2, expect.stringContaining('routes/reports.json: ')]);
  expect(refused.err).toContain('unknown property “whenProblm”');
});

test('a target travels with all that is set of it, and its hand-set operations stay when it is read', async () => {
  const answer = (table: string) => ({ add: { id: `set:${table}`, label: 'By hand', method: 'POST', path: `/${table}`, fields: [] } }); // prettier-ignore
  const [register] = (await client.call<TargetView[]>('GET', '/targets')).json;
  const set = {
    pace: { concurrency: 2, perSecond: 3, parkAfter: 4 },
    patience: { connect: 3, firstByte: 5, whole: 7 },
    tryBaseUrl: 'https://try.example.org',
  };
  expect((await client.call('PATCH', `/targets/${register!.id}`, set)).status).toBe(200);
  const { store } = client.running.services;
  const row = store.targets.byId(register!.id)!;
  const own = [{ id: 'set:x', operation: answer('x').add as never, was: null }];
  store.targets.update(row.id, { own, operations: offered(row.operations, own) });
  await exported();
  const other = await startServer();
  try {
    const files = Object.fromEntries(
      readdirSync(folder, { recursive: true })
        .map(String)
        .filter(each => each.endsWith('.json'))
        .map(each => [each, JSON.parse(readFileSync(path.join(folder, each), 'utf8')) as Json]),
    );
    const { mark, faults } = (await other.call<ComparedView>('POST', '/workspace/compare', { files })).json;
    expect(faults).toEqual([]);
    expect((await other.call('POST', '/workspace', { files, mark })).status).toBe(200);
    const [taken] = other.running.services.store.targets.all();
    expect(taken).toMatchObject({ pace: set.pace, patience: set.patience, trySide: { baseUrl: set.tryBaseUrl }, own });
    expect(taken!.operations.map(each => each.id)).toContain('set:x');
    // What is exported there is the same to the byte.
    expect((await other.call('GET', '/workspace')).json).toEqual(files);
  } finally {
    await other.stop();
  }
});

test('whoever looks after a target can ask what another document would do, before it is published', async () => {
  await client.call('POST', '/targets', { name: 'Ledger', baseUrl: target.url, discoveryPath: '/tables' });
  await exported();
  const file = path.join(folder, 'document.txt');
  const paths = { '/elsewhere': { post: { operationId: 'add', responses: {} } } };
  writeFileSync(file, JSON.stringify({ openapi: '3.1.0', info: { title: 'R', version: '1' }, paths }));
  const ask = async (name: string) => {
    const { code, out } = await grammata(['suppose', file, '--target', name, '--workspace', folder]);
    return { code, told: JSON.parse(out) as { changes: object[]; routes: object[] } };
  };
  // Nothing goes there.
  expect(await ask('Ledger')).toMatchObject({ code: 0, told: { routes: [] } });
  const { code, told } = await ask('Register');
  expect([code, told.routes]).toMatchObject([
    1,
    [{ route: 'Reports', samples: { looked: 1, held: 0, heldThen: 1 }, proofs: { differing: 0, differingThen: 1 } }],
  ]);
  expect(told.changes).toContainEqual(expect.objectContaining({ change: 'operation-gone' }));
});

test.each<[string, () => string[], NodeJS.ProcessEnv, RegExp]>([
  [
    'a wrong password',
    () => ['export', folder, '--server', client.url],
    { GRAMMATA_PASSWORD: 'another' },
    /wrong password in GRAMMATA_PASSWORD/,
  ],
  ['no password', () => ['export', folder, '--server', client.url], {}, /set GRAMMATA_PASSWORD/],
  ['nobody there', () => ['export', folder, '--server', 'http://127.0.0.1:1'], {}, /nothing answers/],
  ['no folder', () => ['proof', '--workspace', '/nowhere'], {}, /no folder/],
  ['no workspace', () => ['proof', '--workspace', folder], {}, /workspace.json: Not a workspace/],
  ['nothing said', () => ['proof'], {}, /--workspace DIR/],
  ['no target named', () => ['suppose', 'x.json', '--workspace', folder], {}, /--target NAME/],
  ['nowhere to suppose it', () => ['suppose', 'x.json', '--target', 'Register'], {}, /--workspace DIR/],
  ['no document', () => ['suppose', '--target', 'Register', '--workspace', folder], {}, /FILE with the document/],
  ['an option of another command', () => ['rehearse', '--workspace', folder, '--junit', 'x.xml'], {}, /--junit/],
])('misuse is told with exit code 2: %s', async (_, args, env, message) => {
  const { code, err } = await grammata(args(), env);
  expect([code, err]).toEqual([2, expect.stringMatching(message)]);
});

test('what is no workspace is not written over', async () => {
  mkdirSync(path.join(folder, 'routes'));
  const own = path.join(folder, 'routes/mine.txt');
  writeFileSync(own, 'mine');
  const { code, err } = await exported();
  expect([code, err]).toEqual([2, expect.stringMatching(/contains other files/)]);
  expect(readFileSync(own, 'utf8')).toBe('mine');
  expect(readdirSync(folder)).toEqual(['routes']);
  // Beside what else a repository has, it goes where none of it is.
  rmSync(path.join(folder, 'routes'), { recursive: true });
  writeFileSync(path.join(folder, 'README.md'), 'read me');
  expect((await exported()).code).toBe(0);
  expect(readFileSync(path.join(folder, 'README.md'), 'utf8')).toBe('read me');
});

test('a server has no say over files outside the folder', async () => {
  const side = await startAnswering((_heard, response) => json(response, 200, { '../../outside.json': {} }));
  const { code, err } = await grammata(['export', folder, '--server', side.url], {});
  await side.stop();
  expect([code, err]).toEqual([2, expect.stringMatching(/names a file “\.\.\/\.\.\/outside\.json”/)]);
  expect(readdirSync(folder)).toEqual([]);
});
