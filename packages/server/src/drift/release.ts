import { now } from '../clock';
import { tellQueued } from '../live';
import type { Services } from '../services';
import type { ChangeRow, HeldDelivery } from '../store';
import { heldUntil, HELD_FOR_CHANGE, waitsFor } from './holding';

type Parts = Pick<Services, 'store' | 'ledger' | 'deliveries' | 'live'>;

/** ms for which it is looked whether something is left that waits for a change that is over. */
const DAY = 86_400_000;
/** Deliveries that go at once before others have their turn. */
const PORTION = 100;

/**
 * Sends what a route holds for changes of its form and is meant, the oldest first, by what is live now: what is still to be held is held again.
 * @param until only what began before this time, ms since the epoch
 */
async function sendHeld(
  { store, ledger, deliveries, live }: Parts,
  routeId: string,
  until: number,
  isMeant: (held: HeldDelivery) => boolean,
): Promise<void> {
  let after: string | null = null;
  for (;;) {
    const held: HeldDelivery[] = store.deliveries.heldWith(routeId, HELD_FOR_CHANGE, until, after, PORTION);
    if (held.length === 0) return;
    after = held.at(-1)!.id;
    const ids = held.filter(isMeant).map(each => each.id);
    const states = Object.fromEntries(ids.map(id => [id, 'held']));
    tellQueued(live, await ledger.sendAgain({ ids, states, mapping: 'now' }));
    deliveries.wake();
  }
}

/** Sends what routes hold for one change of their form, and nothing that waits for others; by default what all routes of the form hold. */
export async function sendHeldFor(
  parts: Parts,
  change: ChangeRow,
  routeIds: readonly string[] = routesOf(parts, change),
): Promise<void> {
  for (const routeId of routeIds)
    await sendHeld(parts, routeId, now(), ({ versionId, data }) => {
      const definition = parts.store.routes.version(versionId)?.definition;
      return definition !== undefined && waitsFor(change, routeId, definition, data);
    });
}

const routesOf = ({ store }: Pick<Parts, 'store'>, { subjectId }: ChangeRow): string[] =>
  store.routes
    .all()
    .filter(each => store.routes.doing(each).formId === subjectId)
    .map(each => each.id);

/**
 * Sends what is held though nothing holds it any more: longer than the terms of its route allow, or for a change that was let go or is over by
 * itself while a delivery was about to be held, or the server stopped.
 */
export async function sendHeldStill(parts: Parts): Promise<void> {
  const { routes, changes } = parts.store;
  const at = now();
  for (const route of routes.all()) {
    // What began then or before has been held long enough.
    const began = at - heldUntil(0, routes.doing(route).definition);
    if (route.state === 'live' && began > 0) await sendHeld(parts, route.id, began, () => true);
  }
  for (const change of changes.letGo(at - DAY)) {
    const { state, decided } = change;
    const decidedFor = Object.keys(decided).filter(routeId => decided[routeId] === 'deliver');
    await sendHeldFor(parts, change, state === 'open' ? decidedFor : undefined);
  }
}
