import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { now } from '../clock';
import { newId } from '../ids';
import type { ArrivalRow, IntakeRow, Intakes } from '../store';
import type { LiveHub } from '../live';
import type { Bodies } from './bodies';
import { readBody, type KeptBody } from './body';
import type { Recorder } from './recorder';
import { reply, replyJson } from './reply';
import { isAllowed, verify, type CheckVerdict } from './verify';

export interface IntakeParts {
  intakes: Intakes;
  recorder: Recorder;
  bodies: Bodies;
  live: LiveHub;
  /** The secrets that an intake's senders prove themselves with. */
  secretsOf(intake: IntakeRow): string[];
  /** Called with what was stored and is to be read. */
  stored(arrival: ArrivalRow): void;
}

const STRAY_LIMIT = 65536;

/** The path of intake addresses: `/in/` and the slug. */
export const slugOf = (url: string): string | null => /^\/in\/([^/?#]+)\/?(?:[?#]|$)/.exec(url)?.[1] ?? null;

/**
 * Takes requests to intake addresses: reads with a limit, stores durably, replies. Decoding follows later.
 * A handler for Node's own server, ahead of the framework: this is the way that has to be quick.
 */
export function receiver({ intakes, recorder, bodies, live, stored, secretsOf }: IntakeParts) {
  return async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const url = request.url ?? '/';
    const intake = intakes.bySlug(slugOf(url) ?? '');
    try {
      if (!intake) return await receiveStray(request, response);
      if (intake.state === 'stopped') {
        const detail = 'Open it again in Grammata; builders that retry will then deliver.';
        return replyJson(
          response,
          503,
          { type: 'about:blank', title: 'This intake is stopped.', status: 503, detail },
          { 'retry-after': '300' },
        );
      }
      allowOrigin(request, response, intake);
      if (request.method === 'OPTIONS' && intake.allowedOrigins.length > 0) return void response.writeHead(204).end();
      if (request.method !== 'POST' && request.method !== 'GET') {
        return replyJson(
          response,
          405,
          { type: 'about:blank', title: 'An intake takes POST and GET.', status: 405 },
          { allow: 'GET, POST' },
        );
      }
      const id = newId(now());
      // A signature is computed over the whole body: such a one is held in memory.
      const isSigned = intake.verification?.kind === 'hmac' || intake.verification?.kind === 'standard';
      const body = await readBody(request, intake.sizeLimit, isSigned ? null : chunks => bodies.write(id, chunks));
      const arrival = arrivalFrom(id, request, intake, body, refusalOf(request, intake, body.bytes));
      if (arrival.state === 'refused' && body.aside !== null) bodies.remove(id);
      await recorder.record(arrival);
      if (body.cut) {
        const detail = `It has more than ${intake.sizeLimit} bytes. Its beginning was kept.`;
        replyJson(response, 413, {
          type: 'about:blank',
          title: 'The body is larger than this intake takes.',
          status: 413,
          detail,
        });
      } else if (arrival.state === 'refused') {
        const detail = 'The people who look after this intake can see why.';
        replyJson(response, 401, { type: 'about:blank', title: 'This request was not accepted.', status: 401, detail });
      } else {
        const isBrowserTab = request.method === 'GET' && (request.headers.accept ?? '').includes('text/html');
        reply(response, intake, arrival.id, isBrowserTab);
        stored(arrival);
      }
      live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
    } catch (error) {
      if (response.headersSent || response.destroyed) return;
      replyJson(response, 500, {
        type: 'about:blank',
        title: 'It could not be stored. Please send it again.',
        status: 500,
        detail: (error as Error).message,
      });
    }
  };

  /** How the request's proof went: null where none is asked for. */
  function refusalOf(request: IncomingMessage, intake: IntakeRow, body: Buffer): CheckVerdict | null {
    const sender = request.socket.remoteAddress;
    if (!isAllowed(sender, intake.allowedAddresses)) {
      return { ok: false, words: `It came from ${sender}, which is not among the allowed addresses.` };
    }
    if (!intake.verification) return null;
    const header = (name: string) => {
      const value = request.headers[name.toLowerCase()];
      return value === undefined ? null : String(value);
    };
    const query = new URL(request.url ?? '/', 'http://intake').searchParams;
    return verify({ header, query, body, now: now() }, intake.verification, secretsOf(intake));
  }

  async function receiveStray(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { bytes, size } = await readBody(request, STRAY_LIMIT, null);
    intakes.keepStray({
      at: now(),
      method: request.method ?? 'GET',
      url: request.url ?? '/',
      headers: masked(headersOf(request), null),
      sender: request.socket.remoteAddress ?? null,
      size,
      body: bytes,
    });
    live.publish({ type: 'stray' });
    const detail = 'Compare the address in the form builder with the one Grammata shows, letter by letter.';
    replyJson(response, 404, { type: 'about:blank', title: 'No intake has this address.', status: 404, detail });
  }
}

/** Header names and values as they came, in their order. */
function headersOf({ rawHeaders }: IncomingMessage): [string, string][] {
  return Array.from({ length: rawHeaders.length / 2 }, (_, index) => [
    rawHeaders[2 * index]!.toLowerCase(),
    rawHeaders[2 * index + 1]!,
  ]);
}

/** Lets the pages of allowed sites post from a browser (Fetch Standard, CORS protocol). */
function allowOrigin({ headers }: IncomingMessage, response: ServerResponse, { allowedOrigins }: IntakeRow): void {
  const { origin } = headers;
  if (!origin || !(allowedOrigins.includes('*') || allowedOrigins.includes(origin))) return;
  response.setHeader('access-control-allow-origin', origin);
  response.setHeader('access-control-allow-methods', 'GET, POST');
  response.setHeader('access-control-allow-headers', headers['access-control-request-headers'] ?? 'content-type');
  response.setHeader('access-control-max-age', '600');
  response.setHeader('vary', 'origin');
}

/** The same for the same message, whenever and from wherever it comes. */
const digestOf = (request: IncomingMessage, bytes: Buffer): string =>
  createHash('sha256').update(`${request.method} ${request.url}\n`).update(bytes).digest('base64url');

/** Names of headers and query values whose contents are secrets; they are kept masked. */
function masked(headers: [string, string][], verification: IntakeRow['verification']): [string, string][] {
  const secret = verification?.kind === 'header' ? verification.name.toLowerCase() : null;
  return headers.map(([name, value]) => [
    name,
    name === secret || name === 'authorization' || name === 'cookie' ? '••••••' : value,
  ]);
}

/** The address without the value that holds a secret: it is neither kept nor read as an answer. */
function withoutSecret(url: string, { verification }: IntakeRow): string {
  if (verification?.kind !== 'query' || !url.includes('?')) return url;
  const [path, query] = [url.slice(0, url.indexOf('?')), new URLSearchParams(url.slice(url.indexOf('?') + 1))];
  query.delete(verification.name);
  return query.size > 0 ? `${path}?${query}` : path;
}

function arrivalFrom(
  id: string,
  request: IncomingMessage,
  intake: IntakeRow,
  { bytes, size, cut, aside }: KeptBody,
  checked: CheckVerdict | null,
): ArrivalRow {
  const isRefused = checked !== null && !checked.ok;
  const receivedAt = now();
  return {
    id,
    intakeId: intake.id,
    receivedAt,
    method: request.method ?? 'POST',
    url: withoutSecret(request.url ?? '/', intake),
    contentType: request.headers['content-type'] ?? null,
    headers: masked(headersOf(request), intake.verification),
    sender: request.socket.remoteAddress ?? null,
    size,
    body: bytes,
    // A refused body is kept in part only.
    cut: cut || (isRefused && aside !== null),
    aside: aside !== null && !isRefused,
    checked: checked?.words ?? null,
    digest: digestOf(request, aside === null ? bytes : Buffer.from(aside)),
    state: cut || isRefused ? 'refused' : 'waiting',
    trouble: cut
      ? `Refused: ${(size / 1e6).toFixed(1)} MB is more than this intake’s limit of ${(intake.sizeLimit / 1e6).toFixed(1)} MB.`
      : isRefused
        ? `Refused: ${checked.words}`
        : null,
  };
}
