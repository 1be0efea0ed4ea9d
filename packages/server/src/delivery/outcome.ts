import type { Complaint } from '@grammata/contract';
import { graphqlErrors } from '@grammata/core/graphql';
import { complaintIn, doubtIn, isAboutCredentials, refusalBy, saidIn } from '@grammata/core/response';
import { usualRetries, type Success } from '@grammata/core/route';
import type { RequestPlan } from '@grammata/core/request';
import { isFault, type OutwardAnswer, type OutwardFault } from '../outward';

/** What an answer means for a delivery. */
export interface Verdict {
  outcome: 'delivered' | 'retry' | 'final';
  message: string;
  /** ms from now that the target asked to wait; null when it did not. */
  retryAfter: number | null;
  /** When a request that was not made can be, in ms since the epoch; null for one that was. */
  notBefore: number | null;
  /** What was wrong was the credentials, and says nothing of this request: it waits until they are right. */
  isUnknown?: boolean;
}

/** What decides on an answer beside the answer itself. */
export interface Judging {
  /** Statuses after which the same request may succeed later. */
  statuses: readonly number[];
  /** True where a web page is what a success may look like. */
  takesPages: boolean;
  /** True where an answer of 200 may hold errors. */
  isGraphql?: boolean;
  /** How a response says that a request succeeded; null for what is usual, left out where its status alone counts. */
  success?: Success | null;
}

export const usualJudging: Judging = { statuses: usualRetries, takesPages: false };

/** Faults that trying again does not mend. */
const finalFaults: OutwardFault['code'][] = ['private', 'address', 'file'];

/** A page for people where data was expected: a sign-in or error page that calls itself a success. */
const isPage = ({ headers, body }: OutwardAnswer): boolean =>
  /^text\/html/i.test(headers['content-type'] ?? '') || /^\s*<(!doctype html|html)/i.test(body);

/** Delivered, to be tried again, or final. `at` is the time of the answer in ms since the epoch. */
export function verdictOn(
  result: OutwardAnswer | OutwardFault,
  at: number,
  { statuses, takesPages, isGraphql = false, success }: Judging = usualJudging,
): Verdict {
  if (isFault(result)) {
    const final = finalFaults.includes(result.code);
    const { message, until: notBefore = null } = result;
    const isUnknown = result.code === 'token';
    return { outcome: final ? 'final' : 'retry', message, retryAfter: null, notBefore, isUnknown };
  }
  const { status, headers, body } = result;
  if (status >= 200 && status < 300 && !takesPages && isPage(result)) {
    const message = `Status ${status}, but with a web page instead of data: probably a sign-in or error page.`;
    return { outcome: 'final', message, retryAfter: null, notBefore: null };
  }
  const errors = isGraphql && status >= 200 && status < 300 ? graphqlErrors(body) : null;
  if (errors !== null) {
    const message = `Status ${status}, but the request was rejected: ${errors}`;
    return { outcome: 'final', message, retryAfter: null, notBefore: null };
  }
  const refusal = success !== undefined && status >= 200 && status < 300 ? refusalBy(success, body) : null;
  if (refusal !== null) {
    const message = `Status ${status}, but the response says no: ${refusal}`;
    return { outcome: 'final', message, retryAfter: null, notBefore: null };
  }
  if (status >= 200 && status < 300) {
    const doubt = success === null ? doubtIn(body) : null;
    const message = `Accepted with ${status}.${doubt === null ? '' : ` The response may say no: ${doubt}`}`;
    return { outcome: 'delivered', message, retryAfter: null, notBefore: null };
  }
  const complaint = complaintIn(body);
  const isForbidden = status === 403 && isAboutCredentials(status, body);
  const message = `${meaning(status, isForbidden)}${complaint ? ` Response: ${complaint}` : ''}`;
  if (status === 401) return { outcome: 'retry', message, retryAfter: null, notBefore: null, isUnknown: true };
  return isForbidden || statuses.includes(status)
    ? { outcome: 'retry', message, retryAfter: retryAfterOf(headers['retry-after'], at), notBefore: null }
    : { outcome: 'final', message, retryAfter: null, notBefore: null };
}

function meaning(status: number, isForbidden: boolean): string {
  if (status === 401) return 'Credentials rejected (401).';
  if (isForbidden) return 'Not allowed with these credentials (403).';
  if (status === 404) return 'Not found at the target (404).';
  if (status === 429) return 'Too many requests (429).';
  if (status >= 300 && status < 400) return `Redirect (${status}); redirects are not followed.`;
  return status >= 500 ? `Server error at the target (${status}).` : `Request rejected by the target (${status}).`;
}

/** ms that a target may ask to be waited for: whatever it says, it is asked again after a day. */
const LONGEST_WAIT = 86_400_000;

/** Retry-After as seconds or as an HTTP date (RFC 9110 §10.2.3); ms from `at`, or null. */
export function retryAfterOf(header: string | undefined, at: number): number | null {
  if (header === undefined) return null;
  if (/^\d+$/.test(header.trim())) return Math.min(LONGEST_WAIT, Number(header) * 1000);
  const date = Date.parse(header);
  return Number.isNaN(date) ? null : Math.min(LONGEST_WAIT, Math.max(0, date - at));
}

/** What the target says of single values, each with the line that it came from. */
export function complaintsAbout(body: string, { origins }: Pick<RequestPlan, 'origins'>): Complaint[] {
  return saidIn(body)
    .parts.filter(each => each.where !== '')
    .map(({ where, message }) => ({ field: where, message, lineId: lineAt(where, origins) }));
}

/** The line of a value that a target calls `#/postal/town`, `/postal/town`, `postal.town`, `postal[town]` or `town`. */
function lineAt(where: string, origins: Record<string, string>): string | null {
  const plain = where.replace(/^#/, '');
  const pointer = plain.startsWith('/') ? plain : `/${plain.replace(/\]/g, '').replace(/[.[]/g, '/')}`;
  for (let at = pointer; at !== ''; at = at.slice(0, at.lastIndexOf('/'))) {
    const line = origins[at];
    if (line !== undefined) return line;
  }
  const ending = Object.keys(origins).filter(each => each.endsWith(pointer));
  return ending.length === 1 ? origins[ending[0]!]! : null;
}
