import type { FeedInput } from '@grammata/contract';
import type { Auth } from '@grammata/core/target';

/** How the source of a feed is shown who asks. */
export function feedAuth({
  auth,
  name,
  tokenUrl = '',
  scope = '',
  clientIn = 'header',
}: Omit<FeedInput, 'secret'>): Auth {
  switch (auth) {
    case 'basic':
      return { kind: 'basic', user: name };
    case 'header':
      return { kind: 'header', name };
    case 'oauth':
      return { kind: 'oauth', tokenUrl, clientId: name, scope, clientIn };
    default:
      return { kind: auth };
  }
}
