/** How a target is shown who asks. The secret itself is kept apart, sealed. */
export type Auth =
  | { kind: 'none' }
  | { kind: 'bearer' }
  /** HTTP Basic (RFC 7617). */
  | { kind: 'basic'; user: string }
  /** An API key in a header or in the query. */
  | { kind: 'header' | 'query'; name: string };

export const authKinds = ['none', 'bearer', 'basic', 'header', 'query'] as const satisfies readonly Auth['kind'][];

/** What is put on a request as it leaves. */
export interface Credentials {
  headers: [name: string, value: string][];
  query: [name: string, value: string][];
}

/** What stands for a secret wherever people see one. */
export const MASK = '••••••';

const base64 = (text: string) => btoa(String.fromCharCode(...new TextEncoder().encode(text)));

/** The credentials of a request, with this secret. */
export function credentialsOf(auth: Auth, secret: string): Credentials {
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
  return auth.kind === 'basic'
    ? { headers: [['authorization', `Basic ${MASK}`]], query: [] }
    : credentialsOf(auth, MASK);
}

/** An address with credentials in its query. */
export function withQuery(url: string, query: Credentials['query']): string {
  if (query.length === 0) return url;
  const pairs = query.map(
    ([name, value]) => `${encodeURIComponent(name)}=${value === MASK ? MASK : encodeURIComponent(value)}`,
  );
  return `${url}${url.includes('?') ? '&' : '?'}${pairs.join('&')}`;
}
