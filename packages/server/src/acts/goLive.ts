import { accessOf, preflight } from '@grammata/core/preflight';
import { targetsOf } from '@grammata/core/route';
import { isoOrNull, now } from '../clock';
import { HttpProblem } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import { tokenEnd } from '../targets';
import type { Actor } from './actor';
import { repairableIn, settleRepaired } from './repairs';
import { heldAgainst } from './proofs';

type Parts = Pick<Services, 'store' | 'deliveries' | 'courier' | 'live' | 'log' | 'timers' | 'vault'>;

/** Makes a route's draft live, which settles the changes that it mends. Throws HttpProblem where something does not hold that must. */
export function goLive(parts: Parts, actor: Actor, route: RouteRow): void {
  const { store, deliveries, live, log, vault } = parts;
  const findings = preflight({
    definition: route.draft,
    targets: targetsOf(route.draft).flatMap(id => {
      const row = store.targets.byId(id);
      const tokenEndsAt = row ? isoOrNull(tokenEnd(row, vault)) : null;
      return row ? { ...row, ...accessOf({ ...row, hasToken: row.secret !== null, tokenEndsAt }) } : [];
    }),
    now: now(),
    trial: route.trial?.revision === route.revision ? route.trial : null,
    proofs: proofsOf({ store, deliveries }, route),
  });
  const stopping = findings.find(each => each.stops);
  if (stopping) throw new HttpProblem(409, stopping.words, stopping.remedy);
  const mendable = repairableIn(parts, route);
  store.routes.goLive(route.id, actor.name);
  log.info({ actor: actor.id, route: route.id }, 'a route went live');
  settleRepaired(parts, actor, mendable);
  live.publish({ type: 'changed', what: 'route', id: route.id });
  deliveries.wake();
}

/** How many proofs there are, and how many differ; a route that can't be made has faults enough. */
function proofsOf(parts: Pick<Parts, 'store' | 'deliveries'>, route: RouteRow) {
  try {
    const held = heldAgainst(parts, route);
    return { total: held.length, differing: held.filter(each => each.differences.length > 0).length };
  } catch (error) {
    if (error instanceof HttpProblem) return { total: 0, differing: 0 };
    throw error;
  }
}

/** Has a live route gather what arrives. Throws HttpProblem where it is not live. */
export function pause({ store, live, log }: Parts, actor: Actor, route: RouteRow): void {
  if (route.state !== 'live') throw new HttpProblem(409, 'Only a live route can be paused.');
  store.routes.pause(route.id);
  log.info({ actor: actor.id, route: route.id }, 'a route was paused');
  live.publish({ type: 'changed', what: 'route', id: route.id });
}
