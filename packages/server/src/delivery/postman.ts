import { connect } from 'node:net';
import { asText, isJsonObject, type Json } from '@grammata/core/submission';
import type { PlannedFile, RequestPlan } from '@grammata/core/request';
import { createTransport, type Transporter, type TransportOptions } from 'nodemailer';
import type { Vault } from '../access';
import { now } from '../clock';
import type { Staged } from '../files';
import { PrivateAddress, reachableAddress, type OutwardAnswer, type OutwardFault, type Sealed } from '../outward';

/** Where mails go out: `smtp://host:port`, or `smtps://` for TLS from the start. */
export interface MailSide extends Sealed {
  baseUrl: string;
}

const TIMEOUT = 20_000;

/** Sends mails by SMTP (RFC 5321), as nodemailer writes them. */
export class Postman {
  constructor(
    private readonly vault: Vault,
    private readonly allowPrivate: readonly string[],
    private readonly timeout = TIMEOUT,
  ) {}

  /** Sends a mail. The answer is the server's, with its reply code as the status. Never throws. */
  async post(
    plan: RequestPlan,
    errand: { side: MailSide; idempotencyKey: string },
    at: (file: PlannedFile) => Staged,
    linked: (text: string) => string,
  ): Promise<OutwardAnswer | OutwardFault> {
    const body = isJsonObject(plan.body) ? plan.body : {};
    const text = (key: string) => (body[key] === undefined ? undefined : linked(asText(body[key])));
    const attachments = plan.files.map(file => {
      const { open, type } = at(file);
      return { filename: file.name, content: open(), contentType: type };
    });
    const from = text('from') ?? '';
    const domain = /^[\w.-]{1,250}/.exec(from.slice(from.lastIndexOf('@') + 1))?.[0] ?? 'localhost';
    return this.#with(errand.side, transport =>
      transport.sendMail({
        from: text('from'),
        to: addresses(body.to),
        cc: addresses(body.cc),
        bcc: addresses(body.bcc),
        replyTo: text('reply_to'),
        subject: text('subject'),
        text: text('text'),
        html: text('html'),
        attachments,
        // The same for every try: a server that knows it takes it once.
        messageId: `<${errand.idempotencyKey}@${domain}>`,
        disableFileAccess: true,
        disableUrlAccess: true,
      }),
    );
  }

  /** Says hello and, where there are credentials, shows who asks. */
  check(side: MailSide): Promise<OutwardAnswer | OutwardFault> {
    return this.#with(side, async transport => {
      await transport.verify();
      return { response: '250 It listens.' };
    });
  }

  async #with(
    side: MailSide,
    act: (transport: Transporter) => Promise<{ response?: string }>,
  ): Promise<OutwardAnswer | OutwardFault> {
    const started = now();
    if (!URL.canParse(side.baseUrl))
      return { code: 'address', message: `“${side.baseUrl}” is not a valid address.`, milliseconds: 0 };
    const { hostname, port: given, protocol } = new URL(side.baseUrl);
    const isSecure = protocol === 'smtps:';
    const port = Number(given) || (isSecure ? 465 : 587);
    const user = side.auth.kind === 'basic' && side.secret ? side.auth.user : null;
    const transport = createTransport({
      host: hostname,
      port,
      secure: isSecure,
      connectionTimeout: this.timeout,
      greetingTimeout: this.timeout,
      socketTimeout: this.timeout,
      // The very address that was checked is the one connected to.
      getSocket: (_options: unknown, done: (error: Error | null, socket?: object) => void) => {
        reachableAddress(hostname, port, this.allowPrivate).then(
          address => {
            const socket = connect({ host: address, port, timeout: this.timeout });
            // It may break off before whoever asked for it listens.
            socket.on('error', () => undefined);
            socket.once('timeout', () =>
              socket.destroy(Object.assign(new Error('No connection in time.'), { code: 'ETIMEDOUT' })),
            );
            socket.once('error', done).once('connect', () => {
              socket.removeListener('error', done);
              socket.setTimeout(0);
              done(null, { connection: socket });
            });
          },
          (error: Error) => done(error),
        );
      },
      ...(user !== null && { auth: { user, pass: this.vault.open(side.secret!) } }),
    } as TransportOptions);
    try {
      const { response = '250' } = await act(transport);
      const status = Number(/^\d{3}/.exec(response)?.[0] ?? 250);
      return {
        status: status < 400 ? 200 : status,
        headers: {},
        bytes: Buffer.from(response),
        body: response,
        shown: this.vault.mask(response),
        cut: false,
        milliseconds: now() - started,
      };
    } catch (error) {
      const { code, message } = explain(error as MailError, `${hostname}:${port}`);
      return { code, message: this.vault.mask(message), milliseconds: now() - started };
    } finally {
      transport.close();
    }
  }
}

interface MailError extends Error {
  code?: string;
  responseCode?: number;
  response?: string;
}

/** A reply of 4xx may pass, one of 5xx is final (RFC 5321 §4.2.1). */
function explain(error: MailError, host: string): Pick<OutwardFault, 'code' | 'message'> {
  if (error instanceof PrivateAddress) return { code: 'private', message: error.message };
  const serverText = error.response?.replace(/^\d{3}[ -]?(\d\.\d\.\d )?/, '') ?? error.message;
  if (error.code === 'EAUTH')
    return { code: 'token', message: `${host} does not take these credentials: ${serverText}.` };
  if (error.responseCode && error.responseCode >= 500)
    return { code: 'address', message: `${host} refused the mail: ${serverText}.` };
  if (error.code === 'EENVELOPE' && !error.responseCode)
    return { code: 'address', message: `The mail has no recipient.` };
  if (error.code === 'ECONNREFUSED' || /ECONNREFUSED/.test(error.message))
    return { code: 'refused', message: `Nothing answers at ${host}.` };
  if (error.code === 'ETIMEDOUT') return { code: 'timeout', message: `${host} did not answer in time.` };
  if (error.code === 'ENOTFOUND') return { code: 'name', message: `There is no host named ${host}.` };
  return { code: 'other', message: `The mail could not be handed to ${host}: ${serverText}.` };
}

/** Addresses of a list, or of a text with commas. */
function addresses(value: Json | undefined): string[] | undefined {
  if (value === undefined || value === null) return undefined;
  const all = (Array.isArray(value) ? value.map(asText) : asText(value).split(',')).map(each => each.trim());
  return all.filter(Boolean);
}
