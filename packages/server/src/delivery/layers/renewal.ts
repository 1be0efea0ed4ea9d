import { isFault, type Authorizations } from '../../outward';
import { now } from '../../clock';
import type { Layer } from './send';

/** A token that the target refuses (RFC 9110 §15.5.2) is fetched anew, and the request made once more. */
export const renewsToken =
  (authorizations: Pick<Authorizations, 'forget'>): Layer =>
  next =>
  async outgoing => {
    const asked = now();
    const first = await next(outgoing);
    const isRefused = !isFault(first) && first.status === 401;
    return isRefused && authorizations.forget(outgoing.target.side, asked) ? next(outgoing) : first;
  };
