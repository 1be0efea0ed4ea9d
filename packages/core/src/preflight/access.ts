import type { Auth } from '../target';
import type { SeenTarget } from './check';

/** What a target lacks to be shown who asks. */
export function accessOf({
  auth,
  hasToken,
  consent,
  tokenEndsAt,
}: {
  auth: Auth;
  hasToken: boolean;
  consent: { ended: unknown } | null;
  /** ISO 8601. */
  tokenEndsAt?: string | null;
}): Pick<SeenTarget, 'access' | 'endsAt'> {
  if (auth.kind === 'none') return {};
  if (auth.kind === 'consent') return consent && !consent.ended ? {} : { access: 'consent' };
  if (!hasToken) return { access: 'missing' };
  return tokenEndsAt ? { endsAt: Date.parse(tokenEndsAt) } : {};
}
