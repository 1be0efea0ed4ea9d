import fc from 'fast-check';
import type { DeliveryRow } from '../store';
import { stored, type Stored } from '../testing/stored';
import { SqliteDue, type Next, type Settlement } from '.';

let kept: Stored;
let due: SqliteDue;
let time: number;

beforeEach(() => {
  time = Date.parse('2026-11-04T08:00:00Z');
  jest.spyOn(Date, 'now').mockImplementation(() => time);
  kept = stored();
  due = new SqliteDue(kept.db);
});
afterEach(() => {
  kept.close();
  jest.restoreAllMocks();
});

const enqueued = (count: number, route = kept.route()): DeliveryRow[] =>
  due.enqueue(kept.arrive(count).map(({ id }) => ({ ...route, submissionId: id, about: id })));
const want = (...rows: DeliveryRow[]) => [{ routeIds: [...new Set(rows.map(each => each.routeId))], room: 100 }];
const lease = (owner: string, rows: DeliveryRow[], most = 100) => due.lease(owner, want(...rows), most, time + 60_000);
const ids = (rows: readonly { id: string }[]) => rows.map(each => each.id);
const row = (id: string) => kept.store.deliveries.byId(id)!;

const next = (more: Partial<Next> = {}): Next => ({
  state: 'delivered',
  reason: null,
  attempts: 1,
  tries: 0,
  tryUntil: null,
  nextAttemptAt: null,
  finishedAt: time,
  ...more,
});
const settlement = (id: string, more: Partial<Next> = {}): Settlement => ({
  id,
  attempt: {
    deliveryId: id,
    number: 1,
    startedAt: time,
    milliseconds: 3,
    request: 'POST /',
    status: 201,
    response: '{}',
    outcome: 'delivered',
    message: 'Accepted with 201.',
    callId: 'c',
    item: '0',
    purpose: 'create',
    complaints: [],
  },
  done: [{ callId: 'c', item: '0', what: 'created', answer: { id: 7 }, note: null }],
  next: next(more),
});

test('a submission is queued once for a route and a run', () => {
  const route = kept.route();
  const [submission] = kept.arrive(1);
  const one = { ...route, submissionId: submission!.id, about: '' };
  expect(due.enqueue([one, one])).toHaveLength(1);
  expect(due.enqueue([one])).toEqual([]);
  const [second] = due.enqueue([{ ...one, run: 2 }]);
  expect(second!.idempotencyKey).not.toBe(due.enqueue([{ ...one, run: 3 }])[0]!.idempotencyKey);
});

test('what is due is leased in the order in which it came, so many of each target and in all', async () => {
  const [a, b] = [kept.route(), kept.route()];
  const rows = enqueued(5, a);
  const others = enqueued(5, b);
  expect(ids(await lease('me', rows, 3))).toEqual(ids(rows.slice(0, 3)));
  const wants = [
    { routeIds: [a.routeId], room: 1 },
    { routeIds: [b.routeId], room: 2 },
  ];
  const taken = await due.lease('me', wants, 100, time + 1);
  expect(ids(taken).sort()).toEqual([rows[3]!, others[0]!, others[1]!].map(each => each.id).sort());
  expect(ids(await due.lease('me', [{ routeIds: [a.routeId, b.routeId], room: 9 }], 2, time + 1))).toHaveLength(2);
});

test('none of several routes is always asked first', async () => {
  const [a, b] = [kept.route(), kept.route()];
  enqueued(4, a);
  enqueued(4, b);
  const first = async () => (await due.lease('me', [{ routeIds: [a.routeId, b.routeId], room: 1 }], 1, time + 1))[0]!;
  expect(new Set([(await first()).routeId, (await first()).routeId]).size).toBe(2);
});

test('what is leased is nobody else’s until its time is over; who lives renews', async () => {
  const rows = enqueued(2);
  await lease('me', rows);
  expect(await lease('you', rows)).toEqual([]);
  time += 50_000;
  await due.renew('me', time + 60_000);
  time += 50_000;
  expect(await lease('you', rows)).toEqual([]);
  time += 20_000;
  expect(ids(await lease('you', rows))).toEqual(ids(rows));
});

test('what became of a delivery is kept whole: its state, the request, the calls that are done', async () => {
  const [delivery] = enqueued(1);
  await lease('me', [delivery!]);
  await due.settle('me', [settlement(delivery!.id)]);
  expect(row(delivery!.id)).toMatchObject({ ...next(), leaseOwner: null, leaseUntil: null });
  expect(kept.store.deliveries.attemptsOf(delivery!.id)).toMatchObject([{ status: 201, complaints: [] }]);
  expect(kept.store.deliveries.doneOf(delivery!.id)).toMatchObject([{ what: 'created', answer: { id: 7 } }]);
  expect(await lease('me', [delivery!])).toEqual([]);
});

test('what goes on keeps its lease; what is known later of a call takes the place of what was', async () => {
  const [delivery] = enqueued(1);
  await lease('me', [delivery!]);
  await due.settle('me', [settlement(delivery!.id, { state: 'sending', finishedAt: null })]);
  expect(row(delivery!.id)).toMatchObject({ state: 'sending', leaseOwner: 'me', leaseUntil: time + 60_000 });
  const later = { ...settlement(delivery!.id), attempt: null };
  later.done[0]!.note = 'Read back.';
  await due.settle('me', [later]);
  expect(kept.store.deliveries.doneOf(delivery!.id)).toMatchObject([{ note: 'Read back.' }]);
});

test('who was away for long keeps what is its own, as long as nobody else took it', async () => {
  const rows = enqueued(2);
  await lease('me', rows, 1);
  time += 3_600_000;
  expect(ids(await lease('me', rows))).toEqual([rows[1]!.id]);
  await due.settle('me', [settlement(rows[0]!.id)]);
  expect(row(rows[0]!.id).state).toBe('delivered');
});

test('who lost a lease settles nothing', async () => {
  const [delivery] = enqueued(1);
  await lease('me', [delivery!]);
  time += 61_000;
  await lease('you', [delivery!]);
  await due.settle('me', [settlement(delivery!.id)]);
  expect(row(delivery!.id)).toMatchObject({ state: 'sending', leaseOwner: 'you', attempts: 0 });
  expect(kept.store.deliveries.attemptsOf(delivery!.id)).toEqual([]);
});

test('all of a batch is kept, or nothing', async () => {
  const rows = enqueued(2);
  await lease('me', rows);
  const broken = {
    ...settlement(rows[1]!.id),
    attempt: { ...settlement(rows[1]!.id).attempt!, request: null as never },
  };
  await expect(due.settle('me', [settlement(rows[0]!.id), broken])).rejects.toThrow(/NOT NULL/);
  expect(rows.map(each => row(each.id).state)).toEqual(['sending', 'sending']);
});

test('what another process left is taken back; what is one’s own is not', async () => {
  const [a, b, c] = enqueued(3) as [DeliveryRow, DeliveryRow, DeliveryRow];
  await lease('gone', [a], 1);
  await lease('me', [b], 1);
  await due.reclaim('me');
  expect([a, b, c].map(each => row(each.id).state)).toEqual(['waiting', 'sending', 'waiting']);
});

test('what waits is due at once where somebody asks for it, of those routes and no others', async () => {
  const [a, b] = [kept.route(), kept.route()];
  const rows = [...enqueued(1, a), ...enqueued(1, b)];
  for (const { id } of rows) kept.store.deliveries.update(id, { nextAttemptAt: time + 5000 });
  await due.hasten([a.routeId]);
  expect(rows.map(each => row(each.id).nextAttemptAt! - time)).toEqual([0, 5000]);
});

test('the next time something is due, of the routes that are asked for', async () => {
  const [a, b] = [kept.route(), kept.route()];
  const [delivery] = enqueued(1, a);
  expect([await due.nextDue([a.routeId]), await due.nextDue([b.routeId])]).toEqual([time, null]);
  await lease('me', [delivery!]);
  await due.settle('me', [
    settlement(delivery!.id, { state: 'waiting', nextAttemptAt: time + 5000, finishedAt: null }),
  ]);
  expect(await due.nextDue([b.routeId, a.routeId])).toBe(time + 5000);
  expect(await lease('me', [delivery!])).toEqual([]);
  time += 5000;
  expect(await lease('me', [delivery!])).toHaveLength(1);
});

test('whatever happens, a delivery has one owner at a time, and what is delivered is not leased again', async () => {
  const rows = enqueued(6);
  const owner = fc.constantFrom<string>('a', 'b', 'c');
  const act = fc.oneof(
    fc.record({ do: fc.constant('lease' as const), owner, most: fc.nat(4) }),
    fc.record({ do: fc.constant('settle' as const), owner, which: fc.nat(5) }),
    fc.record({ do: fc.constant('renew' as const), owner }),
    fc.record({ do: fc.constant('wait' as const), by: fc.nat(90_000) }),
  );
  // Who renews too late has lost what another took meanwhile.
  const lateRenewal = [
    { do: 'lease' as const, owner: 'b', most: 1 },
    { do: 'wait' as const, by: 60_000 },
    { do: 'lease' as const, owner: 'a', most: 0 },
    { do: 'renew' as const, owner: 'b' },
    { do: 'lease' as const, owner: 'a', most: 1 },
  ];
  await fc.assert(
    fc.asyncProperty(fc.array(act, { minLength: 5, maxLength: 40 }), async acts => {
      const held = new Map<string, { owner: string; until: number }>();
      const over = new Set<string>();
      await due.reclaim('nobody');
      // Each run begins with all of them waiting.
      for (const { id } of rows)
        kept.store.deliveries.update(id, { state: 'waiting', nextAttemptAt: time, finishedAt: null });
      for (const each of acts) {
        if (each.do === 'wait') time += each.by;
        if (each.do === 'renew') {
          await due.renew(each.owner, time + 60_000);
          for (const lease of held.values()) if (lease.owner === each.owner) lease.until = time + 60_000;
        }
        if (each.do === 'lease') {
          const taken = await lease(each.owner, rows, each.most);
          // What another did not renew in time is taken from it.
          for (const [id, { owner, until }] of held) if (owner !== each.owner && until <= time) held.delete(id);
          for (const { id } of taken) {
            expect([over.has(id), held.has(id)]).toEqual([false, false]);
            held.set(id, { owner: each.owner, until: time + 60_000 });
          }
        }
        if (each.do === 'settle') {
          const { id } = rows[each.which]!;
          const isOurs = row(id).leaseOwner === each.owner;
          await due.settle(each.owner, [settlement(id)]);
          if (isOurs) {
            over.add(id);
            held.delete(id);
          }
          expect(row(id).state === 'delivered').toBe(over.has(id));
        }
      }
    }),
    { numRuns: 60, examples: [[lateRenewal]] },
  );
});
