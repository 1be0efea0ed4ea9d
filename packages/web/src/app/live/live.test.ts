import type { LiveEvent } from '@grammata/contract';
import { gatherer } from './gather';
import { LiveLine, type LineMessage, type Stream } from './line';
import { touched } from './touched';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

/** A stream whose server is played by hand. */
class Played implements Stream {
  onmessage: Stream['onmessage'] = null;
  onerror: Stream['onerror'] = null;
  beat: (mark: string) => void = () => undefined;
  isClosed = false;
  addEventListener(_: 'beat', heard: (message: { data: string }) => void) {
    this.beat = data => heard({ data });
  }
  say(event: LiveEvent, mark: string) {
    this.onmessage?.({ data: JSON.stringify(event), lastEventId: mark });
  }
  close() {
    this.isClosed = true;
  }
}

let streams: Played[];
let line: LiveLine;
const heardBy = () => {
  const said: LineMessage[] = [];
  return { said, leave: line.listen(each => said.push(each)) };
};
beforeEach(() => {
  streams = [];
  line = new LiveLine(() => {
    const stream = new Played();
    streams.push(stream);
    return stream;
  });
});

test('twenty tabs share one stream, and each hears everything', () => {
  const tabs = Array.from({ length: 20 }, heardBy);
  expect(streams).toHaveLength(1);
  streams[0]!.beat('r.1');
  streams[0]!.say({ type: 'stray' }, 'r.2');
  for (const { said } of tabs) expect(said).toEqual([{ alive: 'r.1' }, { event: { type: 'stray' }, mark: 'r.2' }]);
});

test('who comes later hears at once that it is alive, and as of when', () => {
  heardBy();
  streams[0]!.beat('r.1');
  streams[0]!.say({ type: 'stray' }, 'r.2');
  expect(heardBy().said).toEqual([{ alive: 'r.2' }]);
});

test('it is closed with the last who listens, and opened anew for the next', () => {
  const [a, b] = [heardBy(), heardBy()];
  a.leave();
  expect(streams[0]!.isClosed).toBe(false);
  b.leave();
  expect(streams[0]!.isClosed).toBe(true);
  heardBy();
  expect(streams).toHaveLength(2);
});

test.each<[string, (stream: Played) => void]>([
  ['that never said anything', () => undefined],
  ['that fell silent', stream => stream.beat('r.1')],
])('a stream %s is told as lost and opened anew', (_, first) => {
  const { said } = heardBy();
  first(streams[0]!);
  jest.advanceTimersByTime(12_000);
  expect(said.at(-1)).toEqual({ lost: true });
  expect([streams[0]!.isClosed, streams.length]).toEqual([true, 2]);
  streams[1]!.beat('r.9');
  expect(said.at(-1)).toEqual({ alive: 'r.9' });
});

test('as long as it beats it is not opened anew', () => {
  heardBy();
  for (let n = 0; n < 20; n++) {
    streams[0]!.beat(`r.${n}`);
    jest.advanceTimersByTime(5000);
  }
  expect(streams).toHaveLength(1);
});

describe('what is read again', () => {
  let read: string[];
  let gather: ReturnType<typeof gatherer>;
  beforeEach(() => {
    read = [];
    gather = gatherer(key => read.push(key.join(' ')));
  });

  test('a burst causes one reading of each thing', () => {
    for (let n = 0; n < 60; n++) gather.add([['desk'], ['arrivals', 'i']]);
    jest.advanceTimersByTime(150);
    expect(read).toEqual(['desk', 'arrivals i']);
    jest.advanceTimersByTime(60_000);
    expect(read).toHaveLength(2);
  });

  test('a stream of events causes one every two seconds, and the last is never missed', () => {
    for (let n = 0; n < 100; n++) {
      gather.add([['desk']]);
      jest.advanceTimersByTime(100);
    }
    expect(read.length).toBeGreaterThanOrEqual(5);
    expect(read.length).toBeLessThanOrEqual(6);
    read.length = 0;
    gather.add([['desk']]);
    jest.advanceTimersByTime(2000);
    expect(read.length).toBeGreaterThanOrEqual(1);
  });

  test('things do not wait for each other', () => {
    gather.add([['desk']]);
    jest.advanceTimersByTime(200);
    gather.add([['desk'], ['routes', 'list']]);
    jest.advanceTimersByTime(150);
    expect(read).toEqual(['desk', 'routes list']);
    jest.advanceTimersByTime(2000);
    expect(read).toEqual(['desk', 'routes list', 'desk']);
  });

  test('nothing after it was stopped', () => {
    gather.add([['desk']]);
    gather.stop();
    jest.advanceTimersByTime(10_000);
    expect(read).toEqual([]);
  });
});

const nothing = () => undefined;
test.each<[string, LiveEvent, string[]]>([
  [
    'an arrival is of its intake and of its forms only',
    { type: 'arrival', intakeId: 'i', arrivalId: 'a', formIds: ['f'] },
    ['intakes list', 'intakes i', 'arrivals i', 'arrival a', 'forms f', 'samples f', 'forms list', 'strip', 'desk'],
  ],
  [
    'a message that is not read yet is of no form',
    { type: 'arrival', intakeId: 'i', arrivalId: 'a' },
    ['intakes list', 'intakes i', 'arrivals i', 'arrival a', 'strip', 'desk'],
  ],
  [
    'a delivery has no draft read again',
    { type: 'delivery', routeId: 'r', deliveryId: 'd', state: 'delivered' },
    [
      'deliveries',
      'delivery d',
      'arrival',
      'routes r refusals',
      'routes r responses',
      'routes list',
      'changes',
      'strip',
      'desk',
    ],
  ],
  [
    'a delivery that waits is counted with no change',
    { type: 'delivery', routeId: 'r', deliveryId: 'd', state: 'waiting' },
    ['deliveries', 'delivery d', 'arrival', 'routes r refusals', 'routes r responses', 'routes list', 'strip', 'desk'],
  ],
  [
    'a route that changed',
    { type: 'changed', what: 'route', id: 'r' },
    ['routes list', 'routes r view', 'routes r versions', 'routes r proofs', 'routes r batch', 'desk'],
  ],
])('%s', (_, event, keys) => expect(touched(event, nothing).map(key => key.join(' '))).toEqual(keys));

test.each<[string, LiveEvent]>([
  ['an arrival', { type: 'arrival', intakeId: 'i', arrivalId: 'a', formIds: ['f'] }],
  ['a delivery', { type: 'delivery', routeId: 'r', deliveryId: 'd', state: 'delivered' }],
  ['work that ended', { type: 'work', id: 'w', intakeId: null, ended: true }],
  ['a target', { type: 'changed', what: 'target', id: 't' }],
  ['a route', { type: 'changed', what: 'route', id: 'r' }],
])('%s never has anything asked of others again', (_, event) =>
  expect(touched(event, nothing).some(([what]) => what === 'asked')).toBe(false),
);

test('an edit that was made here is not read again', () => {
  const views = touched({ type: 'changed', what: 'route', id: 'r', revision: 7 }, () => ({ revision: 7 }));
  expect(views.map(key => key.join(' '))).toEqual(['routes list', 'desk']);
  const elsewhere = touched({ type: 'changed', what: 'route', id: 'r', revision: 8 }, () => ({ revision: 7 }));
  expect(elsewhere.map(key => key.join(' '))).toContain('routes r view');
});
