import type { Request } from 'express';
import { request as send } from 'undici';
import { HttpProblem } from '../problems';
import type { Services } from '../services';

/** ms that an intake's answer is waited for. */
const LONGEST = 30_000;

/** The address at which this server hears, as whoever asks reached it. */
export function ownAddress({ socket }: Pick<Request, 'socket'>): string {
  const address = socket.localAddress ?? '127.0.0.1';
  const host =
    address.includes(':') && !address.startsWith('::ffff:') ? `[${address}]` : address.replace('::ffff:', '');
  return `http://${host}:${socket.localPort}`;
}

/** Sends a message to an intake of this server, over HTTP like anyone else. Throws HttpProblem where no answer comes. */
export async function sendToIntake(
  { config }: Pick<Services, 'config'>,
  request: Pick<Request, 'socket'>,
  {
    method,
    url,
    headers,
    body,
  }: {
    method: string;
    url: string;
    headers: readonly (readonly [string, string])[];
    body: Buffer | string | undefined;
  },
): Promise<{ status: number; body: string }> {
  const answer = await send(new URL(url, ownAddress(request)), {
    method: method as 'POST',
    headers: ['host', new URL(config.publicUrl).host, ...headers.flat()],
    body: method === 'GET' ? undefined : body,
    headersTimeout: LONGEST,
    bodyTimeout: LONGEST,
  }).catch((error: Error) => {
    throw new HttpProblem(502, 'The intake did not answer.', error.message);
  });
  return { status: answer.statusCode, body: await answer.body.text() };
}
