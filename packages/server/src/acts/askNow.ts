import { targetsOf } from '@grammata/core/route';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'breakers' | 'ledger' | 'deliveries' | 'log'>;

/** Has a target that is left alone asked again at once, with whatever waits for it. */
export async function askNow(
  { store, breakers, ledger, deliveries, log }: Parts,
  actor: Actor,
  target: TargetRow,
): Promise<void> {
  if (breakers.parked(target.id) === null) return;
  const routes = store.routes.running().filter(({ version }) => targetsOf(version.definition).includes(target.id));
  await ledger.hasten(routes.map(each => each.id));
  breakers.probe(target.id);
  log.info({ actor: actor.id, target: target.id }, 'a parked target is asked again');
  deliveries.wake();
}
