import { createServer as plainServer } from 'node:http';
import { createServer as secureServer } from 'node:https';
import { createServer as silentServer, type AddressInfo, type Server } from 'node:net';
import { Outward } from '.';
import certificates from '../testing/certificates.json';

// Targets with certificates of every sort, and such as do not speak TLS. What is issued by an authority that is known is tried on the running
// server (`npm run attack`): an authority is made known before it starts.

const patience = { connect: 1, firstByte: 2, whole: 3 };
const servers: [name: string, server: () => Server, code: string, words: RegExp][] = [
  [
    'an authority that is not known',
    () => secureServer(certificates.good, (_, response) => response.end('{}')),
    'tls',
    /unknown authority.*NODE_EXTRA_CA_CERTS/,
  ],
  ['a certificate that has expired', () => secureServer(certificates.expired), 'tls', /has expired/],
  ['plain HTTP', () => plainServer((_, response) => response.end('{}')), 'tls', /does not support TLS/],
  [
    'old versions only',
    () =>
      secureServer({
        ...certificates.good,
        minVersion: 'TLSv1',
        maxVersion: 'TLSv1.1',
        ciphers: 'DEFAULT:@SECLEVEL=0',
      }),
    'tls',
    /only unsafe versions/,
  ],
  ['one that never says a word', () => silentServer(), 'timeout', /in time/],
  ['one that hangs up', () => silentServer(socket => void socket.destroy()), 'dropped', /closed the connection/],
];

test.each(servers)('%s', async (_, made, code, words) => {
  const outward = new Outward(['127.0.0.1']);
  const server = made();
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  const url = `https://127.0.0.1:${port}/`;
  const answer = await outward.send({ method: 'GET', url, headers: {}, patience });
  expect(answer).toMatchObject({ code, message: expect.stringMatching(words) });
  // In words, not in those of a library.
  expect((answer as { message: string }).message).not.toMatch(/error:|routines|:[0-9A-F]{8}|altnames/);
  await outward.close();
  server.close();
});
