/** How a target is shown who asks. The secret itself is kept apart, sealed. */
export type Auth =
  | { kind: 'none' }
  | { kind: 'bearer' }
  /** HTTP Basic (RFC 7617). */
  | { kind: 'basic'; user: string }
  /** An API key in a header or in the query. */
  | { kind: 'header' | 'query'; name: string }
  /** OAuth 2 client credentials (RFC 6749 §4.4): a token is fetched with the secret, and goes as a bearer token. */
  | { kind: 'oauth'; tokenUrl: string; clientId: string; scope: string; clientIn: 'header' | 'body' }
  /** OAuth 2 with somebody's consent: authorization code and PKCE (RFC 6749 §4.1, RFC 7636); the token goes as a bearer token. */
  | {
      kind: 'consent';
      authorizeUrl: string;
      tokenUrl: string;
      clientId: string;
      scope: string;
      clientIn: 'header' | 'body';
    }
  /** Standard Webhooks: three headers, of which one signs identifier, time and body. */
  | { kind: 'webhook' }
  /** HMAC over the body in a header of this name (RFC 2104). */
  | { kind: 'hmac'; name: string; algorithm: 'sha1' | 'sha256' | 'sha512'; encoding: 'hex' | 'base64'; prefix: string };

export const authKinds = [
  'none',
  'bearer',
  'basic',
  'header',
  'query',
  'oauth',
  'consent',
  'webhook',
  'hmac',
] as const satisfies readonly Auth['kind'][];

/** What is kept of somebody's consent beside its tokens. Times are ms since the epoch. */
export interface Consent {
  givenAt: number;
  /** When its token ends; null where the provider does not say. */
  expiresAt: number | null;
  /** Set where the provider does not take it any more. */
  ended: { at: number; reason: string } | null;
}

/** Kinds whose credentials are made for each request, of more than the secret. */
export type MadeAuth = Extract<Auth, { kind: 'oauth' | 'consent' | 'webhook' | 'hmac' }>;
export const isMade = (auth: Auth): auth is MadeAuth => ['oauth', 'consent', 'webhook', 'hmac'].includes(auth.kind);

/** What is put on a request as it leaves. */
export interface Credentials {
  headers: [name: string, value: string][];
  query: [name: string, value: string][];
}

/** What stands for a secret wherever people see one. */
export const MASK = '••••••';

const base64 = (text: string) => btoa(String.fromCharCode(...new TextEncoder().encode(text)));

/** The credentials of a request, with this secret. */
export function credentialsOf(auth: Exclude<Auth, MadeAuth>, secret: string): Credentials {
  switch (auth.kind) {
    case 'none':
      return { headers: [], query: [] };
    case 'bearer':
      return { headers: [['authorization', `Bearer ${secret}`]], query: [] };
    case 'basic':
      return { headers: [['authorization', `Basic ${base64(`${auth.user}:${secret}`)}`]], query: [] };
    case 'header':
      return { headers: [[auth.name.toLowerCase(), secret]], query: [] };
    case 'query':
      return { headers: [], query: [[auth.name, secret]] };
  }
}

/** The same as people see them. */
export function maskedCredentials(auth: Auth): Credentials {
  const headers = (...names: string[]): Credentials => ({ headers: names.map(name => [name, MASK]), query: [] });
  switch (auth.kind) {
    case 'basic':
      return { headers: [['authorization', `Basic ${MASK}`]], query: [] };
    case 'oauth':
    case 'consent':
      return { headers: [['authorization', `Bearer ${MASK}`]], query: [] };
    case 'webhook':
      return headers('webhook-id', 'webhook-timestamp', 'webhook-signature');
    case 'hmac':
      return headers(auth.name.toLowerCase());
    default:
      return credentialsOf(auth, MASK);
  }
}

/** An address with credentials in its query. */
export function withQuery(url: string, query: Credentials['query']): string {
  if (query.length === 0) return url;
  const pairs = query.map(
    ([name, value]) => `${encodeURIComponent(name)}=${value === MASK ? MASK : encodeURIComponent(value)}`,
  );
  return `${url}${url.includes('?') ? '&' : '?'}${pairs.join('&')}`;
}
