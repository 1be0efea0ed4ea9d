import { parseJson, isJsonObject, type Json } from '@grammata/core/submission';
import { isFault, type OutwardAnswer, type OutwardFault } from '../outward';

/** What an answer means for a delivery. */
export interface Verdict {
  outcome: 'delivered' | 'retry' | 'final';
  message: string;
  /** ms from now that the target asked to wait; null when it did not. */
  retryAfter: number | null;
}

/** Statuses after which the same request may succeed later (RFC 9110 §15, RFC 6585 §4, RFC 8470 §5.2). */
const passing = new Set([408, 425, 429, 500, 502, 503, 504]);

/** Delivered, to be tried again, or final. `at` is the time of the answer in ms since the epoch. */
export function verdictOn(result: OutwardAnswer | OutwardFault, at: number): Verdict {
  if (isFault(result)) {
    const final = result.code === 'private' || result.code === 'address';
    return { outcome: final ? 'final' : 'retry', message: result.message, retryAfter: null };
  }
  const { status, headers, body } = result;
  if (status >= 200 && status < 300)
    return { outcome: 'delivered', message: `Accepted with ${status}.`, retryAfter: null };
  const said = complaintIn(body);
  const message = `${meaning(status)}${said ? ` It said: ${said}` : ''}`;
  return passing.has(status)
    ? { outcome: 'retry', message, retryAfter: retryAfterOf(headers['retry-after'], at) }
    : { outcome: 'final', message, retryAfter: null };
}

function meaning(status: number): string {
  if (status === 401) return 'The target does not know these credentials (401).';
  if (status === 403) return 'The credentials may not do this (403).';
  if (status === 404) return 'The target has nothing at this address (404).';
  if (status === 429) return 'The target asks for fewer requests (429).';
  if (status >= 300 && status < 400) return `The target points elsewhere (${status}); redirects are not followed.`;
  return status >= 500
    ? `The target has trouble of its own (${status}).`
    : `The target refused the request (${status}).`;
}

/** Retry-After as seconds or as an HTTP date (RFC 9110 §10.2.3); ms from `at`, or null. */
export function retryAfterOf(header: string | undefined, at: number): number | null {
  if (header === undefined) return null;
  if (/^\d+$/.test(header.trim())) return Number(header) * 1000;
  const date = Date.parse(header);
  return Number.isNaN(date) ? null : Math.max(0, date - at);
}

/** What the target complains of: problem details (RFC 9457) and the shapes that are common beside them. */
export function complaintIn(body: string): string | null {
  const document = parseJson(body);
  if (!isJsonObject(document)) return body.trim() && !/^\s*</.test(body) ? body.trim().slice(0, 200) : null;
  const inner = isJsonObject(document.error) ? document.error : document;
  const main = firstText([inner.detail, inner.message, inner.title, inner.error_description, document.error]);
  const list = [inner.errors, document.errors].find(Array.isArray) ?? [];
  const parts = list
    .filter(isJsonObject)
    .map(each =>
      [firstText([each.field, each.pointer, each.path]), firstText([each.detail, each.message])]
        .filter(Boolean)
        .join(': '),
    );
  return [main, ...parts].filter(Boolean).join(' ').slice(0, 500) || null;
}

const firstText = (values: (Json | undefined)[]): string | null =>
  values.find((value): value is string => typeof value === 'string' && value !== '') ?? null;
