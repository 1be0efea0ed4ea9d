import { now } from '../clock';
import type { Store } from '../store';
import type { Timer, Timers } from '../timing';
import type { Bodies } from './bodies';

const DAY = 24 * 3600 * 1000;
/** Arrivals deleted before others get their turn. */
const PORTION = 200;

/** Deletes what arrived longer ago than its intake keeps it; gives back how many arrivals went. */
export async function deleteOld(
  store: Store,
  bodies: Pick<Bodies, 'remove'>,
  at: number,
  turn: () => Promise<void>,
): Promise<number> {
  let gone = 0;
  for (const { id, keepDays } of store.intakes.all()) {
    if (keepDays === null) continue;
    for (;;) {
      const ids = store.arrivals.removeBefore(id, at - keepDays * DAY, PORTION);
      ids.forEach(each => bodies.remove(each));
      gone += ids.length;
      if (ids.length < PORTION) break;
      await turn();
    }
  }
  return gone;
}

/** Deletes on time, every hour: what is old, copies and sessions that ended. Gives back the timer. */
export const retention = (store: Store, bodies: Bodies, copies: { sweep(): void }, timers: Timers): Timer =>
  timers.schedule('deleting what is old', '17 * * * *', async () => {
    store.accounts.purgeSessions();
    copies.sweep();
    await deleteOld(store, bodies, now(), () => timers.turn());
  });
