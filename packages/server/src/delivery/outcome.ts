import type { Complaint } from '@grammata/contract';
import { graphqlErrors } from '@grammata/core/graphql';
import { usualRetries } from '@grammata/core/route';
import type { RequestPlan } from '@grammata/core/request';
import { asText, isJsonObject, parseJson, type Json, type JsonObject } from '@grammata/core/submission';
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
  { statuses, takesPages, isGraphql = false }: Judging = usualJudging,
): Verdict {
  if (isFault(result)) {
    const final = finalFaults.includes(result.code);
    const { message, until: notBefore = null } = result;
    const isUnknown = result.code === 'token';
    return { outcome: final ? 'final' : 'retry', message, retryAfter: null, notBefore, isUnknown };
  }
  const { status, headers, body } = result;
  if (status >= 200 && status < 300 && !takesPages && isPage(result)) {
    const message = `It answered ${status}, but with a web page where data was expected: a page to sign in, or an error.`;
    return { outcome: 'final', message, retryAfter: null, notBefore: null };
  }
  const errors = isGraphql && status >= 200 && status < 300 ? graphqlErrors(body) : null;
  if (errors !== null) {
    const message = `It answered ${status}, and refused the request. It said: ${errors}`;
    return { outcome: 'final', message, retryAfter: null, notBefore: null };
  }
  if (status >= 200 && status < 300)
    return { outcome: 'delivered', message: `Accepted with ${status}.`, retryAfter: null, notBefore: null };
  const said = complaintIn(body);
  const message = `${meaning(status)}${said ? ` It said: ${said}` : ''}`;
  if (status === 401) return { outcome: 'retry', message, retryAfter: null, notBefore: null, isUnknown: true };
  return status === 403 || statuses.includes(status)
    ? { outcome: 'retry', message, retryAfter: retryAfterOf(headers['retry-after'], at), notBefore: null }
    : { outcome: 'final', message, retryAfter: null, notBefore: null };
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

/** ms that a target may ask to be waited for: whatever it says, it is asked again after a day. */
const LONGEST_WAIT = 86_400_000;

/** Retry-After as seconds or as an HTTP date (RFC 9110 §10.2.3); ms from `at`, or null. */
export function retryAfterOf(header: string | undefined, at: number): number | null {
  if (header === undefined) return null;
  if (/^\d+$/.test(header.trim())) return Math.min(LONGEST_WAIT, Number(header) * 1000);
  const date = Date.parse(header);
  return Number.isNaN(date) ? null : Math.min(LONGEST_WAIT, Math.max(0, date - at));
}

/** One thing a target has against a value, as it says it. */
interface Said {
  /** Which value: a JSON Pointer, or a name; empty for none. */
  where: string;
  message: string;
}

/** What a target says against a request: problem details (RFC 9457) and the shapes that are common beside them. */
function saidIn(body: string): { main: string | null; parts: Said[] } {
  const document = parseJson(body);
  if (!isJsonObject(document)) {
    const plain = body.trim() && !/^\s*</.test(body) ? body.trim().slice(0, 200) : null;
    return { main: plain, parts: [] };
  }
  const inner = isJsonObject(document.error) ? document.error : document;
  const main = firstText([inner.detail, inner.message, inner.title, inner.error_description, document.error]);
  const errors = [inner.errors, document.errors].find(each => each !== undefined);
  return { main, parts: partsOf(errors) };
}

/** A list of objects or of texts, or an object of texts or lists by the fields' names. */
function partsOf(errors: Json | undefined): Said[] {
  if (Array.isArray(errors))
    return errors.slice(0, 100).flatMap((each): Said[] => {
      if (typeof each === 'string') return [{ where: '', message: each }];
      if (!isJsonObject(each)) return [];
      const where = Array.isArray(each.path) ? each.path.map(asText).join('.') : null;
      const message = firstText([each.detail, each.message, each.title, each.code]);
      const named = firstText([each.pointer, each.field, each.path, each.property, each.param, each.name]);
      return [{ where: named ?? where ?? '', message: message ?? '' }];
    });
  if (!isJsonObject(errors ?? null)) return [];
  return Object.entries(errors as JsonObject).flatMap(([where, said]) =>
    (Array.isArray(said) ? said : [said]).map(each => ({ where, message: asText(each) })),
  );
}

/** What the target complains of, in a line. */
export function complaintIn(body: string): string | null {
  const { main, parts } = saidIn(body);
  const said = parts.map(({ where, message }) => [where, message].filter(Boolean).join(': '));
  return [main, ...said].filter(Boolean).join(' ').slice(0, 500) || null;
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

const firstText = (values: (Json | undefined)[]): string | null =>
  values.find((value): value is string => typeof value === 'string' && value !== '') ?? null;
