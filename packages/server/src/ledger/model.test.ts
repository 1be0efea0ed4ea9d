import fc from 'fast-check';
import { readSubmission } from '../decoding';
import { newId } from '../ids';
import { newArrival } from '../intake/arrival';
import { stored, submissionOf, type Stored } from '../testing/stored';
import type { ArrivalReading, ClaimedArrival, QueuedDelivery } from '.';

/**
 * The whole of what the ledger promises, as a small model: a submission that is seen for the first time goes, once, to each route that
 * takes its form at that moment; whatever is paused, read anew, deleted, or ends in between.
 */
interface Model {
  seen: Set<string>;
  /** `submission route`, each once. */
  due: string[];
}

const LIVES = ['live', 'paused'] as const;
const act = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      do: fc.constant('arrive' as const),
      says: fc.array(fc.nat(7), { minLength: 1, maxLength: 3 }),
    }),
  },
  { weight: 4, arbitrary: fc.record({ do: fc.constant('claim' as const), most: fc.integer({ min: 1, max: 3 }) }) },
  { weight: 6, arbitrary: fc.record({ do: fc.constant('finish' as const), which: fc.nat(4), twice: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('pin' as const) }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('reread' as const), most: fc.integer({ min: 1, max: 4 }) }) },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant('route' as const), which: fc.nat(1), state: fc.constantFrom(...LIVES) }),
  },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('crash' as const) }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('delete' as const) }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('deliver' as const) }) },
);

const end: ArrivalReading['end'] = { state: 'read', trouble: null, isSure: true, way: null };

function run(kept: Stored, acts: readonly (typeof act extends fc.Arbitrary<infer A> ? A : never)[]) {
  const model: Model = { seen: new Set(), due: [] };
  const routes = [kept.route(), kept.route()];
  const said = new Map<string, number[]>();
  const contentOf = new Map<string, string>();
  const queued: string[] = [];
  let claimed: ClaimedArrival[] = [];
  /** Every second way to read them finds only the first submission. */
  const contents = (arrivalId: string, revision: number) =>
    revision % 2 === 0 ? said.get(arrivalId)! : said.get(arrivalId)!.slice(0, 1);
  const read = (arrival: Pick<ClaimedArrival, 'id' | 'revision'>, isAgain: boolean) => {
    const all = contents(arrival.id, arrival.revision);
    const submissions = all.map(n => readSubmission(submissionOf({ n }, `e${n}`), undefined));
    const { id: arrivalId, revision } = arrival;
    const had = new Set(kept.store.arrivals.submissionsOf(arrivalId, 9).map(each => each.position));
    const [outcome] = kept.commands.read([{ arrivalId, revision, isAgain, from: 0, submissions, end }]);
    if (!outcome!.isStored) return;
    all.forEach((n, at) => {
      const isFirst = !model.seen.has(`e${n}`);
      model.seen.add(`e${n}`);
      if (isFirst && !isAgain && !had.has(at)) for (const { routeId } of routes) model.due.push(`e${n} ${routeId}`);
    });
    for (const row of kept.store.arrivals.submissionsOf(arrivalId, 9)) contentOf.set(row.id, row.builderId!);
    note(outcome!.queued);
  };
  const note = (all: readonly QueuedDelivery[]) => {
    for (const { id, routeId } of all)
      queued.push(`${contentOf.get(kept.store.deliveries.byId(id)!.submissionId)!} ${routeId}`);
  };
  const deliver = () => {
    const { deliveries } = kept.commands.lease({
      owner: 'o',
      wants: [{ routeIds: routes.map(each => each.routeId), room: 99 }],
      most: 99,
      until: Date.now() + 9e5,
      routeIds: [],
    });
    kept.commands.settle(
      deliveries.map(({ id }) => ({
        id,
        owner: 'o',
        attempt: null,
        done: [],
        next: { state: 'delivered', reason: null, attempts: 1, tries: 0, spent: 0, nextAttemptAt: null, finishedAt: 1 },
      })),
    );
  };
  const step = (each: (typeof acts)[number]) => {
    switch (each.do) {
      case 'arrive': {
        const id = newId();
        said.set(id, each.says);
        const intake = kept.store.intakes.byId(kept.intakeId)!;
        kept.commands.takeIn([
          newArrival(intake, { id, method: 'POST', contentType: null, headers: [], body: Buffer.from(id) }),
        ]);
        return;
      }
      case 'claim':
        for (const lane of ['quick', 'slow'] as const)
          claimed.push(...kept.commands.claim({ lane, most: each.most, bytes: 1e9 }));
        return;
      case 'finish': {
        const [arrival] = claimed.splice(each.which % Math.max(1, claimed.length), 1);
        if (!arrival) return;
        read(arrival, false);
        if (each.twice) read(arrival, false);
        return;
      }
      case 'pin':
        kept.store.intakes.setPins(kept.intakeId, {});
        return;
      case 'reread':
        for (const arrival of kept.commands.outdated({ intakeId: kept.intakeId, most: each.most, after: null }))
          if (said.has(arrival.id)) read(arrival, true);
        return;
      case 'route': {
        const { routeId } = routes[each.which]!;
        if (each.state === 'live') kept.store.routes.goLive(routeId);
        else kept.store.routes.pause(routeId);
        return;
      }
      case 'crash':
        claimed = [];
        kept.commands.recover();
        kept.commands.reclaim('nobody');
        return;
      case 'delete':
        kept.commands.removeBefore({ intakeId: kept.intakeId, time: Date.now() + 1000, most: 99 });
        return;
      case 'deliver':
        deliver();
    }
  };
  acts.forEach(step);
  // In the end everything that waits is read, unless it was being read at three ends of the server.
  for (let round = 0; round < 4; round++) {
    step({ do: 'claim', most: 3 });
    while (claimed.length > 0) step({ do: 'finish', which: 0, twice: false });
  }
  deliver();
  return { model, queued };
}

test('whatever happens, each submission is queued once for each route, and none that is not due', () => {
  fc.assert(
    fc.property(fc.array(act, { minLength: 5, maxLength: 60 }), acts => {
      const kept = stored();
      try {
        const { model, queued } = run(kept, acts);
        expect([...queued].sort()).toEqual([...model.due].sort());
        expect(new Set(queued).size).toBe(queued.length);
        const keys = kept.store.deliveries.page({}, 0, 999).rows.map(each => each.idempotencyKey);
        expect(new Set(keys).size).toBe(keys.length);
      } finally {
        kept.close();
      }
    }),
    { numRuns: 40 },
  );
});
