import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { execFileSync, spawnSync } from 'node:child_process';

const bin = path.resolve(__dirname, '../bin/grammata.mjs');
let folder: string;
beforeAll(() => {
  // Made once: the first start bundles what is newer than its bundle.
  execFileSync(process.execPath, [bin, 'help']);
});
beforeEach(() => (folder = mkdtempSync(path.join(tmpdir(), 'drift-'))));
afterEach(() => rmSync(folder, { recursive: true }));

function drift(given: unknown, isText = false) {
  const file = path.join(folder, 'given.json');
  writeFileSync(file, isText ? String(given) : JSON.stringify(given));
  const { status, stdout, stderr } = spawnSync(process.execPath, [bin, 'drift', file], { encoding: 'utf8' });
  return { status, stderr, told: stdout ? (JSON.parse(stdout) as { changes: object[] }) : null };
}
const requests = (label: string) =>
  Array.from({ length: 6 }, (_, at) => ({
    body: {
      id: `s-10${at}`,
      answers: [
        { key: 'site', label, value: `AB-0${at}` },
        { key: 'who', label: 'Your name', value: `Ada Reed ${at}` },
      ],
    },
  }));
const document = (type: string) => ({
  openapi: '3.1.0',
  paths: {
    '/kits': {
      post: { requestBody: { content: { 'application/json': { schema: { properties: { size: { type } } } } } } },
    },
  },
});

test('what a form sent before and after', () => {
  expect(drift({ before: requests('Which site?'), after: requests('Which site?') })).toEqual({
    status: 0,
    stderr: '',
    told: { changes: [] },
  });
  expect(drift({ before: requests('Which site?'), after: requests('At which site?') })).toMatchObject({
    status: 1,
    told: { changes: [{ change: 'reworded', question: 'site', was: 'Which site?', now: 'At which site?' }] },
  });
});

test('bodies as text, with their media type and query', () => {
  const of = (mark: string) =>
    Array.from({ length: 5 }, (_, at) => ({
      body: `site=AB-0${at}&when=2026${mark}10${mark}1${at}`,
      type: 'application/x-www-form-urlencoded',
      query: '?form=7',
    }));
  expect(drift({ before: of('-'), after: of('/') })).toMatchObject({
    status: 1,
    told: { changes: [{ change: 'notation', question: 'when' }] },
  });
});

test('what a document says before and after', () => {
  expect(drift({ before: document('integer'), after: document('integer') })).toMatchObject({ status: 0 });
  expect(drift({ before: document('integer'), after: document('string') })).toMatchObject({
    status: 1,
    told: { changes: [{ change: 'type', operation: 'POST /kits', field: '/size', was: 'integer', now: 'string' }] },
  });
});

test.each<[string, unknown, boolean, RegExp]>([
  ['no JSON', '{', true, /is not JSON/],
  ['nothing to compare', {}, false, /give \{"before"/],
  ['only one side', { before: [] }, false, /give \{"before"/],
  ['one of each', { before: [], after: document('string') }, false, /not one of each/],
  ['what is no request', { before: [{ type: 'x' }], after: [] }, false, /before\[0\] is not a request/],
  ['a type that is no text', { before: [], after: [{ body: 1, type: 2 }] }, false, /after\[0\] is not a request/],
  ['no documents', { before: {}, after: {} }, false, /neither requests nor OpenAPI/],
])('misuse is exit code 2: %s', (_, given, isText, message) => {
  const { status, stderr, told } = drift(given, isText);
  expect([status, told, stderr]).toEqual([2, null, expect.stringMatching(message)]);
});
