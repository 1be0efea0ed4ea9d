import type { AddressInfo } from 'node:net';
import express from 'express';
import { pino } from 'pino';
import { Timers } from '../timing';
import { LiveHub, liveStream } from '.';

let hub: LiveHub;
let isSignedIn: boolean;
let url: string;
let close: () => void;

beforeEach(async () => {
  hub = new LiveHub();
  isSignedIn = true;
  const app = express();
  app.get(
    '/live',
    liveStream(hub, new Timers(pino({ level: 'silent' })), () => isSignedIn),
  );
  const server = app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/live`;
  close = () => (server.closeAllConnections(), server.close());
});
afterEach(() => close());

test('a session has so many streams at once, and one that ends makes room', async () => {
  const all: AbortController[] = [];
  const open = async () => {
    const abort = new AbortController();
    const { status } = await fetch(url, { signal: abort.signal, headers: { cookie: 'grammata_session=a' } });
    if (status === 200) all.push(abort);
    return status;
  };
  const statuses = await Promise.all(Array.from({ length: 70 }, open));
  expect(statuses.filter(each => each === 200)).toHaveLength(60);
  const other = new AbortController();
  expect((await fetch(url, { signal: other.signal, headers: { cookie: 'grammata_session=b' } })).status).toBe(200);
  all.pop()!.abort();
  while ((await open()) !== 200);
  [...all, other].forEach(each => each.abort());
});

/** A stream as a browser reads it: blocks that end with a blank line (HTML Standard §9.2.6). */
async function listening() {
  const abort = new AbortController();
  const answer = await fetch(url, { signal: abort.signal });
  const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  const block = async (): Promise<string | null> => {
    for (;;) {
      const end = text.indexOf('\n\n');
      if (end >= 0) {
        const [first] = [text.slice(0, end)];
        text = text.slice(end + 2);
        return first;
      }
      const { done, value } = await reader.read();
      if (done) return null;
      text += value;
    }
  };
  return { answer, block, abort };
}

test('it is a stream of events that nobody keeps', async () => {
  const { answer, block, abort } = await listening();
  expect(answer.headers.get('content-type')).toBe('text/event-stream');
  expect(answer.headers.get('cache-control')).toBe('no-store');
  expect(await block()).toBe(`event: beat\ndata: ${hub.mark}`);
  abort.abort();
});

test('each event is one line of JSON, whatever is in it', async () => {
  const { block, abort } = await listening();
  await block();
  const event = { type: 'arrival' as const, intakeId: 'a\nb', arrivalId: '\u2028' };
  hub.publish(event);
  const [id, line, ...more] = (await block())!.split('\n');
  expect([id, more]).toEqual([`id: ${hub.mark}`, []]);
  expect(JSON.parse(line!.replace(/^data: /, ''))).toEqual(event);
  abort.abort();
});

test('it ends when somebody signs out, and not for those who are still signed in', async () => {
  const { block, abort } = await listening();
  await block();
  hub.publish({ type: 'signedOut' });
  expect(await block()).toBe(`event: beat\ndata: ${hub.mark}`);
  isSignedIn = false;
  hub.publish({ type: 'signedOut' });
  expect(await block()).toBeNull();
  abort.abort();
});

test('what one listener fails at is no matter to the others', () => {
  const heard: string[] = [];
  hub.subscribe(() => {
    throw new Error('broken');
  });
  const stop = hub.subscribe(event => heard.push(event.type));
  hub.publish({ type: 'stray' });
  hub.publish({ type: 'storage' });
  stop();
  hub.publish({ type: 'stray' });
  expect(heard).toEqual(['stray', 'storage']);
});

test('who leaves is not written to any more', async () => {
  const { block, abort } = await listening();
  await block();
  const before = jest.spyOn(hub, 'subscribe');
  abort.abort();
  // Another comes and hears: the first is no hindrance.
  const second = await listening();
  await second.block();
  expect(before).toHaveBeenCalledTimes(1);
  hub.publish({ type: 'stray' });
  expect(await second.block()).toBe(`id: ${hub.mark}\ndata: {"type":"stray"}`);
  second.abort.abort();
});

test('a mark is the same as long as nothing is told, and that of another run never', () => {
  const before = hub.mark;
  expect(hub.mark).toBe(before);
  hub.publish({ type: 'stray' });
  expect(hub.mark).not.toBe(before);
  expect(new LiveHub().mark).not.toBe(new LiveHub().mark);
});
