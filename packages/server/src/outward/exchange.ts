import type { Readable } from 'node:stream';
import type { Agent } from 'undici';
import { deadline } from '../timing';

export interface Exchange {
  method: string;
  url: URL;
  headers: Record<string, string>;
  body: string | Buffer | Readable | undefined;
  /** Bytes of the answer that are read. */
  most: number;
  /** ms until the answer begins, and until it has ended. */
  headersTimeout: number;
  whole: number;
}

export interface Exchanged {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  bytes: Buffer;
  /** True when there was more than was read. */
  cut: boolean;
}

/**
 * Makes one request and reads its answer, without a stream in between: most answers are a few bytes, and this is done for each delivery.
 * Rejects with what undici says, or a TimeoutError.
 */
export function exchange(
  agent: Agent,
  { method, url, headers, body, most, headersTimeout, whole }: Exchange,
): Promise<Exchanged> {
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    let size = 0;
    let head: Pick<Exchanged, 'status' | 'headers'> = { status: 0, headers: {} };
    let abort: (reason: Error) => void = () => undefined;
    const end = (cut: boolean) => {
      late.stop();
      resolve({ ...head, bytes: Buffer.concat(chunks).subarray(0, most), cut });
    };
    const late = deadline(whole, () => {
      const error = Object.assign(new Error('Timed out.'), { name: 'TimeoutError' });
      reject(error);
      abort(error);
    });
    agent.dispatch(
      { origin: url.origin, path: url.pathname + url.search, method, headers, body, headersTimeout },
      {
        onRequestStart(controller) {
          abort = reason => controller.abort(reason);
        },
        onResponseStart(_controller, status, answered) {
          head = { status, headers: answered };
        },
        onResponseData(controller, chunk) {
          chunks.push(chunk);
          size += chunk.length;
          if (size <= most) return;
          end(true);
          controller.abort(new Error('The rest is not read.'));
        },
        onResponseEnd: () => end(false),
        onResponseError(_controller, error) {
          late.stop();
          reject(error);
        },
      },
    );
  });
}
