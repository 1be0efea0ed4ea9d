import { targetsOf } from '@grammata/core/route';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'breakers' | 'ledger' | 'deliveries' | 'log'>;

/** Has whatever waits for a target go now: something was mended. */
export async function goNow(
  { store, ledger, deliveries }: Pick<Parts, 'store' | 'ledger' | 'deliveries'>,
  targetId: string,
): Promise<void> {
  const routes = store.routes.running().filter(({ version }) => targetsOf(version.definition).includes(targetId));
  await ledger.hasten(routes.map(each => each.id));
  deliveries.wake();
}

/** Has a target that is left alone asked again at once, with whatever waits for it. */
export async function askNow(parts: Parts, actor: Actor, target: TargetRow): Promise<void> {
  if (parts.breakers.parked(target.id) === null) return;
  parts.breakers.probe(target.id);
  parts.log.info({ actor: actor.id, target: target.id }, 'a parked target is asked again');
  await goNow(parts, target.id);
}
