import { createHash } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from 'smtp-server';
import type { Logger } from 'pino';
import type { LiveHub } from '../live';
import { MAIL, type ArrivalRow, type IntakeRow, type Intakes, type ReceivedArrival } from '../store';
import type { StorageHealth } from '../storage';
import { newId } from '../ids';
import { newArrival, tooLarge } from './arrival';
import type { Bodies } from './bodies';
import { BodyMemory, KEPT_OF_LARGE, readBody, type StoredBody } from './body';
import type { Recorder } from './recorder';
import { isAllowed } from './verify';

export interface MailboxParts {
  intakes: Intakes;
  record: Recorder;
  bodies: Bodies;
  live: LiveHub;
  health: StorageHealth;
  log: Logger;
  stored(arrival: ArrivalRow): void;
}

/** Bytes of the largest mail that is taken at all; an intake's own limit comes on top. */
const LARGEST_MAIL = 100_000_000;
/** Bytes that are announced at least: RFC 5321 §4.5.3.1.7 wants 64 kB to be taken. */
const LEAST_ANNOUNCED = 65536;
/** Senders at once, and ms after which a silent one is let go (RFC 5321 §4.5.3.2.7 wants five minutes). */
const MOST_CLIENTS = 100;
/** Of them from one address. */
const MOST_OF_ONE = 40;
const SILENCE = 300_000;

const slugOfAddress = (address: string) => address.slice(0, Math.max(0, address.lastIndexOf('@'))).toLowerCase();

/** An answer of the SMTP dialogue (RFC 5321 §4.2) other than yes. */
const refusal = (responseCode: number, message: string) => Object.assign(new Error(message), { responseCode });

/**
 * Takes mails for intakes over SMTP (RFC 5321): each intake has an address, its last part before the @. A mail is
 * answered with 250 once it is on disk.
 */
export function mailbox({ intakes, record, bodies, live, health, log, stored }: MailboxParts): SMTPServer {
  const intakeOf = (address: string) => intakes.bySlug(slugOfAddress(address));
  /** The address of each session. */
  const clients = new Map<string, string>();
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
        return done(refusal(550, 'Mail from this address is not accepted'));
      done();
    },
    onData(stream, session, done) {
      take(stream, session).then(
        isTaken => done(isTaken ? null : refusal(552, 'It is larger than this intake takes')),
        (error: Error) => done(refusal(health.failed(error) ? 452 : 451, 'It could not be stored; try again later')),
      );
    },
    onConnect({ id, remoteAddress }, done) {
      const others = [...clients.values()].filter(each => each === remoteAddress).length;
      if (others >= MOST_OF_ONE) return done(refusal(421, 'Too many connections from this address'));
      clients.set(id, remoteAddress);
      // What is announced (RFC 1870 §4) is what the most generous intake takes.
      server.options.size = largest();
      done();
    },
    onClose({ id }) {
      clients.delete(id);
    },
  });
  const memory = new BodyMemory();
  const largest = () => Math.min(LARGEST_MAIL, Math.max(LEAST_ANNOUNCED, ...intakes.all().map(each => each.sizeLimit)));

  /** Stores a mail for each of its intakes; false where it is larger than any of them takes, of which a trace is kept. */
  async function take(stream: SMTPServerDataStream, session: SMTPServerSession): Promise<boolean> {
    const found = session.envelope.rcptTo.map(({ address }) => intakeOf(address)).filter(each => each !== undefined);
    const receivers = [...new Map(found.map(each => [each.id, each])).values()];
    const first = newId();
    const kept = await readBody(stream, {
      limit: Math.max(0, ...receivers.map(each => each.sizeLimit)),
      layAside: chunks => bodies.write(first, chunks),
      memory,
    });
    // What is beyond the limit is let through unread, so that the dialogue goes on.
    stream.resume();
    let isTaken = receivers.length === 0;
    let dropped = false;
    for (const [at, intake] of receivers.entries()) {
      const arrival = arrivalFromMail(intake, session, kept, at === 0 ? first : newId());
      if (arrival.aside && at > 0) bodies.share(first, arrival.id);
      await record(arrival).catch((error: unknown) => {
        if (arrival.aside) bodies.remove(arrival.id);
        throw error;
      });
      if (arrival.state === 'waiting') {
        isTaken = true;
        stored(arrival);
      }
      if (at === 0 && kept.aside !== null && !arrival.aside) dropped = true;
      live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
    }
    if (dropped || receivers.length === 0) bodies.remove(first);
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

/** A mail that is sent on again keeps its Message-ID (RFC 5322 §3.6.4), whatever lines the way added to it. */
function digestOf({ bytes, aside }: StoredBody): string {
  const head = bytes.subarray(0, 20_000).toString('latin1').replaceAll('\r\n', '\n').split('\n\n', 1)[0]!;
  const id = /^message-id:[ \t]*(<[^<>\s]{1,900}>)/im.exec(head)?.[1];
  if (id === undefined && aside !== null) return aside;
  return createHash('sha256')
    .update(id ?? bytes)
    .digest('base64url');
}

function arrivalFromMail(intake: IntakeRow, session: SMTPServerSession, kept: StoredBody, id: string): ReceivedArrival {
  const isTooLarge = kept.cut || kept.size > intake.sizeLimit;
  const from = session.envelope.mailFrom;
  return newArrival(intake, {
    id,
    method: MAIL,
    contentType: 'message/rfc822',
    headers: [
      ['mail-from', from ? from.address : ''],
      ['rcpt-to', session.envelope.rcptTo.map(each => each.address).join(', ')],
    ],
    sender: session.remoteAddress,
    size: kept.size,
    body: isTooLarge ? Buffer.from(kept.bytes.subarray(0, KEPT_OF_LARGE)) : kept.bytes,
    cut: isTooLarge,
    aside: kept.aside !== null && !isTooLarge,
    state: isTooLarge ? 'refused' : 'waiting',
    trouble: isTooLarge ? `Refused: ${tooLarge(kept.size, intake)}` : null,
    digest: digestOf(kept),
  });
}
