import { statSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { connect } from 'node:net';
import path from 'node:path';
import { eventually, startServer, type Client } from '../testing/running';
import { entranceOf } from './guard';
import { vaultWith } from './secrets';

const request = (headers: Record<string, string>, remoteAddress = '127.0.0.1', localAddress = '127.0.0.1') =>
  ({
    headers,
    socket: { remoteAddress, localAddress, localPort: 4600 },
    connection: { remoteAddress },
  }) as unknown as IncomingMessage;

// RFC 9110 §7.2: the Host tells which of the names of a server is meant.
test.each<[host: string, remote: string, isFor: boolean]>([
  ['forms.example.org', '203.0.113.7', true],
  ['FORMS.example.org', '203.0.113.7', true],
  ['forms.example.org:8443', '203.0.113.7', false],
  ['evil.example.org', '127.0.0.1', false],
  ['localhost:4600', '127.0.0.1', true],
  ['127.0.0.1:4600', '127.0.0.1', true],
  ['[::1]:4600', '::1', true],
  ['localhost:4600', '203.0.113.7', false],
  ['localhost:9999', '127.0.0.1', false],
  ['localhost.evil.example.org', '127.0.0.1', false],
  ['localhost@evil.example.org', '127.0.0.1', false],
  ['', '127.0.0.1', false],
])('the host %j, asked for from %s, is ours: %s', (host, remote, isFor) =>
  expect(entranceOf('https://forms.example.org', []).isForUs(request({ host }, remote))).toBe(isFor),
);

// Fetch Standard, “Origin” header: scheme, host and port; or null.
test.each<[origin: string, isOurs: boolean]>([
  ['https://forms.example.org', true],
  ['http://forms.example.org', false],
  ['https://forms.example.org:8443', false],
  ['https://evil.example.org', false],
  ['null', false],
])('a page of %s may change things: %s', (origin, isOurs) =>
  expect(entranceOf('https://forms.example.org', []).isOurs(origin, request({ host: 'forms.example.org' }))).toBe(
    isOurs,
  ),
);

test.each<[proxies: string[], remote: string, forwarded: string | undefined, sender: string]>([
  [[], '10.0.0.1', '198.51.100.9', '10.0.0.1'],
  [['10.0.0.0/8'], '10.0.0.1', '198.51.100.9', '198.51.100.9'],
  [['10.0.0.0/8'], '203.0.113.7', '198.51.100.9', '203.0.113.7'],
  // What a sender wrote itself stands before what the proxy adds.
  [['10.0.0.0/8'], '10.0.0.1', '127.0.0.1, 198.51.100.9', '198.51.100.9'],
  [['10.0.0.0/8'], '10.0.0.1', undefined, '10.0.0.1'],
  [['127.0.0.1'], '::ffff:127.0.0.1', '198.51.100.9', '198.51.100.9'],
])('with proxies %j, %s forwarding for %s is %s', (proxies, remote, forwarded, sender) => {
  const headers: Record<string, string> = forwarded === undefined ? {} : { 'x-forwarded-for': forwarded };
  const entrance = entranceOf('https://forms.example.org', proxies);
  expect(entrance.senderOf(request(headers, remote))).toBe(sender);
});

test('behind a proxy nobody is on this machine', () => {
  const headers = { host: 'localhost:4600', 'x-forwarded-for': '198.51.100.9' };
  // Whoever says that it is a proxy is one, trusted or not.
  expect(entranceOf('http://localhost:4600', []).isLoopback(request(headers))).toBe(false);
  expect(entranceOf('http://localhost:4600', []).isLoopback(request({ host: headers.host }))).toBe(true);
  expect(entranceOf('http://localhost:4600', ['127.0.0.1']).isLoopback(request(headers))).toBe(false);
});

test('a secret is masked however it is written', () => {
  const vault = vaultWith(Buffer.alloc(32, 7));
  const secret = 's3cret/with+signs & "quotes"';
  vault.seal(secret);
  vault.know('fetched-token');
  const basic = ['', 'a', 'ab', 'abc'].map(user => Buffer.from(`${user}:${secret}`).toString('base64'));
  const texts = [secret, encodeURIComponent(secret), JSON.stringify({ a: secret }), ...basic, 'Bearer fetched-token'];
  for (const text of texts) {
    const masked = vault.mask(`before ${text} after`);
    expect(masked).toMatch(/^before .*•.* after$/);
    for (const piece of [
      secret,
      'fetched-token',
      encodeURIComponent(secret),
      Buffer.from(secret).toString('base64').slice(4, 24),
    ])
      expect(masked).not.toContain(piece);
  }
  expect(vault.mask('nothing of the kind')).toBe('nothing of the kind');
});

describe('a running server', () => {
  let client: Client;
  beforeAll(async () => {
    client = await startServer();
  });
  afterAll(() => client.stop());

  test('its folder and what opens secrets are its owner’s alone', () => {
    const mode = (name: string) => (statSync(path.join(client.dataDir, name)).mode & 0o777).toString(8);
    expect([mode('.'), mode('key'), mode('links')]).toEqual(['700', '600', '600']);
  });

  test('a page of another site, or of another port, changes nothing', async () => {
    const origins = ['http://evil.example.org', 'http://127.0.0.1:9', 'https://127.0.0.1', 'null'];
    for (const origin of origins) {
      const answer = await fetch(`${client.url}/api/intakes`, {
        method: 'POST',
        headers: { 'content-type': 'text/plain', origin, cookie: client.cookie() },
        body: '{"name":"x"}',
      });
      expect([origin, answer.status]).toEqual([origin, 403]);
    }
    const upload = await fetch(`${client.url}/api/intakes/x/upload?name=a.csv`, {
      method: 'POST',
      headers: { origin: 'null', cookie: client.cookie() },
      body: 'a',
    });
    expect(upload.status).toBe(403);
  });

  test('the stream of events ends when somebody signs out', async () => {
    const other = await fetch(`${client.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ password: 'withy bridge at dawn' }),
    });
    const cookie = other.headers.get('set-cookie')!.split(';')[0]!;
    const stream = await fetch(`${client.url}/api/live`, { headers: { cookie } });
    const reader = stream.body!.getReader();
    expect((await reader.read()).done).toBe(false);
    await fetch(`${client.url}/api/session`, { method: 'DELETE', headers: { cookie } });
    let isDone = false;
    void (async () => {
      while (!(await reader.read()).done);
      isDone = true;
    })();
    await eventually(() => isDone, Boolean);
  });

  test('half a request, and a broken one, are let go of', async () => {
    const half = connect(client.running.port, '127.0.0.1');
    half.write('POST /in/x HTTP/1.1\r\nhost: x\r\ncontent-length: 100\r\n\r\nhalf');
    const broken = connect(client.running.port, '127.0.0.1');
    broken.write('\u0000\u0001 nonsense\r\n\r\n');
    const said = await new Promise<string>(done => broken.once('data', data => done(String(data))));
    expect(said).toMatch(/^HTTP\/1\.1 400/);
    half.destroy();
    expect((await client.call('GET', '/desk')).status).toBe(200);
  });
});
