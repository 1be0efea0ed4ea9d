import { HttpProblem } from '../problems';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import type { Actor } from './actor';
import { goNow } from './askNow';

type Parts = Pick<Services, 'store' | 'consents' | 'ledger' | 'deliveries' | 'live' | 'log'>;

/** Begins to ask for somebody's consent: the address at the provider. Throws HttpProblem where the target takes none. */
export async function askConsent(
  { consents, log }: Parts,
  actor: Actor,
  { id, auth, baseUrl }: TargetRow,
): Promise<string> {
  if (auth.kind !== 'consent') throw new HttpProblem(409, 'This target’s credentials are of another kind.');
  log.info({ actor: actor.id, target: id }, 'consent is asked for');
  return consents.begin(id, auth, baseUrl);
}

/** Takes what a provider sent somebody back with; what waited for consent goes at once. Null where nobody was sent to give it. */
export async function takeConsent(
  { store, consents, ledger, deliveries, live, log }: Parts,
  back: URLSearchParams,
): Promise<{ targetId: string; fault: string | null } | null> {
  const came = await consents.finish(back, id => store.targets.byId(id)?.secret ?? null);
  if (!came) return null;
  const { targetId, fault } = came;
  log.info({ target: targetId, fault }, 'somebody came back from giving consent');
  if (fault !== null) return came;
  live.publish({ type: 'changed', what: 'target', id: targetId });
  await goNow({ store, ledger, deliveries }, targetId);
  return came;
}

/** Forgets a consent: its tokens are kept no more. */
export function forgetConsent({ store, live, log }: Parts, actor: Actor, { id }: TargetRow): void {
  store.targets.update(id, { consent: null, consentTokens: null });
  live.publish({ type: 'changed', what: 'target', id });
  log.info({ actor: actor.id, target: id }, 'a consent was forgotten');
}
