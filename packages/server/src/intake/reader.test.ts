import { pino } from 'pino';
import type { Decoders } from '../decoding';
import type { ArrivalReading, ClaimedArrival, Ledger } from '../ledger';
import { LiveHub } from '../live';
import { StorageHealth } from '../storage';
import type { Store } from '../store';
import { Timers } from '../timing';
import type { Workshop } from '../work';
import type { Bodies } from './bodies';
import { ArrivalReader } from './reader';

const arrival = (id: string, intakeId: string) =>
  ({
    id,
    intakeId,
    headers: [],
    pins: {},
    revision: 0,
    aside: false,
    body: new Uint8Array(),
  }) as unknown as ClaimedArrival;

/** A reader of batches that are waiting, whose readings end when the test says so; and what it stored, in order. */
function readerOf(batches: ClaimedArrival[][]) {
  const log = pino({ level: 'silent' });
  const live = new LiveHub();
  const stored: string[] = [];
  const ends: (() => void)[] = [];
  const ledger: Partial<Ledger> = {
    claim: async ({ lane }) => (lane === 'quick' ? (batches.shift() ?? []) : []),
    read: async (readings: ArrivalReading[]) => {
      stored.push(...readings.map(each => each.arrivalId));
      return readings.map(({ arrivalId }) => ({ arrivalId, isStored: true, formIds: [], stored: 0, queued: [] }));
    },
  };
  const decoders = {
    threads: 3,
    slowThreads: 1,
    read: (messages: unknown[]) =>
      new Promise(done => ends.push(() => done(messages.map(() => ({ state: 'read', trouble: null, isSure: true, way: null, submissions: [] }))))), // prettier-ignore
  };
  const reader = new ArrivalReader({
    ledger: ledger as Ledger,
    decoders: decoders as unknown as Decoders,
    store: { arrivals: { waysOf: () => [] }, forms: { questions: { filesAsked: () => [] } } } as unknown as Store,
    live,
    health: new StorageHealth(live, log),
    timers: new Timers(log),
    log,
    wake: () => undefined,
    watch: { saw: () => undefined },
    workshop: {} as Workshop,
    bodies: {} as Bodies,
    isPressed: () => false,
  });
  return { reader, stored, ends };
}

const untilAllRead = async (condition: () => boolean) => {
  for (let turn = 0; turn < 100 && !condition(); turn++) await new Promise(resolve => setImmediate(resolve));
};

test('an intake’s messages are stored in the order in which they arrived, whichever is read first; others do not wait', async () => {
  const { reader, stored, ends } = readerOf([[arrival('a1', 'a')], [arrival('a2', 'a')], [arrival('b1', 'b')]]);
  reader.wake();
  await untilAllRead(() => ends.length === 3);
  ends[1]!();
  ends[2]!();
  await untilAllRead(() => stored.length === 2);
  expect(stored).toEqual(['b1']);
  ends[0]!();
  await reader.close();
  expect(stored).toEqual(['b1', 'a1', 'a2']);
});
