import { Cron } from 'croner';
import type { Logger } from 'pino';
import { now } from '../clock';
import type { Store } from '../store';
import type { Bodies } from './bodies';

const DAY = 24 * 3600 * 1000;

/** Deletes what arrived longer ago than its intake keeps it; gives back how many arrivals went. */
export function deleteOld(store: Store, at: number): number {
  return store.intakes
    .all()
    .map(({ id, keepDays }) => (keepDays === null ? 0 : store.arrivals.removeBefore(id, at - keepDays * DAY)))
    .reduce((sum, each) => sum + each, 0);
}

/** Deletes on time, every hour. Gives back the timer. */
export const retention = (store: Store, bodies: Bodies, copies: { sweep(): void }, log: Logger): Cron =>
  new Cron('17 * * * *', { timezone: 'UTC', unref: true, catch: error => log.error({ err: error }) }, () => {
    deleteOld(store, now());
    bodies.sweep(id => store.arrivals.has(id));
    copies.sweep();
  });
