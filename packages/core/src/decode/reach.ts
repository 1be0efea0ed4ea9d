import { ARRIVED_AT, valueAt, type Json, type Submission } from '../submission';
import { pairsOf } from './media';

/** Values of an address, and headers, that are kept beside what a body says, and characters of each and of a mail's whole text. */
const [MOST_VALUES, LONGEST_VALUE, LONGEST_TEXT] = [40, 2000, 100_000];

interface Read {
  media: string;
  document: Json;
  submissions: Submission[];
}

function withBeside<R extends Read>(decoded: R, beside: Record<string, Json>): R {
  if (Object.keys(beside).length === 0) return decoded;
  return { ...decoded, submissions: decoded.submissions.map(each => ({ ...each, meta: { ...beside, ...each.meta } })) };
}

/** What stands beside what was read as answers can be used too: the values of the address beside a body, the whole text of a mail. */
export function withinReach<R extends Read>(decoded: R, query: string): R {
  if (decoded.submissions.length === 0 || decoded.media === 'query') return decoded;
  const beside: Record<string, Json> = {};
  for (const [name, value] of pairsOf(query).slice(0, MOST_VALUES)) beside[`query.${name}`] = value;
  const text = decoded.media === 'mail' ? valueAt(decoded.document, '/text') : undefined;
  if (typeof text === 'string' && text.length <= LONGEST_TEXT) beside.text = text;
  return withBeside(decoded, beside);
}

/**
 * Headers that tell how a message was carried and not what it is about: those of RFC 9110, RFC 6265, RFC 7239, of tracing
 * (W3C Trace Context), and what proxies and browsers add (common practice, no source).
 */
const ofCarriage =
  /^(?:accept(?:-.*)?|authorization|proxy-.*|cookie2?|host|connection|keep-alive|te|trailer|transfer-encoding|upgrade|via|expect|content-(?:length|type|encoding|disposition)|cache-control|pragma|date|age|max-forwards|from|if-.*|range|origin|referer|user-agent|dnt|priority|forwarded|x-forwarded-.*|x-real-ip|x-request-start|cf-.*|true-client-ip|traceparent|tracestate|baggage|sec-.*|upgrade-insecure-requests|received|return-path|mime-version)$/;

/** Names of headers by which senders prove themselves. Common practice, no source. */
const ofProof = /signature|secret|token|auth|password|credential|api-?key|hmac|digest|nonce/;

/** The headers of a message that say something of it, as `header.x-event`: they can be used like what stands around the answers. */
export function withHeaders<R extends Read>(
  decoded: R,
  headers: readonly (readonly [name: string, value: string])[],
): R {
  if (decoded.submissions.length === 0) return decoded;
  const telling = headers
    .map(([name, value]) => [name.toLowerCase(), value] as const)
    .filter(([name, value]) => !ofCarriage.test(name) && !ofProof.test(name) && value.length <= LONGEST_VALUE);
  return withBeside(
    decoded,
    Object.fromEntries(telling.slice(0, MOST_VALUES).map(([name, value]) => [`header.${name}`, value])),
  );
}

/** The time at which a message arrived, beside what it says itself. @param at ms since 1970 */
export function withArrival<R extends Read>(decoded: R, at: number): R {
  const told = { [ARRIVED_AT]: new Date(at).toISOString() };
  return { ...decoded, submissions: decoded.submissions.map(each => ({ ...each, meta: { ...each.meta, ...told } })) };
}
