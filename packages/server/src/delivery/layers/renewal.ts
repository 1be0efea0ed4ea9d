import { isFault, type Authorizations } from '../../outward';
import type { Layer } from './send';

/** A token that the target refuses (RFC 9110 §15.5.2, §15.5.4) is had anew, and the request made once more. */
export const renewsToken =
  (authorizations: Pick<Authorizations, 'forget'>): Layer =>
  next =>
  async outgoing => {
    const first = await next(outgoing);
    const isRefused = !isFault(first) && (first.status === 401 || first.status === 403);
    const isRenewed = isRefused && first.credentials && authorizations.forget(outgoing.target.side, first.credentials);
    return isRenewed ? next(outgoing) : first;
  };
