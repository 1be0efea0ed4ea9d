import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import { ConfigFault, configFrom } from './config';
import { assemble } from './start';
import { startServer } from './testing/running';

test('defaults to loopback', () =>
  expect(configFrom({}, '/srv')).toMatchObject({
    host: '127.0.0.1',
    port: 4600,
    publicUrl: 'http://127.0.0.1:4600',
    allowPrivate: [],
    demo: false,
  }));

test('takes what the environment says', () =>
  expect(
    configFrom(
      {
        GRAMMATA_PORT: '80',
        GRAMMATA_HOST: '0.0.0.0',
        GRAMMATA_PUBLIC_URL: 'https://hooks.example.org/',
        GRAMMATA_ALLOW_PRIVATE: '10.0.0.0/8, intranet:8080',
      },
      '/srv',
    ),
  ).toMatchObject({
    port: 80,
    publicUrl: 'https://hooks.example.org',
    allowPrivate: ['10.0.0.0/8', 'intranet:8080'],
  }));

test.each(['x', '-1', '70000', '1.5'])('port %s is refused with words', port =>
  expect(() => configFrom({ GRAMMATA_PORT: port }, '/')).toThrow(ConfigFault),
);

test('a level of the log that is none is refused with words', () =>
  expect(() => configFrom({ GRAMMATA_LOG: 'verbose' }, '/')).toThrow(/GRAMMATA_LOG is “verbose”; give one of trace,/));

describe('data whose key is not there', () => {
  const start = (dataDir: string) => () =>
    assemble({ ...configFrom({}, process.cwd()), dataDir, ledgerFile: null }, pino({ level: 'silent' }));
  const sealed = async () => {
    const dataDir = mkdtempSync(path.join(tmpdir(), 'grammata-'));
    const client = await startServer({ dataDir });
    await client.call('POST', '/targets', {
      name: 'T',
      baseUrl: 'https://t.example.org',
      auth: { kind: 'bearer' },
      token: 'a token',
    });
    await client.stop();
    return dataDir;
  };
  test('is not started: the key is named, and nothing is written', async () => {
    const dataDir = await sealed();
    rmSync(path.join(dataDir, 'key'));
    const before = readdirSync(dataDir);
    expect(start(dataDir)).toThrow(
      new ConfigFault(
        `The key is missing: ${path.join(dataDir, 'key')}. Secrets in this data were sealed with it. Put the file “key” of the same backup there; nothing was changed.`,
      ),
    );
    expect(readdirSync(dataDir)).toEqual(before);
  });
  test('nor with the key of another', async () => {
    const dataDir = await sealed();
    writeFileSync(path.join(dataDir, 'key'), Buffer.alloc(32, 1).toString('base64'));
    expect(start(dataDir)).toThrow(/is not the one that this data’s secrets were sealed with/);
    // It was let go of: the right one starts it.
    expect(start(dataDir)).toThrow(/is not the one/);
  });
});

test.each<[string | undefined, boolean]>([
  [undefined, true],
  ['on', true],
  ['off', false],
])('changes are looked for: %s', (GRAMMATA_CHANGES, expected) =>
  expect(configFrom({ GRAMMATA_CHANGES }, '/').changesAfter !== null).toBe(expected),
);
test('what is neither on nor off is refused', () =>
  expect(() => configFrom({ GRAMMATA_CHANGES: 'no' }, '/')).toThrow(/GRAMMATA_CHANGES.*on or off/));

test('a data folder that can’t be used is told with words, not a stack', () => {
  const config = configFrom({ GRAMMATA_DATA: `${__filename}/below-a-file` }, '/srv');
  expect(() => assemble(config)).toThrow(/can't be used.*Set GRAMMATA_DATA/);
});
