import { createHash } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import type { Readable } from 'node:stream';
import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import { now } from '../clock';
import { newId } from '../ids';
import type { LiveHub } from '../live';
import { MAIL, type ArrivalRow, type IntakeRow, type Intakes } from '../store';
import type { Recorder } from './recorder';
import { isAllowed } from './verify';

export interface MailboxParts {
  intakes: Intakes;
  recorder: Recorder;
  live: LiveHub;
  stored(arrival: ArrivalRow): void;
}

/** Bytes of the largest mail that is taken at all; an intake's own limit comes on top. */
const LARGEST_MAIL = 100_000_000;
const KEPT_OF_TOO_LARGE = 65536;

const slugOfAddress = (address: string) => address.slice(0, Math.max(0, address.lastIndexOf('@'))).toLowerCase();

/** An answer of the SMTP dialogue (RFC 5321 §4.2) other than yes. */
const refusal = (responseCode: number, message: string) => Object.assign(new Error(message), { responseCode });

/**
 * Takes mails for intakes over SMTP (RFC 5321): each intake has an address, its last part before the @. A mail is
 * answered with 250 once it is on disk.
 */
export function mailbox({ intakes, recorder, live, stored }: MailboxParts): SMTPServer {
  const intakeOf = (address: string) => intakes.bySlug(slugOfAddress(address));
  return new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    size: LARGEST_MAIL,
    banner: 'Grammata',
    onRcptTo({ address }, session, done) {
      const intake = intakeOf(address);
      if (!intake) return done(refusal(550, 'No intake has this address'));
      if (intake.state === 'stopped') return done(refusal(450, 'This intake is stopped; try again later'));
      if (!isAllowed(session.remoteAddress, intake.allowedAddresses))
        return done(refusal(550, 'Mail from this address is not taken here'));
      done();
    },
    onData(stream, session, done) {
      read(stream)
        .then(async body => {
          const found = session.envelope.rcptTo.map(({ address }) => intakeOf(address));
          for (const intake of new Set(found.filter(each => each !== undefined))) {
            const arrival = arrivalFromMail(intake, session, body);
            await recorder.record(arrival);
            if (arrival.state === 'waiting') stored(arrival);
            live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
          }
          done();
        })
        .catch((error: Error) => done(refusal(451, `It could not be stored: ${error.message}`)));
    },
  });
}

/** Has the mailbox listen; resolves with its port. */
export function listenForMail(server: SMTPServer, port: number, host: string): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.removeListener('error', reject);
      server.on('error', () => undefined);
      resolve((server.server.address() as AddressInfo).port);
    });
  });
}

async function read(stream: Readable): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

/** A mail that is sent on again keeps its Message-ID (RFC 5322 §3.6.4), whatever lines the way added to it. */
function digestOf(body: Buffer): string {
  const head = body
    .subarray(0, 20_000)
    .toString('latin1')
    .split(/\r?\n\r?\n/)[0]!;
  const id = /^message-id:\s*(<[^>]+>)/im.exec(head)?.[1];
  return createHash('sha256')
    .update(id ?? body)
    .digest('base64url');
}

function arrivalFromMail(intake: IntakeRow, session: SMTPServerSession, body: Buffer): ArrivalRow {
  const receivedAt = now();
  const isTooLarge = body.length > intake.sizeLimit;
  const from = session.envelope.mailFrom;
  return {
    id: newId(receivedAt),
    intakeId: intake.id,
    receivedAt,
    method: MAIL,
    url: `/in/${intake.slug}`,
    contentType: 'message/rfc822',
    headers: [
      ['mail-from', from ? from.address : ''],
      ['rcpt-to', session.envelope.rcptTo.map(each => each.address).join(', ')],
    ],
    sender: session.remoteAddress,
    size: body.length,
    body: isTooLarge ? body.subarray(0, KEPT_OF_TOO_LARGE) : body,
    cut: isTooLarge,
    state: isTooLarge ? 'refused' : 'waiting',
    aside: false,
    trouble: isTooLarge
      ? `Not read: ${(body.length / 1e6).toFixed(1)} MB is more than this intake’s limit of ${(intake.sizeLimit / 1e6).toFixed(1)} MB.`
      : null,
    checked: null,
    digest: digestOf(body),
  };
}
