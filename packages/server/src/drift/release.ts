import { now } from '../clock';
import { HELD_FOR_CHANGE } from './holding';
import type { Services } from '../services';

type Parts = Pick<Services, 'store' | 'ledger' | 'deliveries' | 'live'>;

const HOUR = 3_600_000;
/** Deliveries that go at once before others have their turn. */
const PORTION = 100;

/**
 * Sends what routes hold for a change of their form, the oldest first, by what is live now: what is still to be held is held again. Gives how
 * many were queued.
 * @param until only what began before this time, ms since the epoch
 */
export async function sendHeld(
  { store, ledger, deliveries, live }: Parts,
  routeIds: readonly string[],
  until = now(),
): Promise<number> {
  let sent = 0;
  for (const routeId of routeIds) {
    let after: string | null = null;
    for (;;) {
      const ids = store.deliveries.heldWith(routeId, HELD_FOR_CHANGE, until, after, PORTION);
      if (ids.length === 0) break;
      after = ids.at(-1)!;
      const states = Object.fromEntries(ids.map(id => [id, 'held']));
      const queued = await ledger.sendAgain({ ids, states, mapping: 'now' });
      sent += queued.length;
      for (const { id } of queued) live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
      deliveries.wake();
    }
  }
  return sent;
}

/** Sends what was held for a change for as long as the terms of its route allow. */
export async function sendHeldTooLong(parts: Parts): Promise<void> {
  for (const route of parts.store.routes.all()) {
    const { holdHours } = parts.store.routes.doing(route).definition.terms;
    if (route.state === 'live' && holdHours !== undefined) await sendHeld(parts, [route.id], now() - holdHours * HOUR);
  }
}
