import { buffer } from 'node:stream/consumers';
import { Router } from 'express';
import PostalMime, { type Address } from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { html, page, type Html } from '../page/html';
import { FileStore } from '../store';

export const OUTBOX_LOGIN = { user: 'river-watch', password: 'yard-outbox-c7d1' };

/** Mails to other places are not taken. */
const TAKES = /@([a-z0-9-]+\.)*example\.(org|net)$/i;
const LARGEST_MAIL = 30_000_000;
const MOST_KEPT = 300;

export interface SentMail {
  at: string;
  from: string;
  to: string[];
  subject: string;
  text: string;
  html: string;
  replyTo: string;
  messageId: string;
  attachments: { name: string; type: string; size: number }[];
}

interface OutboxState {
  mails: SentMail[];
}

export interface Outbox {
  router: Router;
  listen(host: string, port: number): Promise<number>;
  stop(): Promise<void>;
}

/** The outbox: a mail server that sends nothing on, and a page that shows what it was given. */
export function outbox(folder: string): Outbox {
  const state = new FileStore<OutboxState>(folder, 'outbox', { mails: [] });
  const router = Router();
  router.get(
    '/outbox',
    (_request, response) => void response.send(page('Outbox', 'a target', outboxPage(state.value))),
  );
  router.get('/outbox/mails', (_request, response) => void response.json(state.value.mails));
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    authOptional: false,
    allowInsecureAuth: true,
    size: LARGEST_MAIL,
    logger: false,
    onAuth({ username, password }, _session, done) {
      const isKnown = username === OUTBOX_LOGIN.user && password === OUTBOX_LOGIN.password;
      done(isKnown ? null : new Error('Unknown user or wrong password'), isKnown ? { user: username } : undefined);
    },
    onRcptTo({ address }, _session, done) {
      if (TAKES.test(address)) return done();
      done(Object.assign(new Error('Only addresses of the river watch are served'), { responseCode: 550 }));
    },
    onData(stream, session, done) {
      buffer(stream)
        .then(bytes => {
          if (stream.sizeExceeded) throw Object.assign(new Error('It is too large'), { responseCode: 552 });
          return keep(
            bytes,
            session.envelope.rcptTo.map(each => each.address),
          );
        })
        .then(() => done(), done);
    },
  });
  // Clients that hang up are no fault of the yard.
  server.on('error', () => undefined);

  async function keep(bytes: Buffer, to: string[]): Promise<void> {
    const mail = await PostalMime.parse(bytes);
    const { mails } = state.value;
    // The same message again is the same mail.
    if (mails.some(each => each.messageId === mail.messageId)) return;
    const addresses = (list: Address[] | undefined) => (list ?? []).map(each => each.address ?? each.name).join(', ');
    mails.unshift({
      at: new Date().toISOString(),
      from: mail.from?.address ?? '',
      to,
      subject: mail.subject ?? '',
      text: mail.text ?? '',
      html: mail.html ?? '',
      replyTo: addresses(mail.replyTo),
      messageId: mail.messageId ?? '',
      attachments: mail.attachments.map(({ filename, mimeType, content }) => ({
        name: filename ?? '',
        type: mimeType,
        size: typeof content === 'string' ? content.length : content.byteLength,
      })),
    });
    mails.splice(MOST_KEPT);
    state.save();
  }

  return {
    router,
    listen: (host, port) =>
      new Promise((resolve, reject) => {
        server.server.once('error', reject);
        server.listen(port, host, () => {
          const address = server.server.address();
          resolve(typeof address === 'object' && address ? address.port : port);
        });
      }),
    stop: () => new Promise<void>(done => server.close(() => done())),
  };
}

/** The outbox's page: its mails, newest first, each in full. */
function outboxPage({ mails }: OutboxState): Html {
  return html`<h1>Outbox</h1>
    <p class="soft">${mails.length} mails, newest first. None of them goes any further.</p>
    ${mails.map(
      mail =>
        html`<article>
          <h2>${mail.subject || 'no subject'}</h2>
          <p class="soft">
            from ${mail.from} to ${mail.to.join(', ')} ·
            ${mail.at}${mail.replyTo && html` · replies to ${mail.replyTo}`}
          </p>
          <pre>${mail.text || mail.html}</pre>
          ${mail.attachments.length > 0 && html`<p>Attached: ${mail.attachments.map(each => `${each.name} (${each.size} bytes)`).join(', ')}</p>`}
        </article>`,
    )}`;
}
