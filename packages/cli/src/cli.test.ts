import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const grammata = path.resolve(__dirname, '../bin/grammata.mjs');
const folder = mkdtempSync(path.join(tmpdir(), 'cli-'));
const run = (args: string[], input = '') => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [grammata, ...args], { input, encoding: 'utf8' });
  return { status, stderr, json: status === 0 ? (JSON.parse(stdout) as unknown) : stdout };
};
const fileWith = (content: unknown) => {
  const file = path.join(folder, `${Math.random()}.json`);
  writeFileSync(file, typeof content === 'string' ? content : JSON.stringify(content));
  return file;
};

describe('decode', () => {
  test('from standard input, with the members scripts may rely on', () => {
    expect(run(['decode', '-', '--type', 'application/json'], '{"submission_id":"e1","site":"AB-07"}').json).toEqual({
      submissions: [
        {
          form: null,
          id: 'e1',
          submittedAt: null,
          fields: [{ key: 'site', label: 'Site', kind: 'text', value: 'AB-07', pointer: '/site' }],
          files: [],
          meta: {},
        },
      ],
      notes: [],
    });
  });
  test('what can’t be read is told in notes, with exit code 0', () =>
    expect(run(['decode', '-', '--type', 'application/json'], '{"a"')).toMatchObject({
      status: 0,
      json: { submissions: [], notes: [{ code: 'media.json' }, {}, {}] },
    }));
  test('values of an address', () =>
    expect(run(['decode', '-', '--query', '?site=AB-07&ph=7.4']).json).toMatchObject({
      submissions: [{ fields: [{ key: 'site' }, { key: 'ph', value: '7.4' }] }],
    }));
});

describe('apply', () => {
  test('a chain over values, each with a value or a problem', () => {
    const file = fileWith({ chain: [{ id: 'number.read', params: {} }], values: ['8,4 °C', 'none', null] });
    expect(run(['apply', file]).json).toEqual({
      results: [
        { value: 8.4 },
        { problem: { code: 'number.none', message: expect.any(String), value: 'none' } },
        { value: null },
      ],
    });
  });
});

test('a parameter that is none is told, with what the step takes', () => {
  const { status, stderr } = run(
    ['apply', '-'],
    '{"chain":[{"id":"text.case","params":{"tot":"upper"}}],"values":["a"]}',
  );
  expect([status, stderr]).toEqual([
    2,
    expect.stringMatching(/step 1: “tot” is not a parameter of text\.case; it takes to\./),
  ]);
});

test.each<[string, string[], string]>([
  ['no command', [], ''],
  ['an unknown command', ['shout'], ''],
  ['no file', ['decode'], ''],
  ['a file that is not there', ['decode', '/no/such/file'], ''],
  ['an unknown option', ['decode', '-', '--loud'], ''],
  ['no JSON', ['apply', '-'], 'x'],
  ['the wrong members', ['apply', '-'], '{"chain":{}}'],
  ['an unknown step', ['apply', '-'], '{"chain":[{"id":"text.shout"}],"values":[]}'],
])('misuse ends with 2 and words on stderr: %s', (_, args, input) => {
  const { status, stderr, json } = run(args, input);
  expect([status, json]).toEqual([2, '']);
  expect(stderr).toMatch(/grammata/);
});

test('help is no misuse', () =>
  expect(execFileSync(process.execPath, [grammata, '--help'], { encoding: 'utf8' })).toContain('decode FILE'));

test('match proposes lines with a score and a reason', () => {
  const document = {
    from: { fields: [{ key: 'q1', label: 'Full name' }] },
    to: { fields: [{ key: 'family_name' }, { key: 'fax' }] },
  };
  const { json } = run(['match', '-'], JSON.stringify(document));
  expect(json).toEqual({
    lines: [
      {
        to: 'family_name',
        from: 'q1',
        score: expect.any(Number) as number,
        why: expect.stringContaining('Full name') as string,
      },
      { to: 'fax', from: null, score: 0, why: expect.any(String) as string },
    ],
  });
});
