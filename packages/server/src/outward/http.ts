import { Readable } from 'node:stream';
import { headerParameters } from '@grammata/core/decode';
import { usualPatience, type Patience } from '@grammata/core/perform';
import type { Credentials } from '@grammata/core/target';
import { Agent, request } from 'undici';
import { exchange } from './exchange';
import { guardedConnector, PrivateAddress } from './guard';

export interface OutwardRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  url: string;
  headers: Record<string, string>;
  body?: string | Buffer | Readable;
  /** Bytes of the answer that are read, `MOST_ANSWER` unless told otherwise. */
  most?: number;
  /** How long the answer is waited for. */
  patience?: Patience | null;
}

export interface OutwardAnswer {
  status: number;
  headers: Record<string, string>;
  /** The beginning of the body, as it came. */
  bytes: Buffer;
  /** The same as text in UTF-8: for what is done with it. */
  body: string;
  /** The same without the secrets that are known, for what is kept and shown: a target may repeat what it was shown. */
  shown: string;
  /** True when there was more than was read. */
  cut: boolean;
  milliseconds: number;
  /** What was shown for it, where whoever asked says so. */
  credentials?: Credentials;
}

/** Why no answer came, with a stable code. */
export interface OutwardFault {
  code:
    | 'refused'
    | 'timeout'
    | 'name'
    | 'tls'
    | 'dropped'
    | 'private'
    | 'address'
    | 'token'
    | 'consent'
    | 'file'
    | 'parked'
    | 'other';
  message: string;
  milliseconds: number;
  /** When one that was not made can be, in ms since the epoch. */
  until?: number;
}

/** Bytes of an answer that are read; the rest is let go. */
export const MOST_ANSWER = 1_000_000;

export const isFault = (result: object): result is OutwardFault => 'code' in result && 'message' in result;

/** A file as it comes in. */
export interface Download {
  status: number;
  /** Media type as stated. */
  type: string | null;
  /** What the file is called by whoever gives it (RFC 6266); null where it does not say. */
  name: string | null;
  body: Readable;
}

/** How many times a file's address may point elsewhere. */
const MOST_REDIRECTS = 5;

/** ms of silence in the middle of an answer after which it counts as broken off. */
const SILENCE = 30_000;
/** ms that a file may take to come, whole. */
const WHOLE_FILE = 15 * 60_000;
/** Bytes a second that a body takes at least on its way out: a large one is given longer. */
const SLOWEST = 200_000;

/**
 * The one place that talks HTTP outward. Redirects are not followed. What is done with an answer is done with what was answered;
 * what is kept or shown of it is without the secrets that are known.
 */
export class Outward {
  /** By the seconds that a connection may take to stand. */
  readonly #agents = new Map<number, Agent>();

  constructor(
    private readonly allowPrivate: readonly string[],
    readonly mask: (text: string) => string = text => text,
  ) {}

  #agentFor(connect: number): Agent {
    const known = this.#agents.get(connect);
    if (known) return known;
    const agent = new Agent({
      connect: guardedConnector(this.allowPrivate, connect * 1000),
      keepAliveTimeout: 10000,
      bodyTimeout: SILENCE,
      connections: 32,
    });
    this.#agents.set(connect, agent);
    return agent;
  }

  /** Never throws: an answer, or why there is none. */
  async send({
    method,
    url,
    headers,
    body,
    most = MOST_ANSWER,
    patience,
  }: OutwardRequest): Promise<OutwardAnswer | OutwardFault> {
    const started = performance.now();
    const took = () => Math.round(performance.now() - started);
    const address = URL.canParse(url) ? new URL(url) : null;
    if (address === null || !/^https?:$/.test(address.protocol))
      return { code: 'address', message: this.mask(`“${url.slice(0, 200)}” is not a valid URL.`), milliseconds: 0 };
    const { connect, firstByte, whole } = patience ?? usualPatience;
    const sending = (Number(headers['content-length'] ?? 0) / SLOWEST) * 1000;
    try {
      const answer = await exchange(this.#agentFor(connect), {
        method,
        url: address,
        headers,
        body,
        most,
        headersTimeout: Math.ceil(firstByte * 1000 + sending),
        whole: Math.ceil(whole * 1000 + sending),
      });
      const { bytes, cut } = answer;
      const text = bytes.toString('utf8');
      const flat = Object.entries(answer.headers).map(([name, value]) => [name, String(value)]);
      return {
        status: answer.status,
        headers: Object.fromEntries(flat),
        bytes,
        body: text,
        shown: this.mask(text),
        cut,
        milliseconds: took(),
      };
    } catch (error) {
      const { code, message } = explain(error as NodeJS.ErrnoException, address);
      return { code, message: this.mask(message), milliseconds: took() };
    } finally {
      // What was not sent to its end is let go of, files on disk too.
      if (body instanceof Readable) body.destroy();
    }
  }

  /**
   * Fetches a file. Redirects are followed, each address checked like the first; credentials do not go along to another
   * host. The body has to be read or destroyed.
   */
  async download(url: string, headers: Record<string, string>): Promise<Download | OutwardFault> {
    const started = performance.now();
    const took = () => Math.round(performance.now() - started);
    const signal = AbortSignal.timeout(WHOLE_FILE);
    let [at, sent] = [url, headers];
    for (let step = 0; step <= MOST_REDIRECTS; step++) {
      if (!/^https?:/i.test(at) || !URL.canParse(at))
        return {
          code: 'address',
          message: this.mask(`“${at.slice(0, 200)}” is not a valid URL.`),
          milliseconds: took(),
        };
      try {
        const answer = await request(at, {
          method: 'GET',
          headers: sent,
          signal,
          headersTimeout: usualPatience.firstByte * 1000,
          dispatcher: this.#agentFor(usualPatience.connect),
        });
        const location = answer.headers.location;
        if (
          answer.statusCode < 300 ||
          answer.statusCode > 399 ||
          typeof location !== 'string' ||
          !URL.canParse(location, at)
        ) {
          const type = answer.headers['content-type'];
          // A body that is let go of complains; whoever reads it hears of real trouble by reading.
          answer.body.on('error', () => undefined);
          const contentDisposition = answer.headers['content-disposition'];
          return {
            status: answer.statusCode,
            type: typeof type === 'string' ? type : null,
            name: typeof contentDisposition === 'string' ? fileNameIn(contentDisposition) : null,
            body: answer.body,
          };
        }
        await answer.body.dump();
        const next = new URL(location, at);
        // Another scheme or port is another place, too.
        if (next.origin !== new URL(at).origin) sent = {};
        at = next.href;
      } catch (error) {
        const { code, message } = explain(error as NodeJS.ErrnoException, new URL(at));
        return { code, message: this.mask(message), milliseconds: took() };
      }
    }
    const message = `${new URL(url).host} redirects too often.`;
    return { code: 'address', message, milliseconds: took() };
  }

  async close(): Promise<void> {
    await Promise.all([...this.#agents.values()].map(agent => agent.destroy()));
  }
}

/** The name in a Content-Disposition (RFC 6266 §4.3): `filename*` (RFC 8187) before `filename`. */
export const fileNameIn = (disposition: string): string | null =>
  headerParameters(disposition).filename?.trim() || null;

const tlsCodes = /CERT|TLS|SSL|SELF_SIGNED|UNABLE_TO_VERIFY/;

/** Why a TLS connection (RFC 8446) does not stand, by the codes of Node.js and OpenSSL. */
const tlsReasons: [codes: RegExp, words: (host: string) => string][] = [
  [/CERT_HAS_EXPIRED/, host => `The certificate of ${host} has expired.`],
  [/CERT_NOT_YET_VALID/, host => `The certificate of ${host} is not valid yet. Check this machine’s clock.`],
  [/ALTNAME/, host => `${host} has a certificate for another name.`],
  [
    /SELF_SIGNED|UNABLE_TO_VERIFY|UNABLE_TO_GET_ISSUER/,
    host =>
      `${host} has a certificate of an unknown authority. If it is yours, start Grammata with NODE_EXTRA_CA_CERTS set to the authority’s file.`,
  ],
  [/WRONG_VERSION_NUMBER|PACKET_LENGTH/, host => `${host} does not support TLS there. Try http://.`],
  [/PROTOCOL_VERSION|UNSUPPORTED_PROTOCOL/, host => `${host} supports only unsafe versions of TLS.`],
];

function explain(error: NodeJS.ErrnoException, { host, hostname }: URL): Pick<OutwardFault, 'code' | 'message'> {
  const code = error.code ?? '';
  if (error instanceof PrivateAddress || error.cause instanceof PrivateAddress)
    return { code: 'private', message: error.message };
  if (code === 'ECONNREFUSED') return { code: 'refused', message: `Nothing answers at ${host}.` };
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN')
    return { code: 'name', message: `There is no host named ${hostname}.` };
  if (/TIMEOUT|ETIMEDOUT/.test(code) || error.name === 'TimeoutError' || error.name === 'AbortError')
    return { code: 'timeout', message: `${host} did not answer in time.` };
  if (tlsCodes.test(code)) {
    const words = tlsReasons.find(([codes]) => codes.test(code))?.[1];
    return { code: 'tls', message: words?.(host) ?? `The TLS connection to ${host} failed (${code}).` };
  }
  if (/ECONNRESET|UND_ERR_SOCKET|EPIPE/.test(code))
    return { code: 'dropped', message: `${host} closed the connection before it answered.` };
  return { code: 'other', message: `The request to ${host} failed: ${error.message}.` };
}
