import { createTransport } from 'nodemailer';
import { request } from 'undici';
import type { Message, Notification } from './kind';
import { signedHeaders } from './sign';

/** How an intake answered: its status, or null and why there was none. */
export interface SendOutcome {
  status: number | null;
  message: string;
}

const TIMEOUT = 10_000;

/** Sends a message to an intake's address, signed when there is a secret. */
export async function sendMessage(
  address: string,
  secret: string,
  userAgent: string,
  { method, contentType, body, query }: Message,
): Promise<SendOutcome> {
  const url = query ? `${address}${address.includes('?') ? '&' : '?'}${query}` : address;
  try {
    const answer = await request(url, {
      method,
      headers: {
        'user-agent': userAgent,
        ...(method === 'POST' ? { 'content-type': contentType } : {}),
        ...(secret ? signedHeaders(secret, body.toString('utf8'), Date.now()) : {}),
      },
      body: method === 'POST' ? body : undefined,
      headersTimeout: TIMEOUT,
      bodyTimeout: TIMEOUT,
    });
    await answer.body.dump();
    return { status: answer.statusCode, message: `answered ${answer.statusCode}` };
  } catch (error) {
    return { status: null, message: `no answer: ${(error as Error).message}` };
  }
}

/** Sends a notification over SMTP to `address`, through the server at `via` (`host:port`). The status is that of SMTP. */
export async function sendNotification(address: string, via: string, mail: Notification): Promise<SendOutcome> {
  const [host = '127.0.0.1', port = '25'] = via.split(':');
  const transport = createTransport({ host, port: Number(port), ignoreTLS: true, connectionTimeout: TIMEOUT });
  try {
    await transport.sendMail({ from: 'Practice yard <forms@yard.example.org>', to: address, ...mail });
    return { status: 250, message: 'mail taken (250)' };
  } catch (error) {
    const { responseCode, message } = error as Error & { responseCode?: number };
    return {
      status: responseCode ?? null,
      message: responseCode ? `mail refused (${responseCode})` : `no answer: ${message}`,
    };
  }
}

/** True for an answer that a builder takes as received. */
export const isTaken = ({ status }: SendOutcome): boolean => status !== null && status < 400;
/** True where it is worth sending again: no answer, or one that says so. */
export const isWorthRetrying = ({ status }: SendOutcome): boolean =>
  status === null || status >= 500 || status === 429 || status === 450 || status === 451;
