import { now } from '../clock';
import { tellQueued } from '../live';
import type { Services } from '../services';
import type { ChangeRow, HeldDelivery } from '../store';
import { heldUntil, HELD_FOR_CHANGE, waitsFor } from './holding';

type Parts = Pick<Services, 'store' | 'ledger' | 'deliveries' | 'live'>;

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

/** Sends what routes hold for some changes of their form, and nothing that waits for others. */
export async function sendHeldFor(
  parts: Parts,
  changes: readonly ChangeRow[],
  routeIds: readonly string[],
): Promise<void> {
  for (const routeId of routeIds)
    await sendHeld(parts, routeId, now(), ({ versionId, data }) => {
      const definition = parts.store.routes.version(versionId)?.definition;
      return definition !== undefined && changes.some(each => waitsFor(each, routeId, definition, data));
    });
}

/** Sends what was held for a change for as long as the terms of its route allow. */
export async function sendHeldTooLong(parts: Parts): Promise<void> {
  const at = now();
  for (const route of parts.store.routes.all()) {
    // What began then or before has been held long enough.
    const began = at - heldUntil(0, parts.store.routes.doing(route).definition);
    if (route.state === 'live' && began > 0) await sendHeld(parts, route.id, began, () => true);
  }
}
