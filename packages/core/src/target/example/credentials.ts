import type { Auth } from '../credentials';
import type { Shown } from './shown';

/** Who asks, as an example shows it. */
export interface ShownCredentials {
  auth: Auth;
  secret: string;
}

/** Names of headers and parameters whose values are secrets. *Common practice, no source.* */
export const isSecretName = (name: string): boolean => /key|token|secret|signature|auth|passw|^sig$/i.test(name);

/** A value that stands for a secret rather than being one: `…`, `YOUR_KEY`, `{token}`, `$TOKEN`. */
const isStandIn = (value: string) => value === '' || /^[.…*x•]+$|[{}<>$]|^your\b|^your_/i.test(value);

/** How the requests show who asks, and the secret itself; null where none does. */
export function credentialsIn(requests: readonly Shown[]): ShownCredentials | null {
  for (const { headers, url, user } of requests) {
    if (user) {
      const [name = '', ...rest] = user.split(':');
      return { auth: { kind: 'basic', user: name }, secret: given(rest.join(':')) };
    }
    for (const [name, value] of headers) {
      if (/^authorization$/i.test(name)) return ofAuthorization(value);
      if (isSecretName(name) && !/^(idempotency-key|content-.*|cookie|.*signature)$/i.test(name))
        return { auth: { kind: 'header', name }, secret: given(value) };
    }
    for (const [name, value] of URL.canParse(url) ? new URL(url).searchParams : [])
      if (isSecretName(name)) return { auth: { kind: 'query', name }, secret: given(value) };
  }
  return null;
}

const given = (value: string) => (isStandIn(value) ? '' : value);

/** Text out of base64; null where it is none. */
function decoded(base64: string): string | null {
  try {
    return new TextDecoder().decode(Uint8Array.from(atob(base64), each => each.charCodeAt(0)));
  } catch {
    return null;
  }
}

/** RFC 6750 §2.1 and RFC 7617 §2; any other scheme is a header of its own. */
function ofAuthorization(value: string): ShownCredentials {
  const [scheme = '', ...words] = value.trim().split(/\s+/);
  const rest = words.join(' ');
  if (/^bearer$/i.test(scheme)) return { auth: { kind: 'bearer' }, secret: given(rest) };
  const pair = /^basic$/i.test(scheme) ? decoded(rest) : null;
  if (pair?.includes(':')) {
    const [user = '', ...password] = pair.split(':');
    return { auth: { kind: 'basic', user }, secret: given(password.join(':')) };
  }
  return { auth: { kind: 'header', name: 'Authorization' }, secret: given(value) };
}

/** The text of an example without the secrets it shows: they are kept elsewhere, sealed. */
export function withoutSecrets(text: string, requests: readonly Shown[]): string {
  const secrets = new Set<string>();
  for (const { headers, url, user } of requests) {
    if (user) secrets.add(user.split(':').slice(1).join(':'));
    for (const [name, value] of headers) {
      if (/^(authorization|cookie)$/i.test(name)) secrets.add(value.replace(/^\S+\s+/, ''));
      else if (isSecretName(name)) secrets.add(value);
    }
    for (const [name, value] of URL.canParse(url) ? new URL(url).searchParams : [])
      if (isSecretName(name)) {
        secrets.add(value);
        secrets.add(encodeURIComponent(value));
      }
  }
  return [...secrets]
    .filter(secret => secret.length > 2)
    .sort((a, b) => b.length - a.length)
    .reduce((hidden, secret) => hidden.replaceAll(secret, '…'), text);
}
