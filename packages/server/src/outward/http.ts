import type { Readable } from 'node:stream';
import { Agent, request } from 'undici';
import { now } from '../clock';
import { guardedConnector, PrivateAddress } from './guard';

export interface OutwardRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  url: string;
  headers: Record<string, string>;
  body?: string | Buffer | Readable;
  /** Bytes of the answer that are read, `MOST_ANSWER` unless told otherwise. */
  most?: number;
}

export interface OutwardAnswer {
  status: number;
  headers: Record<string, string>;
  /** The beginning of the body, as it came. */
  bytes: Buffer;
  /** The same as text in UTF-8. */
  body: string;
  /** True when there was more than was read. */
  cut: boolean;
  milliseconds: number;
}

/** Why no answer came, with a stable code. */
export interface OutwardFault {
  code: 'refused' | 'timeout' | 'name' | 'tls' | 'dropped' | 'private' | 'address' | 'token' | 'file' | 'other';
  message: string;
  milliseconds: number;
}

/** Bytes of an answer that are read; the rest is let go. */
export const MOST_ANSWER = 1_000_000;

export const isFault = (result: object): result is OutwardFault => 'code' in result && 'message' in result;

/** A file as it comes in. */
export interface Download {
  status: number;
  /** Media type as stated. */
  type: string | null;
  body: Readable;
}

/** How many times a file's address may point elsewhere. */
const MOST_REDIRECTS = 5;

/** The one place that talks HTTP outward. Redirects are not followed. */
export class Outward {
  readonly #agent: Agent;

  constructor(allowPrivate: readonly string[], timeout = 15000) {
    this.#agent = new Agent({
      connect: guardedConnector(allowPrivate),
      headersTimeout: timeout,
      bodyTimeout: timeout,
      keepAliveTimeout: 10000,
      connections: 32,
    });
  }

  /** Never throws: an answer, or why there is none. */
  async send({
    method,
    url,
    headers,
    body,
    most = MOST_ANSWER,
  }: OutwardRequest): Promise<OutwardAnswer | OutwardFault> {
    const started = now();
    if (!URL.canParse(url)) return { code: 'address', message: `“${url}” is no address.`, milliseconds: 0 };
    try {
      const answer = await request(url, { method, headers, body, dispatcher: this.#agent });
      const { bytes, cut } = await readUpTo(answer.body, most);
      const flat = Object.entries(answer.headers).map(([name, value]) => [name, String(value)]);
      return {
        status: answer.statusCode,
        headers: Object.fromEntries(flat),
        bytes,
        body: bytes.toString('utf8'),
        cut,
        milliseconds: now() - started,
      };
    } catch (error) {
      return { ...explain(error as NodeJS.ErrnoException, new URL(url)), milliseconds: now() - started };
    }
  }

  /**
   * Fetches a file. Redirects are followed, each address checked like the first; credentials do not go along to another
   * host. The body has to be read or destroyed.
   */
  async download(url: string, headers: Record<string, string>): Promise<Download | OutwardFault> {
    const started = now();
    let [at, sent] = [url, headers];
    for (let step = 0; step <= MOST_REDIRECTS; step++) {
      if (!/^https?:/i.test(at) || !URL.canParse(at))
        return { code: 'address', message: `“${at.slice(0, 200)}” is no address.`, milliseconds: now() - started };
      try {
        const answer = await request(at, { method: 'GET', headers: sent, dispatcher: this.#agent });
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
          return { status: answer.statusCode, type: typeof type === 'string' ? type : null, body: answer.body };
        }
        await answer.body.dump();
        const next = new URL(location, at);
        if (next.host !== new URL(at).host) sent = {};
        at = next.href;
      } catch (error) {
        return { ...explain(error as NodeJS.ErrnoException, new URL(at)), milliseconds: now() - started };
      }
    }
    const message = `${new URL(url).host} points elsewhere again and again.`;
    return { code: 'address', message, milliseconds: now() - started };
  }

  close(): Promise<void> {
    return this.#agent.destroy();
  }
}

async function readUpTo(
  stream: AsyncIterable<Uint8Array> & { destroy(): unknown },
  most: number,
): Promise<{ bytes: Buffer; cut: boolean }> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of stream) {
    chunks.push(chunk);
    size += chunk.length;
    if (size > most) break;
  }
  return { bytes: Buffer.concat(chunks).subarray(0, most), cut: size > most };
}

const tlsCodes = /CERT|TLS|SSL|SELF_SIGNED|UNABLE_TO_VERIFY/;

function explain(error: NodeJS.ErrnoException, { host, hostname }: URL): Pick<OutwardFault, 'code' | 'message'> {
  const code = error.code ?? '';
  if (error instanceof PrivateAddress || error.cause instanceof PrivateAddress)
    return { code: 'private', message: error.message };
  if (code === 'ECONNREFUSED') return { code: 'refused', message: `Nothing answers at ${host}.` };
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN')
    return { code: 'name', message: `There is no host named ${hostname}.` };
  if (/TIMEOUT|ETIMEDOUT/.test(code)) return { code: 'timeout', message: `${host} did not answer in time.` };
  if (tlsCodes.test(code)) return { code: 'tls', message: `The TLS connection to ${host} failed: ${error.message}.` };
  if (/ECONNRESET|UND_ERR_SOCKET|EPIPE/.test(code))
    return { code: 'dropped', message: `${host} closed the connection before it answered.` };
  return { code: 'other', message: `The request to ${host} failed: ${error.message}.` };
}
