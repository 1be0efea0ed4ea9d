import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { IntakeView, ProposedProofs, RouteView, TargetView } from '@grammata/contract';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { draftOf } from '../testing/draftOf';
import { eventually, startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// A folder is exported, checked in a pipeline, and edited: all by the command line.

let client: Client;
let target: FakeTarget;
let folder: string;

const grammata = path.resolve(__dirname, '../../../cli/bin/grammata.mjs');
const run = (args: string[], env: NodeJS.ProcessEnv = {}): Promise<{ code: number; out: string; err: string }> =>
  new Promise(resolve =>
    execFile(process.execPath, [grammata, ...args], { env: { ...process.env, ...env } }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    ),
  );

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  folder = mkdtempSync(path.join(tmpdir(), 'workspace-'));
  const intake = (await client.call<IntakeView>('POST', '/intakes', { name: 'Reports' })).json;
  for (const [id, site] of [
    ['s1', 'AB-07'],
    ['s2', 'AB-02'],
  ])
    await fetch(`${client.url}${new URL(intake.address).pathname}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ submission_id: id, site, ph: 7.4 }),
    });
  const seen = await eventually(
    async () => (await client.call<{ formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`)).json,
    list => list.length === 2 && list.every(each => each.formId !== null),
  );
  const made = (
    await client.call<TargetView>('POST', '/targets', {
      name: 'Register',
      baseUrl: target.url,
      discoveryPath: '/tables',
      token: 'a secret token',
    })
  ).json;
  const route = (
    await client.call<RouteView>('POST', '/routes', {
      name: 'Reports',
      formId: seen[0]!.formId,
      targetId: made.id,
      operationId: 'create:samples',
    })
  ).json;
  for (const to of ['site', 'ph'])
    route.draft.calls[0]!.lines.find(each => each.to === to)!.source = { from: 'field', field: to };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  const { json } = await client.call<ProposedProofs>('POST', `/routes/${route.id}/proofs/propose`);
  await client.call('POST', `/routes/${route.id}/proofs`, { sampleIds: json.samples.map(each => each.sampleId) });
});
afterEach(async () => {
  await client.stop();
  await target.stop();
  rmSync(folder, { recursive: true });
});

const exported = () => run(['export', folder, '--server', client.url], { GRAMMATA_PASSWORD: 'withy bridge at dawn' });

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
  const fine = await run(['proof', '--workspace', folder, '--junit', junit]);
  expect([fine.code, JSON.parse(fine.out)]).toEqual([
    0,
    { routes: [{ route: 'Reports', fault: null, proofs: expect.any(Number), differing: [] }] },
  ]);
  expect(XMLValidator.validate(readFileSync(junit, 'utf8'))).toBe(true);

  const at = path.join(folder, 'routes/reports.json');
  writeFileSync(at, readFileSync(at, 'utf8').replace('"field": "ph"', '"field": "site"'));
  const refused = await run(['proof', '--workspace', folder, '--route', 'Reports', '--junit', junit]);
  expect(refused.code).toBe(1);
  const [told] = (
    JSON.parse(refused.out) as { routes: { differing: { differences: { place: string; kind: string }[] }[] }[] }
  ).routes;
  expect(told!.differing.length).toBeGreaterThan(0);
  expect(JSON.stringify(told!.differing)).toMatch(/ph|held/);
  const { testsuites } = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(
    readFileSync(junit, 'utf8'),
  ) as { testsuites: { failures: string; tests: string; testsuite: { name: string } } };
  expect(testsuites).toMatchObject({ testsuite: { name: 'Reports' } });
  expect(Number(testsuites.failures)).toBeGreaterThan(0);

  const rehearsed = await run(['rehearse', '--workspace', folder]);
  expect([rehearsed.code, (JSON.parse(rehearsed.out) as { routes: object[] }).routes.length]).toEqual([0, 1]);
});

test.each<[string, () => string[], NodeJS.ProcessEnv, RegExp]>([
  [
    'a wrong password',
    () => ['export', folder, '--server', client.url],
    { GRAMMATA_PASSWORD: 'another' },
    /GRAMMATA_PASSWORD is not the right one/,
  ],
  ['no password', () => ['export', folder, '--server', client.url], {}, /set GRAMMATA_PASSWORD/],
  ['nobody there', () => ['export', folder, '--server', 'http://127.0.0.1:1'], {}, /nothing answers/],
  ['no folder', () => ['proof', '--workspace', '/nowhere'], {}, /no folder/],
  ['no workspace', () => ['proof', '--workspace', folder], {}, /workspace.json: It is no workspace/],
  ['nothing said', () => ['proof'], {}, /--workspace DIR/],
])('misuse is told with exit code 2: %s', async (_, args, env, message) => {
  const { code, err } = await run(args(), env);
  expect([code, err]).toEqual([2, expect.stringMatching(message)]);
});
