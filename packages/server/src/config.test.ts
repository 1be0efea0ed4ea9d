import { ConfigFault, configFrom } from './config';
import { assemble } from './start';

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

test.each<[string | undefined, boolean]>([
  [undefined, true],
  ['on', true],
  ['off', false],
])('changes are looked for: %s', (GRAMMATA_CHANGES, expected) =>
  expect(configFrom({ GRAMMATA_CHANGES }, '/').looksForChanges).toBe(expected),
);
test('what is neither on nor off is refused', () =>
  expect(() => configFrom({ GRAMMATA_CHANGES: 'no' }, '/')).toThrow(/GRAMMATA_CHANGES.*on or off/));

test('a data folder that can’t be used is told with words, not a stack', () => {
  const config = configFrom({ GRAMMATA_DATA: `${__filename}/below-a-file` }, '/srv');
  expect(() => assemble(config)).toThrow(/can't be used.*Set GRAMMATA_DATA/);
});
