import { now } from '../clock';
import type { Ledger } from '../ledger';
import type { Store } from '../store';
import type { Timer, Timers } from '../timing';
import type { Bodies } from './bodies';

const DAY = 24 * 3600 * 1000;
/** Arrivals deleted before others get their turn. */
const PORTION = 200;

/** Deletes what arrived longer ago than its intake keeps it; gives back how many arrivals went. */
export async function deleteOld(
  { intakes }: Pick<Store, 'intakes'>,
  ledger: Pick<Ledger, 'removeBefore'>,
  bodies: Pick<Bodies, 'remove'>,
  at: number,
): Promise<number> {
  let gone = 0;
  for (const { id, keepDays } of intakes.all()) {
    if (keepDays === null) continue;
    for (;;) {
      const { count, asideIds } = await ledger.removeBefore({
        intakeId: id,
        time: at - keepDays * DAY,
        most: PORTION,
      });
      asideIds.forEach(each => bodies.remove(each));
      gone += count;
      if (count < PORTION) break;
    }
  }
  return gone;
}

/** Deletes on time, every hour: what is old, copies and sessions that ended. Gives back the timer. */
export const retention = (
  store: Store,
  ledger: Ledger,
  bodies: Bodies,
  copies: { sweep(): void },
  timers: Timers,
): Timer =>
  timers.schedule('deleting what is old', '17 * * * *', async () => {
    store.accounts.purgeSessions();
    await deleteOld(store, ledger, bodies, now());
    copies.sweep();
  });
