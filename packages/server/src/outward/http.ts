import { Agent, request } from 'undici';
import { now } from '../clock';
import { guardedConnector, PrivateAddress } from './guard';

export interface OutwardRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  url: string;
  headers: Record<string, string>;
  body?: string;
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
  code: 'refused' | 'timeout' | 'name' | 'tls' | 'dropped' | 'private' | 'address' | 'other';
  message: string;
  milliseconds: number;
}

/** Bytes of an answer that are read; the rest is let go. */
export const MOST_ANSWER = 1_000_000;

export const isFault = (result: OutwardAnswer | OutwardFault): result is OutwardFault => 'code' in result;

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
