import { MASK } from '@grammata/core/target';
import type { ArrivalRow, IntakeRow, ReceivedArrival } from '../store';
import { proofFor } from './verify';

/** A message as its builder sends it. */
export interface Message {
  method: string;
  /** Path and query. */
  url: string;
  headers: [string, string][];
  body: Buffer;
  /** The identifier it was given; null where it is as it came. */
  identifier: string | null;
}

/** Headers that belong to a connection or to the message on it, not to what is said (RFC 9110 §7.6.1). */
const ofConnection = new Set([
  'connection',
  'content-length',
  'expect',
  'host',
  'keep-alive',
  'proxy-connection',
  'te',
  'trailer',
  'transfer-encoding',
  'upgrade',
]);

/** Letters of an identifier that would be mistaken for something else when it is replaced. */
const LEAST = 4;

/** True for what was posted to an intake: mails, files and readings of feeds have no request to be made once more. */
export const wasPosted = ({ method }: Pick<ArrivalRow, 'method'>): boolean =>
  ['POST', 'PUT', 'PATCH', 'GET'].includes(method);

/**
 * A recorded message, to be sent once more as its builder does: the same method, query, headers and body, shown and signed anew.
 * @param replace the identifier that it states, to be another one wherever it stands; null sends it as it came
 * @param turn gives the letter or digit that takes the place of one
 */
export function messageAgain(
  { method, url, headers, body }: Pick<ReceivedArrival, 'method' | 'url' | 'headers' | 'body'>,
  intake: Pick<IntakeRow, 'slug' | 'verification'>,
  secrets: readonly string[],
  { replace, turn, id, now }: { replace: string | null; turn: (letter: string) => string; id: string; now: number },
): Message {
  const identifier = replace !== null && replace.length >= LEAST ? otherThan(replace, turn) : null;
  const put = (text: string) => (identifier === null ? text : replaced(text, replace!, identifier));
  // Byte by byte: whatever the body is written in stays as it is.
  const sent = identifier === null ? body : replacedIn(body, replace!, identifier);
  const proof = intake.verification
    ? proofFor(intake.verification, secrets, sent, { id, now })
    : { headers: [], query: [] };
  const proving = new Set(proof.headers.map(([name]) => name.toLowerCase()));
  const query = url.includes('?') ? url.slice(url.indexOf('?') + 1) : '';
  const parameters = new URLSearchParams(proof.query).toString();
  const all = [put(query), parameters].filter(Boolean).join('&');
  const originalHeaders = headers.filter(
    ([name, value]) => !ofConnection.has(name.toLowerCase()) && !proving.has(name.toLowerCase()) && value !== MASK,
  );
  return {
    method,
    url: `/in/${intake.slug}${all ? `?${all}` : ''}`,
    headers: [...originalHeaders, ...proof.headers],
    body: sent,
    identifier: identifier !== null && (!sent.equals(body) || put(query) !== query) ? identifier : null,
  };
}

/** An identifier built like another one. */
function otherThan(identifier: string, turn: (letter: string) => string): string {
  // A beginning that all share stays.
  const kept = identifier.length > 12 ? identifier.length - 8 : Math.min(1, identifier.length - 3);
  return identifier.slice(0, kept) + identifier.slice(kept).replace(/[0-9a-zA-Z]/g, turn);
}

/** Wherever it stands by itself, not as a part of something longer. */
function replaced(text: string, from: string, to: string): string {
  const isPart = (letter: string | undefined) => letter !== undefined && /[0-9A-Za-z]/.test(letter);
  let [made, done] = ['', 0];
  for (let at = text.indexOf(from); at >= 0 && from !== ''; at = text.indexOf(from, at + from.length)) {
    const isAlone = !isPart(text[at - 1]) && !isPart(text[at + from.length]);
    made += text.slice(done, at) + (isAlone ? to : from);
    done = at + from.length;
  }
  return made + text.slice(done);
}

function replacedIn(body: Buffer, from: string, to: string): Buffer {
  const [one, other] = [from, to].map(each => Buffer.from(each, 'utf8').toString('latin1'));
  return Buffer.from(replaced(body.toString('latin1'), one!, other!), 'latin1');
}
