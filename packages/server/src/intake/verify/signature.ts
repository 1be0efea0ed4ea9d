import { createHmac, timingSafeEqual } from 'node:crypto';
import type { SignedContent, VerificationInput } from '@grammata/contract';
import type { Check, Checked, Signed } from './check';

const equal = (a: string, b: string): boolean => {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
};

/** Seconds since the epoch, from seconds, milliseconds or a date; null when it is none. */
function secondsOf(stamp: string): number | null {
  if (/^\d{9,11}$/.test(stamp)) return Number(stamp);
  if (/^\d{12,14}$/.test(stamp)) return Number(stamp) / 1000;
  const date = Date.parse(stamp);
  return Number.isNaN(date) ? null : date / 1000;
}

/** Seconds. */
const DAY = 86_400;

/** Why a timestamp can't be taken, or null. */
function staleness(stamp: string | null, header: string, tolerance: number, now: number): string | null {
  if (stamp === null) return `The header “${header}” with the timestamp is missing.`;
  const seconds = secondsOf(stamp);
  if (seconds === null) return `The timestamp “${stamp}” in “${header}” can’t be read.`;
  const off = Math.round(Math.abs(now / 1000 - seconds));
  return tolerance > 0 && off > tolerance
    ? `The timestamp is ${off < 2 * DAY ? `${off} s` : `${Math.round(off / DAY)} days`} off; the tolerance is ${tolerance} s. It may be a replayed message, or a wrong clock.`
    : null;
}

/** Takes a body chunk by chunk, so that none has to be held whole, and gives the digests over what is signed. */
export interface Signing {
  update(chunk: Uint8Array): void;
  signed(): Signed;
}

/** The computing of what a signature has to be; null for a rule that asks for none. */
export function signingFor(rule: Rule, secrets: string[], header: Checked['header']): Signing | null {
  if (rule.kind !== 'hmac' && rule.kind !== 'standard') return null;
  const isStandard = rule.kind === 'standard';
  const stamp = header(isStandard ? 'webhook-timestamp' : rule.timestampHeader) ?? '';
  const id = header(isStandard ? 'webhook-id' : rule.idHeader) ?? '';
  const content = isStandard ? 'id.timestamp.body' : rule.signed;
  const before = content === 'body' ? '' : content === 'timestamp.body' ? `${stamp}.` : `${id}.${stamp}.`;
  const hmacs = secrets.map(secret =>
    createHmac(
      isStandard ? 'sha256' : rule.algorithm,
      isStandard ? Buffer.from(secret.replace(/^whsec_/, ''), 'base64') : secret,
    ).update(before),
  );
  let bytes = Buffer.byteLength(before);
  return {
    update(chunk) {
      bytes += chunk.length;
      hmacs.forEach(each => each.update(chunk));
    },
    signed: () => ({ digests: hmacs.map(each => each.digest(isStandard ? 'base64' : rule.encoding)), bytes }),
  };
}

const signedWords: Record<SignedContent, string> = {
  body: 'the body',
  'timestamp.body': 'the timestamp, a full stop and the body',
  'id.timestamp.body': 'the id, the timestamp and the body with full stops between',
};
const nothing: Signed = { digests: [], bytes: 0 };
const short = (signature: string) => (signature.length > 20 ? `${signature.slice(0, 12)}…` : signature);

/** An HMAC (RFC 2104) in a header, over the body or over more than that. */
export const hmac: Check = ({ header, signed, now }, rule) => {
  const got = header(rule.name);
  if (got === null) return { ok: false, words: `The header “${rule.name}” with the signature is missing.` };
  const stamp = rule.signed === 'body' ? '' : header(rule.timestampHeader);
  if (rule.signed !== 'body') {
    const stale = staleness(stamp, rule.timestampHeader, rule.tolerance, now);
    if (stale) return { ok: false, words: stale };
  }
  const id = rule.signed === 'id.timestamp.body' ? header(rule.idHeader) : '';
  if (id === null) return { ok: false, words: `The header “${rule.idHeader}” with the id is missing.` };
  if (!got.startsWith(rule.prefix))
    return { ok: false, words: `“${rule.name}” holds “${short(got)}”, which does not start with “${rule.prefix}”.` };
  const signature = got.slice(rule.prefix.length);
  const { digests, bytes } = signed ?? nothing;
  if (digests.some(digest => equal(rule.encoding === 'hex' ? signature.toLowerCase() : signature, digest)))
    return { ok: true, words: `The signature in “${rule.name}” is valid.` };
  return {
    ok: false,
    words: `The signature differs. “${rule.name}” holds “${short(signature)}”; ${rule.algorithm} over ${signedWords[rule.signed]} (${bytes} bytes) gives “${short(digests[0] ?? '')}”. Is the secret the same on both sides?`,
  };
};

/** Standard Webhooks (standardwebhooks.com, spec 1.0.0): `webhook-id`, `webhook-timestamp`, `webhook-signature`. */
export const standard: Check = ({ header, signed, now }, rule) => {
  const [id, stamp, signatures] = [header('webhook-id'), header('webhook-timestamp'), header('webhook-signature')];
  if (id === null || signatures === null)
    return { ok: false, words: `The header “${id === null ? 'webhook-id' : 'webhook-signature'}” is missing.` };
  const stale = staleness(stamp, 'webhook-timestamp', rule.tolerance || 300, now);
  if (stale) return { ok: false, words: stale };
  const given = signatures
    .split(' ')
    .filter(each => each.startsWith('v1,'))
    .map(each => each.slice(3));
  const { digests } = signed ?? nothing;
  if (given.some(each => digests.some(digest => equal(each, digest))))
    return { ok: true, words: 'The signature in “webhook-signature” is valid.' };
  return {
    ok: false,
    words: `The signature differs. “webhook-signature” holds “${short(given[0] ?? signatures)}”; over ${signedWords['id.timestamp.body']} it is “${short(digests[0] ?? '')}”. Is the secret the same on both sides?`,
  };
};

/** A secret in a header, the query, or as HTTP Basic credentials (RFC 7617). */
export const secretIn =
  (where: 'header' | 'query' | 'basic'): Check =>
  ({ header, query }, rule, secrets) => {
    if (where === 'basic') {
      const credentials = /^Basic\s+(\S+)$/i.exec(header('authorization') ?? '')?.[1];
      if (!credentials) return { ok: false, words: 'It has no Basic credentials.' };
      const given = Buffer.from(credentials, 'base64').toString('utf8');
      return secrets.some(secret => equal(given, `${rule.name}:${secret}`))
        ? { ok: true, words: 'The Basic credentials are valid.' }
        : { ok: false, words: `The Basic credentials of “${given.split(':')[0]}” are wrong.` };
    }
    const place = where === 'header' ? 'header' : 'query value';
    const given = where === 'header' ? header(rule.name) : query.get(rule.name);
    if (given === null) return { ok: false, words: `The ${place} “${rule.name}” is missing.` };
    return secrets.some(secret => equal(given, secret))
      ? { ok: true, words: `The secret in the ${place} “${rule.name}” is valid.` }
      : { ok: false, words: `The ${place} “${rule.name}” has a wrong secret.` };
  };

export type Rule = Omit<VerificationInput, 'secrets'>;
