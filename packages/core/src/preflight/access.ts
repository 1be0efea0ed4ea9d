import type { Auth } from '../target';
import type { SeenTarget } from './check';

/** What a target lacks to be shown who asks. */
export function accessOf({
  auth,
  hasToken,
  consent,
}: {
  auth: Auth;
  hasToken: boolean;
  consent: { ended: unknown } | null;
}): Pick<SeenTarget, 'access'> {
  if (auth.kind === 'none') return {};
  if (auth.kind === 'consent') return consent && !consent.ended ? {} : { access: 'consent' };
  return hasToken ? {} : { access: 'missing' };
}
