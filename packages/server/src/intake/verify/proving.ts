import type { VerificationInput } from '@grammata/contract';
import { signingFor } from './signature';

/** What a sender adds to a message so that an intake believes it. */
export interface Proof {
  headers: [name: string, value: string][];
  query: [name: string, value: string][];
}

/**
 * What a builder adds to a body so that the rule holds: the other side of `verify`.
 * @param secrets of which the first, the newest, is used
 * @param id of the message, where one is signed
 * @param now ms since the epoch
 */
export function proofFor(
  rule: Omit<VerificationInput, 'secrets'>,
  [secret = '']: readonly string[],
  body: Uint8Array,
  { id, now }: { id: string; now: number },
): Proof {
  const isStandard = rule.kind === 'standard';
  const stated: [string, string][] = isStandard
    ? [
        ['webhook-id', id],
        ['webhook-timestamp', String(Math.floor(now / 1000))],
      ]
    : rule.kind === 'hmac' && rule.signed !== 'body'
      ? [
          [rule.timestampHeader, String(Math.floor(now / 1000))],
          ...(rule.signed === 'id.timestamp.body' ? [[rule.idHeader, id] as [string, string]] : []),
        ]
      : [];
  const header = (name: string) => stated.find(each => each[0].toLowerCase() === name.toLowerCase())?.[1] ?? null;
  const signing = signingFor(rule, [secret], header);
  if (signing) {
    signing.update(body);
    const [digest] = signing.signed().digests;
    const signature: [string, string] = isStandard
      ? ['webhook-signature', `v1,${digest}`]
      : [rule.name, `${rule.prefix}${digest}`];
    return { headers: [...stated, signature], query: [] };
  }
  switch (rule.kind) {
    case 'query':
      return { headers: [], query: [[rule.name, secret]] };
    case 'basic': {
      const credentials = Buffer.from(`${rule.name}:${secret}`).toString('base64');
      return { headers: [['authorization', `Basic ${credentials}`]], query: [] };
    }
    default:
      return { headers: [[rule.name, secret]], query: [] };
  }
}
