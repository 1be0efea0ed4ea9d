import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { MASK } from '@grammata/core/target';
import { now } from '../clock';
import { newId } from '../ids';
import type { ArrivalRow, IntakeRow, Intakes, ReceivedArrival } from '../store';
import type { Logger } from 'pino';
import type { LiveHub } from '../live';
import type { StorageHealth } from '../storage';
import { newArrival, tooLarge } from './arrival';
import type { Bodies } from './bodies';
import { BodyMemory, BrokenOff, readBody, type StoredBody } from './body';
import { bodyOf, codings, CodingFault, faultOfCoding } from './encoding';
import { IntakeGone, type Recorder } from './recorder';
import type { TargetAnswers } from './answered';
import { reply, replyAnswer, replyJson, replyRefusal } from './reply';
import type { Strays } from './strays';
import { isAllowed, signingFor, verify, type CheckVerdict, type Signed } from './verify';

export interface IntakeParts {
  intakes: Intakes;
  strays: Strays;
  record: Recorder;
  bodies: Bodies;
  live: LiveHub;
  health: StorageHealth;
  log: Logger;
  /** The address that a request came from; behind a proxy that is trusted, the one it tells. */
  senderOf(request: IncomingMessage): string | null;
  /** The secrets that an intake's senders prove themselves with. */
  secretsOf(intake: IntakeRow): string[];
  /** Hides every secret that is known. */
  mask(text: string): string;
  /** What targets answer, for senders that wait. */
  answers: Pick<TargetAnswers, 'wait'>;
  /** Called with what was stored and is to be read. */
  stored(arrival: ArrivalRow): void;
}

const STRAY_LIMIT = 65536;
/** Seconds after which a sender may try again while nothing can be stored. */
const RETRY_AFTER = '60';

/** The path of intake addresses: `/in/` and the slug. */
export const slugOf = (url: string): string | null => /^\/in\/([^/?#]+)\/?(?:[?#]|$)/.exec(url)?.[1] ?? null;

/** Refuses in problem details (RFC 9457). */
const refuse = (
  response: ServerResponse,
  status: number,
  title: string,
  detail?: string,
  headers: Record<string, string> = {},
) => replyJson(response, status, { type: 'about:blank', title, status, ...(detail && { detail }) }, headers);

/**
 * Takes requests to intake addresses: reads with a limit, stores durably, replies. Decoding follows later.
 * A handler for Node's own server, ahead of the framework: this is the way that has to be quick. Never rejects.
 */
export function receiver(parts: IntakeParts) {
  const { intakes, strays, record, bodies, live, health, log, stored, secretsOf, senderOf, mask, answers } = parts;
  const memory = new BodyMemory();
  return async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    // A sender that goes away in the middle is nobody's trouble.
    request.on('error', () => undefined);
    response.on('error', () => undefined);
    try {
      await receive(request, response);
    } catch (error) {
      if (response.headersSent || response.destroyed) return;
      response.setHeader('connection', 'close');
      const coding = error instanceof CodingFault ? error : faultOfCoding((error as Error).cause);
      if (coding)
        return refuse(response, coding.status, 'The body could not be decoded.', coding.message, {
          'accept-encoding': codings,
        });
      if (error instanceof BrokenOff) return;
      if (error instanceof IntakeGone) return refuse(response, 404, 'No intake has this address.');
      if (health.failed(error))
        return refuse(response, 503, 'It could not be stored. Please send it again later.', health.trouble?.message, {
          'retry-after': RETRY_AFTER,
        });
      log.error({ err: error }, 'a request to an intake failed inside');
      refuse(response, 500, 'It could not be stored. Please send it again.');
    }
  };

  async function receive(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = request.url ?? '/';
    const intake = intakes.bySlug(slugOf(url) ?? '');
    if (!intake) return receiveStray(request, response);
    if (intake.state === 'stopped') {
      const detail = 'Resume it in Grammata; retries will then be accepted.';
      return refuse(response, 503, 'This intake is stopped.', detail, { 'retry-after': '300' });
    }
    allowOrigin(request, response, intake);
    if (request.method === 'OPTIONS' && intake.allowedOrigins.length > 0) return void response.writeHead(204).end();
    const isPut = request.method === 'PUT' || request.method === 'PATCH';
    if (request.method !== 'POST' && request.method !== 'GET' && !isPut)
      return refuse(response, 405, `This intake accepts ${methodsOf(intake)}.`, undefined, {
        allow: methodsOf(intake),
      });
    const id = newId(now());
    const secrets = intake.verification ? secretsOf(intake) : [];
    const signing = intake.verification ? signingFor(intake.verification, secrets, headerOf(request)) : null;
    const body = await readBody(bodyOf(request), {
      limit: intake.sizeLimit,
      layAside: chunks => bodies.write(id, chunks),
      memory,
      onChunk: signing ? chunk => signing.update(chunk) : undefined,
    });
    const signed = signing === null || body.cut ? null : signing.signed();
    const arrival = arrivalFrom(id, request, intake, body, verdictOn(request, intake, signed, secrets));
    const isUntaken = isPut && !intake.takesPut;
    try {
      await record(arrival);
    } catch (error) {
      if (body.aside !== null) bodies.remove(id);
      throw error;
    }
    if (arrival.state === 'refused' && body.aside !== null) bodies.remove(id);
    if (body.cut) {
      const detail = `It is larger than ${intake.sizeLimit} bytes. Its beginning was stored.`;
      refuse(response, 413, 'The body is larger than this intake accepts.', detail, { connection: 'close' });
    } else if (arrival.state === 'refused') {
      const detail = 'The people who look after this intake can see why.';
      if (isUntaken)
        refuse(response, 405, `This intake accepts ${methodsOf(intake)}.`, detail, { allow: methodsOf(intake) });
      else refuse(response, 401, 'This request was not accepted.', detail);
    } else {
      const takesPage = (request.headers.accept ?? '').includes('text/html');
      const asUsual = () => reply(response, intake, arrival.id, request.method === 'GET' && takesPage);
      if (intake.reply === 'answer') {
        // It is safely stored: whatever comes of the waiting, the sender is told that it arrived.
        const answer = answers.wait(arrival.id, intake.replyWait * 1000);
        stored(arrival);
        live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
        const found = await answer.catch(() => null);
        if (found && 'answer' in found) return replyAnswer(response, intake, found.answer, takesPage);
        const isWorded = intake.refusalText.trim() !== '';
        return found && isWorded ? replyRefusal(response, intake, found.refusal, takesPage) : asUsual();
      }
      asUsual();
      stored(arrival);
    }
    live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
  }

  /** How the request's proof went: null where none is asked for. */
  function verdictOn(
    request: IncomingMessage,
    intake: IntakeRow,
    signed: Signed | null,
    secrets: string[],
  ): CheckVerdict | null {
    const sender = senderOf(request);
    if (!isAllowed(sender ?? undefined, intake.allowedAddresses)) {
      return { ok: false, words: `Its sender ${sender} is not an allowed address.` };
    }
    const { method } = request;
    if ((method === 'PUT' || method === 'PATCH') && !intake.takesPut)
      return {
        ok: false,
        words: `Method ${method} is not accepted; this intake accepts ${methodsOf(intake)}. Change this in the settings.`,
      };
    if (!intake.verification) return null;
    const { searchParams: query } = new URL(request.url ?? '/', 'http://intake');
    return verify({ header: headerOf(request), query, signed, now: now() }, intake.verification, secrets);
  }

  async function receiveStray(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { size } = await readBody(request, { limit: STRAY_LIMIT, layAside: null, memory });
    strays.keep({
      at: now(),
      method: request.method ?? 'GET',
      url: mask(withoutSecrets(request.url ?? '/', secretNames())),
      sender: senderOf(request),
      size,
    });
    live.publish({ type: 'stray' });
    const detail = 'Compare the address in the form builder with the one in Grammata.';
    refuse(response, 404, 'No intake has this address.', detail, { connection: 'close' });
  }

  /** What any intake keeps its secret under: a mistyped address may carry one. */
  function secretNames(): string[] {
    return intakes.atHand().flatMap(({ verification }) => (verification?.kind === 'query' ? [verification.name] : []));
  }

  function arrivalFrom(
    id: string,
    request: IncomingMessage,
    intake: IntakeRow,
    { bytes, size, cut, aside }: StoredBody,
    checked: CheckVerdict | null,
  ): ReceivedArrival {
    const isRefused = checked !== null && !checked.ok;
    const { verification } = intake;
    return newArrival(intake, {
      id,
      method: request.method ?? 'POST',
      url: withoutSecrets(request.url ?? '/', verification?.kind === 'query' ? [verification.name] : []),
      contentType: request.headers['content-type'] ?? null,
      // Kept as it is read: without the coding of its way here.
      headers: masked(headersOf(request), verification?.kind === 'header' ? [verification.name] : []).filter(
        ([name]) => name !== 'content-encoding',
      ),
      sender: senderOf(request),
      size,
      body: bytes,
      // A refused body is kept in part only.
      cut: cut || (isRefused && aside !== null),
      aside: aside !== null && !isRefused,
      checked: checked?.words ?? null,
      digest: digestOf(request, aside === null ? bytes : Buffer.from(aside)),
      state: cut || isRefused ? 'refused' : 'waiting',
      trouble: cut ? `Refused: ${tooLarge(size, intake)}` : isRefused ? `Refused: ${checked.words}` : null,
    });
  }
}

const headerOf = (request: IncomingMessage) => (name: string) => {
  const value = request.headers[name.toLowerCase()];
  return value === undefined ? null : String(value);
};

/** Header names and values as they came, in their order. */
function headersOf({ rawHeaders }: IncomingMessage): [string, string][] {
  return Array.from({ length: rawHeaders.length / 2 }, (_, index) => [
    rawHeaders[2 * index]!.toLowerCase(),
    rawHeaders[2 * index + 1]!,
  ]);
}

/** Lets the pages of allowed sites post from a browser (Fetch Standard, CORS protocol). */
function allowOrigin({ headers }: IncomingMessage, response: ServerResponse, intake: IntakeRow): void {
  const { allowedOrigins } = intake;
  const { origin } = headers;
  if (!origin || !(allowedOrigins.includes('*') || allowedOrigins.includes(origin))) return;
  response.setHeader('access-control-allow-origin', origin);
  response.setHeader('access-control-allow-methods', methodsOf(intake));
  response.setHeader('access-control-allow-headers', headers['access-control-request-headers'] ?? 'content-type');
  response.setHeader('access-control-max-age', '600');
  response.setHeader('vary', 'origin');
}

/** The same for the same message, whenever and from wherever it comes. */
const digestOf = (request: IncomingMessage, bytes: Buffer): string =>
  createHash('sha256').update(`${request.method} ${request.url}\n`).update(bytes).digest('base64url');

/** Headers that hold who asks (RFC 9110 §11, RFC 6265); kept masked, like the one that an intake was told of. */
const secretHeaders = ['authorization', 'proxy-authorization', 'cookie'];

const masked = (headers: [string, string][], names: string[]): [string, string][] => {
  const secret = new Set([...secretHeaders, ...names.map(each => each.toLowerCase())]);
  return headers.map(([name, value]) => [name, secret.has(name) ? MASK : value]);
};

/** The address without the values that hold secrets: they are neither kept nor read as answers. */
function withoutSecrets(url: string, names: string[]): string {
  if (names.length === 0 || !url.includes('?')) return url;
  const [path, query] = [url.slice(0, url.indexOf('?')), new URLSearchParams(url.slice(url.indexOf('?') + 1))];
  names.forEach(name => query.delete(name));
  return query.size > 0 ? `${path}?${query}` : path;
}

/** The methods that an intake takes, as the header `Allow` lists them (RFC 9110 §10.2.1). */
const methodsOf = ({ takesPut }: Pick<IntakeRow, 'takesPut'>): string =>
  takesPut ? 'GET, PATCH, POST, PUT' : 'GET, POST';
