import { pino } from 'pino';
import { vaultWith } from '../access';
import type { Lease, Ledger } from '../ledger';
import { LiveHub } from '../live';
import { StorageHealth } from '../storage';
import { Timers } from '../timing';
import { stored, type Stored } from '../testing/stored';
import type { Courier, Errand } from './courier';
import { DeliveryDriver } from './driver';
import { Breakers, type Outgoing, type Result } from './layers';
import { changeDelivery } from '../testing/deliveries';

// By a fake clock: when the driver looks for what is due, and what it takes up.

let kept: Stored;
let driver: DeliveryDriver;
let breakers: Breakers;
let looks: jest.Mock;
let sent: string[];
/** What comes of a request to a target, by the target's name. */
let answers: Record<string, () => Promise<Result>>;

const answer = (status: number): Result => ({
  status,
  headers: {},
  body: '{}',
  shown: '{}',
  bytes: Buffer.from('{}'),
  cut: false,
  milliseconds: 1,
});
const never = () => new Promise<Result>(() => undefined);

beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['nextTick', 'queueMicrotask', 'performance'] });
  kept = stored();
  sent = [];
  answers = {};
  looks = jest.fn();
  const log = pino({ level: 'silent' });
  const live = new LiveHub();
  breakers = new Breakers(() => driver.wake());
  const carry = async (_: unknown, { target, side }: Errand) => {
    sent.push(target.name);
    const outgoing: Outgoing = {
      target: { ...target, side, pace: { concurrency: 4, perSecond: null, parkAfter: 2 } },
      carry: () => (answers[target.name] ?? (async () => answer(201)))(),
    };
    return { result: await breakers.layer(each => each.carry())(outgoing), recorded: '', lost: [] };
  };
  driver = new DeliveryDriver({
    heard: () => undefined,
    heldForChange: async () => null,
    settled: () => undefined,
    store: kept.store,
    ledger: watched(kept.ledger),
    courier: { carry, mask: (text: string) => text } as unknown as Courier,
    vault: vaultWith(Buffer.alloc(32, 7)),
    breakers,
    live,
    health: new StorageHealth(live, log),
    timers: new Timers(log),
    log,
    concurrency: 64,
  });
});
afterEach(() => {
  kept.close();
  jest.useRealTimers();
});

/** The ledger, with each look at what is due counted. */
const watched = (ledger: Ledger): Ledger =>
  new Proxy(ledger, {
    get: (of, name: keyof Ledger) => (name === 'lease' ? (input: Lease) => (looks(), of.lease(input)) : of[name]),
  });

/** Deliveries that are due, on a route to a target of its own. */
function waiting(count: number, name: string) {
  const target = kept.store.targets.create({ name, baseUrl: 'http://t', discoveryPath: '/', secret: null });
  kept.store.targets.update(target.id, {
    operations: [{ id: 'o', label: 'O', method: 'POST', path: '/o', fields: [] }],
    pace: { concurrency: 4, perSecond: null, parkAfter: 2 },
  });
  const route = kept.route({ calls: [{ id: 'c', targetId: target.id, operationId: 'o', lines: [] }] });
  const createdAt = Date.now();
  return kept.commands.queue(
    kept.arrive(count).map(({ id }) => ({ ...route, submissionId: id, about: id, createdAt })),
  );
}
const states = () => kept.store.deliveries.counts();
const seconds = (count: number) => jest.advanceTimersByTimeAsync(count * 1000);

test('what is due is sent, all of it, however many there are', async () => {
  waiting(50, 'Register');
  driver.start();
  await seconds(2);
  expect(states()).toMatchObject({ delivered: 50, waiting: 0, sending: 0 });
});

test('while a target is parked nobody looks for its deliveries again and again', async () => {
  waiting(40, 'Register');
  answers.Register = async () => answer(503);
  driver.start();
  await seconds(3);
  expect(states().waiting).toBe(40);
  looks.mockClear();
  sent.length = 0;
  await seconds(10);
  expect(looks.mock.calls.length).toBeLessThan(20);
  expect(sent.length).toBeLessThan(5);
  // One probe, and when that goes well all the others.
  answers.Register = async () => answer(201);
  await seconds(60);
  expect(states()).toMatchObject({ delivered: 40, waiting: 0 });
});

test('a parked target whose deliveries are not due yet is no reason to look all the time', async () => {
  waiting(2, 'Register');
  answers.Register = async () => answer(503);
  driver.start();
  await seconds(3);
  for (const { id } of kept.store.deliveries.page({}, 0, 9).rows)
    changeDelivery(kept.store, id, { nextAttemptAt: Date.now() + 3_600_000 });
  await seconds(30);
  looks.mockClear();
  await seconds(60);
  expect(looks.mock.calls.length).toBeLessThan(10);
});

test('a target that does not answer keeps none of the others waiting, nor what falls due meanwhile', async () => {
  waiting(50, 'Silent');
  answers.Silent = never;
  const [later] = waiting(1, 'Register');
  changeDelivery(kept.store, later!.id, { nextAttemptAt: Date.now() + 5000 });
  waiting(5, 'Roster');
  driver.start();
  await seconds(2);
  expect(states().delivered).toBe(5);
  await seconds(6);
  expect(states().delivered).toBe(6);
  expect(kept.store.deliveries.byId(later!.id)!.state).toBe('delivered');
});
