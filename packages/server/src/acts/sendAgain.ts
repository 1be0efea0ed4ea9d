import type { DeliveryFilterInput, ResendInput, WorkView } from '@grammata/contract';
import type { Services } from '../services';
import type { DeliveryRow } from '../store';
import { HttpProblem } from '../problems';
import { inBackground } from '../work';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'timers' | 'deliveries' | 'due' | 'workshop' | 'live' | 'log'>;
type Mapping = ResendInput['mapping'];

const PORTION = 100;

/**
 * Sends a delivery again: what failed under its old key, what was delivered as a deliberate second delivery under a new one.
 * Gives the identifier of what is on its way; null where it was so already.
 */
function sendOneAgain({ store, due, live }: Parts, row: DeliveryRow, mapping: Mapping): string | null {
  if (row.state === 'waiting' || row.state === 'sending') return null;
  const { routeId, submissionId, about } = row;
  const versionId = (mapping === 'now' ? store.routes.latestVersion(routeId)?.id : undefined) ?? row.versionId;
  let id: string | undefined = row.id;
  if (row.state === 'delivered') {
    const run = store.deliveries.lastRun(routeId, submissionId) + 1;
    id = due.enqueue([{ routeId, submissionId, versionId, about, run }])[0]?.id;
  } else {
    store.deliveries.again(row, versionId);
  }
  if (id) live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
  return id ?? null;
}

/** Sends single deliveries again, oldest first; gives those that are on their way. */
export function sendAgain(parts: Parts, _actor: Actor, ids: readonly string[], mapping: Mapping): string[] {
  const rows = ids
    .flatMap(id => parts.store.deliveries.byId(id) ?? [])
    .sort((a, b) => a.createdAt - b.createdAt || (a.id < b.id ? -1 : 1));
  const sent = rows.flatMap(row => sendOneAgain(parts, row, mapping) ?? []);
  parts.deliveries.wake();
  return sent;
}

/** Sends all again that are alike, oldest first, in the background: all there are, not those that somebody happens to see. */
export function sendAlikeAgain(
  parts: Parts,
  actor: Actor,
  filter: DeliveryFilterInput,
  mapping: Mapping,
): Pick<WorkView, 'id'> {
  const { store, workshop, timers, deliveries, log } = parts;
  const total = store.deliveries.page(filter, 0, 0).total;
  if (total === 0) throw new HttpProblem(409, 'There is no delivery like that any more.');
  const work = workshop.start({ kind: 'resend', title: 'Sending again', routeId: filter.routeId ?? null }, total);
  log.info({ actor: actor.id, filter, deliveries: total }, 'deliveries are sent again');
  let [done, sent] = [0, 0];
  const all = async () => {
    // Those that fail anew meanwhile, or are delivered by it, are not taken again.
    const until = store.deliveries.newest();
    let last: DeliveryRow | undefined;
    while (!work.isStopped) {
      const rows = store.deliveries.alike(filter, PORTION, last).filter(row => until !== null && row.id <= until);
      if (rows.length === 0) break;
      for (const row of rows) if (sendOneAgain(parts, row, mapping)) sent += 1;
      deliveries.wake();
      last = rows.at(-1);
      done += rows.length;
      work.at(done);
      await timers.turn();
    }
    work.finish(`${sent} of ${total} are on their way again.`);
  };
  inBackground(timers, work, all, () => `after ${done} of ${total}`);
  return { id: work.id };
}
