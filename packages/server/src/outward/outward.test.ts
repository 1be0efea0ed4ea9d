import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { fileNameIn, isFault, mayReach, Outward } from '.';

// RFC 1918, 4193, 5735, 3927: what is not public.
test.each<[string, boolean]>([
  // Loopback and private, in every form that connects there.
  ['::127.0.0.1', false],
  ['::7f00:1', false],
  ['::ffff:127.0.0.1', false],
  ['::ffff:7f00:1', false],
  ['0:0:0:0:0:0:10.0.0.1', false],
  ['64:ff9b::7f00:1', false],
  ['2002:7f00:1::', false],
  ['::', false],
  ['::8.8.8.8', true],
  ['127.0.0.1', false],
  ['10.1.2.3', false],
  ['172.16.0.1', false],
  ['192.168.1.1', false],
  ['169.254.169.254', false],
  ['0.0.0.0', false],
  ['::1', false],
  ['fd00::1', false],
  ['fe80::1', false],
  ['::ffff:127.0.0.1', false],
  ['203.0.114.9', true],
  ['2606:4700::1', true],
])('%s may be reached: %s', (address, may) => expect(mayReach(address, 'h', '80', [])).toBe(may));

test.each<[string[], boolean]>([
  [['127.0.0.1:4700'], true],
  [['127.0.0.1'], true],
  [['127.0.0.0/8'], true],
  [['127.0.0.1:4701'], false],
  [['10.0.0.0/8'], false],
  [['nonsense'], false],
])('with %j on the list, 127.0.0.1:4700: %s', (allowed, may) =>
  expect(mayReach('127.0.0.1', '127.0.0.1', '4700', allowed)).toBe(may),
);

describe('requests outward', () => {
  let server: Server;
  let port: number;
  beforeAll(async () => {
    server = createServer((request, response) => {
      if (request.url === '/drop') return void request.socket.destroy();
      if (request.url === '/around') return void response.writeHead(307, { location: '/around' }).end();
      if (request.url === '/inward')
        return void response.writeHead(302, { location: `http://127.0.0.2:${port}/inside` }).end('x'.repeat(500_000));
      if (request.url === '/near') return void response.writeHead(301, { location: 'file' }).end();
      if (request.url === '/far')
        return void response.writeHead(302, { location: `http://localhost:${port}/file` }).end();
      if (request.url === '/nonsense') return void response.writeHead(302, { location: 'gopher://x/y' }).end();
      if (request.url === '/file') return void response.end(request.headers.authorization ?? 'none');
      if (request.url === '/there') return void response.writeHead(302, { location: 'http://169.254.169.254/' }).end();
      response.writeHead(200, { 'x-method': request.method }).end('x'.repeat(2_000_000));
    });
    await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
    port = (server.address() as AddressInfo).port;
  });
  afterAll(() => new Promise(done => server.close(done)));

  test.each([
    ['refused inside the own network', (): [string, string[]] => [`http://127.0.0.1:${port}/`, []], 'private'],
    ['refused by name too', (): [string, string[]] => [`http://localhost:${port}/`, []], 'private'],
    ['nothing listens', (): [string, string[]] => ['http://127.0.0.1:1/', ['127.0.0.1']], 'refused'],
    ['dropped', (): [string, string[]] => [`http://127.0.0.1:${port}/drop`, ['127.0.0.1']], 'dropped'],
    ['no address', (): [string, string[]] => ['register', []], 'address'],
  ])('%s', async (_, given, code) => {
    const [url, allowed] = given();
    const outward = new Outward(allowed);
    expect(await outward.send({ method: 'GET', url, headers: {} })).toMatchObject({
      code,
      message: expect.stringMatching(/\S/),
    });
    await outward.close();
  });

  test.each<[string, string | { code: string; message: RegExp }]>([
    ['/file', 'Bearer k'],
    ['/near', 'Bearer k'],
    // Another host gets no credentials.
    ['/far', 'none'],
    // Wherever it points is checked like the address itself.
    ['/inward', { code: 'private', message: /127\.0\.0\.2/ }],
    ['/there', { code: 'private', message: /169\.254\.169\.254/ }],
    ['/nonsense', { code: 'address', message: /gopher/ }],
    ['/around', { code: 'address', message: /redirects too often/ }],
  ])('a file at %s', async (path, expected) => {
    const outward = new Outward([`127.0.0.1:${port}`, `localhost:${port}`]);
    const found = await outward.download(`http://127.0.0.1:${port}${path}`, { authorization: 'Bearer k' });
    if (typeof expected === 'string') {
      if (isFault(found)) throw new Error(found.message);
      expect(await text(found.body)).toBe(expected);
    } else expect(found).toMatchObject({ code: expected.code, message: expect.stringMatching(expected.message) });
    await outward.close();
  });

  test('an answer is read up to a limit, and redirects are not followed', async () => {
    const outward = new Outward(['127.0.0.1']);
    const answer = await outward.send({ method: 'GET', url: `http://127.0.0.1:${port}/`, headers: {} });
    expect(isFault(answer) ? null : answer.body.length).toBe(1_000_000);
    expect(await outward.send({ method: 'GET', url: `http://127.0.0.1:${port}/there`, headers: {} })).toMatchObject({
      status: 302,
    });
    await outward.close();
  });
});

// RFC 6266 §5 (examples), RFC 8187 §3.2.2; the last ones are what servers send.
test.each<[string, string | null]>([
  ['Attachment; filename=example.html', 'example.html'],
  ['INLINE; FILENAME= "an example.html"', 'an example.html'],
  ["attachment; filename*= UTF-8''%e2%82%ac%20rates", '€ rates'],
  ['attachment; filename="EURO rates"; filename*=utf-8\'\'%e2%82%ac%20rates', '€ rates'],
  ['attachment; filename="a \\"b\\".txt"', 'a "b".txt'],
  ["attachment; filename*=UTF-8''%E2%82; filename=plain.txt", 'plain.txt'],
  ['attachment', null],
  ['inline; filename=""', null],
])('%s names a file', (disposition, name) => expect(fileNameIn(disposition)).toBe(name));
