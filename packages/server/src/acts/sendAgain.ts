import type { DeliveryFilterInput, ResendInput, WorkView } from '@grammata/contract';
import type { SendAlike } from '../ledger';
import { tellQueued } from '../live';
import { HttpProblem } from '../problems';
import type { Services } from '../services';
import { inBackground } from '../work';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'ledger' | 'timers' | 'deliveries' | 'workshop' | 'live' | 'log'>;

/** Deliveries that are sent again before others have their turn. */
const PORTION = 100;

/**
 * Sends single deliveries again, oldest first: what failed under its old key, what was delivered as a deliberate second delivery under a
 * new one. Gives those that are on their way.
 */
export async function sendAgain(
  { ledger, live, deliveries }: Parts,
  _actor: Actor,
  { ids, states, mapping }: ResendInput,
): Promise<string[]> {
  const queued = await ledger.sendAgain({ ids, ...(states && { states }), mapping });
  tellQueued(live, queued);
  deliveries.wake();
  return queued.map(each => each.id);
}

/** Sends all again that are alike, oldest first, in the background: all there are, not those that somebody happens to see. */
export function sendAlikeAgain(
  parts: Parts,
  actor: Actor,
  alike: DeliveryFilterInput,
  { mapping, upTo }: Pick<ResendInput, 'mapping' | 'upTo'>,
): Pick<WorkView, 'id'> {
  const { store, ledger, workshop, timers, deliveries, live, log } = parts;
  const newest = upTo ?? store.deliveries.newest();
  const filter = { ...alike, ...(newest !== null && { upTo: newest }) };
  const total = store.deliveries.countOf(filter);
  if (total === 0) throw new HttpProblem(409, 'No delivery matches any more.');
  const work = workshop.start({ kind: 'resend', title: 'Sending again', routeId: filter.routeId ?? null }, total);
  log.info({ actor: actor.id, filter, deliveries: total }, 'deliveries are sent again');
  let [done, sent] = [0, 0];
  const all = async () => {
    let after: SendAlike['after'] = null;
    while (!work.isStopped) {
      const portion = await ledger.sendAlike({ filter, mapping, after, most: PORTION });
      tellQueued(live, portion.queued);
      deliveries.wake();
      sent += portion.queued.length;
      done += portion.looked;
      work.at(done);
      if (portion.last === null) break;
      after = portion.last;
    }
    work.finish(`${sent} of ${total} queued again.`);
  };
  void inBackground(timers, work, all, () => `after ${done} of ${total}`);
  return { id: work.id };
}
