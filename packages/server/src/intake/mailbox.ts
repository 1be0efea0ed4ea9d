import { createHash } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import type { Readable } from 'node:stream';
import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from 'smtp-server';
import type { Logger } from 'pino';
import type { LiveHub } from '../live';
import { MAIL, type ArrivalRow, type IntakeRow, type Intakes } from '../store';
import type { StorageHealth } from '../storage';
import { newArrival, tooLarge } from './arrival';
import type { Recorder } from './recorder';
import { isAllowed } from './verify';

export interface MailboxParts {
  intakes: Intakes;
  recorder: Recorder;
  live: LiveHub;
  health: StorageHealth;
  log: Logger;
  stored(arrival: ArrivalRow): void;
}

/** Bytes of the largest mail that is taken at all; an intake's own limit comes on top. */
const LARGEST_MAIL = 100_000_000;
const KEPT_OF_TOO_LARGE = 65536;
/** Bytes that are announced at least: RFC 5321 §4.5.3.1.7 wants 64 kB to be taken. */
const LEAST_ANNOUNCED = 65536;
/** Senders at once, and ms after which a silent one is let go (RFC 5321 §4.5.3.2.7 wants five minutes). */
const MOST_CLIENTS = 100;
const SILENCE = 300_000;

const slugOfAddress = (address: string) => address.slice(0, Math.max(0, address.lastIndexOf('@'))).toLowerCase();

/** An answer of the SMTP dialogue (RFC 5321 §4.2) other than yes. */
const refusal = (responseCode: number, message: string) => Object.assign(new Error(message), { responseCode });

/**
 * Takes mails for intakes over SMTP (RFC 5321): each intake has an address, its last part before the @. A mail is
 * answered with 250 once it is on disk.
 */
export function mailbox({ intakes, recorder, live, health, log, stored }: MailboxParts): SMTPServer {
  const intakeOf = (address: string) => intakes.bySlug(slugOfAddress(address));
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    size: LARGEST_MAIL,
    maxClients: MOST_CLIENTS,
    socketTimeout: SILENCE,
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
      take(stream, session).then(
        isTaken => done(isTaken ? null : refusal(552, 'It is larger than this intake takes')),
        (error: Error) => done(refusal(health.failed(error) ? 452 : 451, 'It could not be stored; try again later')),
      );
    },
    onConnect(_session, done) {
      // What is announced (RFC 1870 §4) is what the most generous intake takes.
      server.options.size = largest();
      done();
    },
  });
  const largest = () => Math.min(LARGEST_MAIL, Math.max(LEAST_ANNOUNCED, ...intakes.all().map(each => each.sizeLimit)));

  /** Stores a mail for each of its intakes; false where it is larger than any of them takes, of which a trace is kept. */
  async function take(stream: SMTPServerDataStream, session: SMTPServerSession): Promise<boolean> {
    const found = session.envelope.rcptTo.map(({ address }) => intakeOf(address)).filter(each => each !== undefined);
    const receivers = [...new Map(found.map(each => [each.id, each])).values()];
    const { bytes, size } = await read(stream, Math.max(0, ...receivers.map(each => each.sizeLimit)));
    let isTaken = receivers.length === 0;
    for (const intake of receivers) {
      const arrival = arrivalFromMail(intake, session, bytes, size);
      await recorder.record(arrival);
      if (arrival.state === 'waiting') {
        isTaken = true;
        stored(arrival);
      }
      live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
    }
    return isTaken;
  }
  // A connection that breaks off is its sender's trouble.
  server.on('error', error => log.debug({ err: error }, 'a mail broke off'));
  return server;
}

/** Has the mailbox listen; resolves with its port. */
export function listenForMail(server: SMTPServer, port: number, host: string): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.removeListener('error', reject);
      resolve((server.server.address() as AddressInfo).port);
    });
  });
}

/** Reads a mail up to a limit; what is beyond is let through unread, so that the dialogue goes on. */
async function read(stream: Readable, limit: number): Promise<{ bytes: Buffer; size: number }> {
  const chunks: Buffer[] = [];
  let [size, kept] = [0, 0];
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (kept > limit) continue;
    chunks.push(chunk);
    kept += chunk.length;
  }
  return { bytes: Buffer.concat(chunks), size };
}

/** A mail that is sent on again keeps its Message-ID (RFC 5322 §3.6.4), whatever lines the way added to it. */
function digestOf(body: Buffer): string {
  const head = body.subarray(0, 20_000).toString('latin1').replaceAll('\r\n', '\n').split('\n\n', 1)[0]!;
  const id = /^message-id:[ \t]*(<[^<>\s]{1,900}>)/im.exec(head)?.[1];
  return createHash('sha256')
    .update(id ?? body)
    .digest('base64url');
}

function arrivalFromMail(intake: IntakeRow, session: SMTPServerSession, body: Buffer, size: number): ArrivalRow {
  const isTooLarge = size > intake.sizeLimit;
  const from = session.envelope.mailFrom;
  return newArrival(intake, {
    method: MAIL,
    contentType: 'message/rfc822',
    headers: [
      ['mail-from', from ? from.address : ''],
      ['rcpt-to', session.envelope.rcptTo.map(each => each.address).join(', ')],
    ],
    sender: session.remoteAddress,
    size,
    body: isTooLarge ? Buffer.from(body.subarray(0, KEPT_OF_TOO_LARGE)) : body,
    cut: isTooLarge,
    state: isTooLarge ? 'refused' : 'waiting',
    trouble: isTooLarge ? `Refused: ${tooLarge(size, intake)}` : null,
    digest: digestOf(body),
  });
}
