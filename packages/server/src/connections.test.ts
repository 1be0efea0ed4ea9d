import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo, type Socket } from 'node:net';
import { pino } from 'pino';
import { boundConnections } from './connections';
import { Timers } from './timing';

let server: Server;
let sockets: Socket[];
let look: () => void;

async function serve(more: { mostOfOne?: number; isProxy?: (address: string) => boolean }): Promise<void> {
  server = createServer((request, response) => {
    if (request.url !== '/waits') request.resume().on('end', () => response.end('whole'));
  });
  const timers = new Timers(pino({ level: 'silent' }));
  jest
    .spyOn(timers, 'every')
    .mockImplementation((_name, _ms, work) => ((look = work as () => void), { stop: () => undefined }));
  boundConnections(server, { timers, log: pino({ level: 'silent' }), isProxy: () => false, ...more });
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
}
beforeEach(() => (sockets = []));
afterEach(async () => {
  sockets.forEach(each => each.destroy());
  await new Promise(done => server.close(done));
});

async function open(text = ''): Promise<Socket> {
  const socket = connect((server.address() as AddressInfo).port, '127.0.0.1');
  sockets.push(socket);
  socket.on('error', () => undefined);
  await once(socket, 'connect');
  if (text) socket.write(text);
  return socket;
}
const ended = (socket: Socket) =>
  socket.destroyed || socket.readableEnded ? Promise.resolve() : once(socket.resume(), 'close');
const get = 'GET / HTTP/1.1\r\nhost: x\r\n\r\n';
const half = 'POST / HTTP/1.1\r\nhost: x\r\ncontent-length: 1000\r\n\r\nhalf';

test('so many connections from one address; one that ends makes room', async () => {
  await serve({ mostOfOne: 3 });
  const [first] = [await open(), await open(), await open()];
  await ended(await open());
  first.destroy();
  await once(first, 'close');
  // The server hears of it a moment later.
  for (;;) {
    const another = await open(get);
    const [answer] = (await Promise.race([once(another, 'data'), ended(another).then(() => [null])])) as [
      Buffer | null,
    ];
    if (answer === null) continue;
    expect(answer.toString()).toContain('whole');
    break;
  }
});

test('behind a proxy that is trusted stand many', async () => {
  await serve({ mostOfOne: 1, isProxy: address => address.endsWith('127.0.0.1') });
  await open();
  const second = await open(get);
  expect(String((await once(second, 'data'))[0])).toContain('whole');
});

test('a body that hardly comes is let go of with 408; one that is whole, or young, is not', async () => {
  await serve({});
  let time = performance.now();
  const clock = jest.spyOn(performance, 'now').mockImplementation(() => time);
  const begun = async () => {
    const heard = once(server, 'request');
    const socket = await open(half);
    await heard;
    return socket;
  };
  const slow = await begun();
  const whole = await open(get);
  expect(String((await once(whole, 'data'))[0])).toContain('whole');
  // A stream of events, or an answer that takes its time.
  const heard = once(server, 'request');
  const waiting = await open(get.replace('GET /', 'GET /waits'));
  await heard;
  time += 40_000;
  const young = await begun();
  look();
  clock.mockRestore();
  const [answer] = (await once(slow, 'data')) as [Buffer];
  expect(answer.toString()).toMatch(/^HTTP\/1.1 408 /);
  await ended(slow);
  look();
  expect([young, whole, waiting].map(each => each.destroyed || each.readableEnded)).toEqual([false, false, false]);
  waiting.write(get);
  expect(waiting.writable).toBe(true);
});
