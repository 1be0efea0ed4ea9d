import { existsSync } from 'node:fs';
import { createServer } from 'node:http';
import path from 'node:path';
import type { AddressInfo } from 'node:net';
import type { PracticeView } from '@grammata/contract';
import express, { type ErrorRequestHandler } from 'express';
import { archive, ARCHIVE_KEY, type Archive } from './archive/archive';
import { builder, FEED_TOKEN } from './builders/builder';
import { catalogue } from './builders/catalogue';
import { sendStored } from './page/content';
import { html, page } from './page/html';
import { style } from './page/style';
import { labDesk, LAB_DESK_CLIENT } from './labDesk/labDesk';
import { outbox, OUTBOX_LOGIN } from './outbox/outbox';
import { register, REGISTER_TOKEN } from './register/register';
import { roster } from './roster/roster';
import { shelf, SHELF_LOGIN } from './shelf/shelf';
import { weeks } from './weeks/weeks';
import { sightings, SIGHTINGS_CLIENT, SIGHTINGS_KEY } from './sightings/sightings';

export interface YardOptions {
  host: string;
  port: number;
  /** Folder for what the yard keeps. */
  dataDir: string;
}

export interface Yard {
  url: string;
  /** Where the register's API is, and its token. */
  register: { baseUrl: string; token: string };
  /** Where the roster's API is, and its key. */
  roster: { baseUrl: string; key: string };
  /** Where the lab desk's API is, where its tokens are had, and for whom. */
  labDesk: { baseUrl: string; tokenUrl: string; client: { id: string; secret: string } };
  /** Where the outbox takes mails, and from whom. */
  outbox: { baseUrl: string; user: string; password: string };
  /** Where the shelf's API is, and its login. */
  shelf: { baseUrl: string; user: string; password: string };
  /** Where the archive's API is, and its key. */
  archive: { baseUrl: string; key: string } & Pick<Archive, 'keep' | 'notify'>;
  /** Where the sightings are, their key, and the client that somebody may give consent to. */
  sightings: { baseUrl: string; key: string; client: { id: string; secret: string } };
  /** Points a builder at an intake, where nobody did yet; a mail builder also needs the server it sends through. */
  pointAt(builder: string, address: string, via?: string): void;
  /** Puts past rows into a builder's feed. */
  fill(builder: string, rows: Record<string, unknown>[]): void;
  stop(): Promise<void>;
}

const fileId = /^[0-9a-f-]{36}$/;

type Parts = NonNullable<PracticeView['yard']>;

/** Starts the practice yard: simulated builders and targets on an HTTP server of their own. Rejects when the port is taken. */
export function startYard({ host, port, dataDir }: YardOptions): Promise<Yard> {
  let url = '';
  let mailUrl = '';
  const mails = outbox(dataDir);
  const books = register(dataDir);
  const people = roster(dataDir, () => url);
  const shelves = archive(dataDir, () => url);
  const builders = new Map(catalogue.map(each => [each.id, builder(each, dataDir, () => url)]));
  const parts = (): Parts => ({
    builders: catalogue.map(({ id, form, kind }) => ({
      id,
      name: form.title,
      summary: kind.summary,
      page: `${url}/builders/${id}`,
      facts:
        kind.way === 'feed'
          ? [
              { label: 'Rows', value: `${url}/builders/${id}/rows` },
              { label: 'Token', value: FEED_TOKEN },
            ]
          : [],
    })),
    targets: [
      {
        id: 'register',
        name: 'Register',
        summary: 'Tables with required columns and option columns, found by reading the API.',
        page: `${url}/register`,
        facts: [
          { label: 'Base address', value: `${url}/register/v1` },
          { label: 'List of tables', value: '/tables' },
          { label: 'Bearer token', value: REGISTER_TOKEN },
        ],
        connect: { baseUrl: `${url}/register/v1`, discoveryPath: '/tables', token: REGISTER_TOKEN },
      },
      {
        id: 'roster',
        name: 'Roster',
        summary:
          'Contacts to find, create and update, with an OpenAPI document. Cuts long names and drops unknown interests.',
        page: `${url}/roster`,
        facts: [
          { label: 'Base address', value: `${url}/roster/v1` },
          { label: 'Document path', value: '/openapi.json' },
          { label: 'Key in X-Roster-Key', value: people.key() },
        ],
      },
      {
        id: 'labdesk',
        name: 'Lab desk',
        summary: 'Tickets with attached files. OAuth 2 with expiring tokens, a rate limit; cuts long subjects.',
        page: `${url}/labdesk`,
        facts: [
          { label: 'Base address', value: `${url}/labdesk/v2` },
          { label: 'Document path', value: '/openapi.json' },
          { label: 'Token URL', value: `${url}/labdesk/token` },
          { label: 'Client', value: LAB_DESK_CLIENT.id },
          { label: 'Client secret', value: LAB_DESK_CLIENT.secret },
        ],
      },
      {
        id: 'outbox',
        name: 'Outbox',
        summary: 'A mail server that forwards nothing and accepts only addresses under example.org.',
        page: `${url}/outbox`,
        facts: [
          { label: 'Server address', value: mailUrl },
          { label: 'User', value: OUTBOX_LOGIN.user },
          { label: 'Password', value: OUTBOX_LOGIN.password },
        ],
      },
      {
        id: 'shelf',
        name: 'Shelf',
        summary: 'A file store: a file is the whole body of a PUT.',
        page: `${url}/shelf`,
        facts: [
          { label: 'Base address', value: `${url}/shelf/v1` },
          { label: 'Document path', value: '/openapi.json' },
          { label: 'User', value: SHELF_LOGIN.user },
          { label: 'Password', value: SHELF_LOGIN.password },
        ],
      },
      {
        id: 'archive',
        name: 'Specimen archive',
        summary: 'An awkward API: search by POST, wrapped lists, 404 for no result, numeric identifiers.',
        page: `${url}/archive`,
        facts: [
          { label: 'Base address', value: `${url}/archive/v1` },
          { label: 'Document path', value: '/openapi.json' },
          { label: 'Key in X-Archive-Key', value: ARCHIVE_KEY },
        ],
      },
      {
        id: 'sightings',
        name: 'Sightings',
        summary: 'A GraphQL API: errors come with status 200. Uses a key, or OAuth 2 consent that can be withdrawn.',
        page: `${url}/sightings`,
        facts: [
          { label: 'Base address', value: `${url}/sightings` },
          { label: 'Endpoint path', value: '/graphql' },
          { label: 'Key in X-Sightings-Key', value: SIGHTINGS_KEY },
          { label: 'Authorization URL', value: `${url}/sightings/authorize` },
          { label: 'Token URL', value: `${url}/sightings/token` },
          { label: 'Client', value: SIGHTINGS_CLIENT.id },
          { label: 'Client secret', value: SIGHTINGS_CLIENT.secret },
        ],
      },
    ],
  });
  const app = express();
  app.disable('x-powered-by');
  // Its pages show what anyone sent: nothing of it runs.
  app.use((_request, response, next) => {
    response.set({
      'content-security-policy':
        "default-src 'none'; style-src 'self'; img-src 'self' data:; form-action 'self'; base-uri 'none'",
      'x-content-type-options': 'nosniff',
    });
    next();
  });
  app.get('/favicon.ico', (_request, response) => void response.status(204).end());
  app.get('/yard.css', (_request, response) => void response.type('css').send(style));
  app.get('/files/:id/:name', (request, response) => {
    const at = path.join(dataDir, 'files', request.params.id, 'content');
    if (!fileId.test(request.params.id) || !existsSync(at)) return void response.status(404).send('File not found.');
    sendStored(response, at, typeByEnding(path.extname(request.params.name)));
  });
  app.get('/parts', (_request, response) => void response.json(parts()));
  app.get('/', (_request, response) => {
    const list = (title: string, all: Parts['builders']) =>
      html`<h2>${title}</h2>
        ${all.map(part => html`<p><a href="${part.page}">${part.name}</a><br /><span class="soft">${part.summary}</span></p>`)}`;
    response.send(
      page(
        'Practice yard',
        'simulated builders and targets',
        html`<h1>Practice yard</h1>
          <p class="soft">Form builders and targets to try Grammata on. Nothing leaves this machine.</p>
          ${list('Form builders', parts().builders)}${list('Targets', parts().targets)}
          <h2>A bad week</h2>
          ${Object.entries(weeks).map(
            ([id, { name, summary }]) =>
              html`<p class="soft">${summary} To be noticed, repaired, and delivered.</p>
                <form method="post" action="/week"><button name="week" value="${id}">${name}</button></form>`,
          )}`,
      ),
    );
  });
  /** Everything that goes wrong in a week, at once. */
  app.post('/week', express.urlencoded({ extended: false }), async (request, response) => {
    const { week } = (request.body ?? {}) as { week?: unknown };
    const { form, edits, columns, contacts, newKey, answers } = weeks[week === 'worse' ? 'worse' : 'bad'];
    books.change(columns);
    people.change(contacts, newKey);
    await builders.get(form)!.change(edits, answers);
    response.redirect(303, `/builders/${form}`);
  });
  app.use(
    ...[...builders.values()].map(each => each.router),
    books.router,
    people.router,
    labDesk(dataDir, () => url),
    mails.router,
    shelf(dataDir, () => url),
    shelves.router,
    sightings(dataDir),
  );
  // Whatever goes wrong in one request is answered, and ends nothing.
  app.use(((error: unknown, _request, response, _next) => {
    if (response.headersSent) return void response.destroy();
    const { status } = error as { status?: unknown };
    const isTheirs = typeof status === 'number' && status >= 400 && status < 500;
    response
      .status(isTheirs ? status : 500)
      .json({ title: isTheirs ? (error as Error).message : 'The practice yard failed.' });
  }) satisfies ErrorRequestHandler);
  const server = createServer({ keepAliveTimeout: 75_000 }, (request, response) => {
    request.on('error', () => undefined);
    response.on('error', () => undefined);
    app(request, response);
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      url = `http://${host}:${(server.address() as AddressInfo).port}`;
      const stop = () => {
        builders.forEach(each => each.stop());
        server.closeAllConnections();
        return Promise.all([mails.stop(), new Promise<void>(done => server.close(() => done()))]).then(() => undefined);
      };
      const yard = (mailPort: number): Yard => ({
        url,
        register: { baseUrl: `${url}/register/v1`, token: REGISTER_TOKEN },
        roster: { baseUrl: `${url}/roster/v1`, key: people.key() },
        labDesk: { baseUrl: `${url}/labdesk/v2`, tokenUrl: `${url}/labdesk/token`, client: LAB_DESK_CLIENT },
        outbox: { baseUrl: `smtp://${host}:${mailPort}`, ...OUTBOX_LOGIN },
        shelf: { baseUrl: `${url}/shelf/v1`, ...SHELF_LOGIN },
        archive: {
          baseUrl: `${url}/archive/v1`,
          key: ARCHIVE_KEY,
          keep: specimens => shelves.keep(specimens),
          notify: address => shelves.notify(address),
        },
        sightings: { baseUrl: `${url}/sightings`, key: SIGHTINGS_KEY, client: SIGHTINGS_CLIENT },
        pointAt: (id, address, via) => builders.get(id)?.pointAt(address, via),
        fill: (id, rows) => builders.get(id)?.fill(rows),
        stop,
      });
      // A port of its own that is free will do: it is told on the page.
      mails.listen(host, port === 0 ? 0 : port + 1).then(mailPort => {
        mailUrl = `smtp://${host}:${mailPort}`;
        resolve(yard(mailPort));
      }, reject);
    });
  });
}

const types: [ending: RegExp, type: string][] = [
  [/^\.jpe?g$/i, 'image/jpeg'],
  [/^\.png$/i, 'image/png'],
  [/^\.gif$/i, 'image/gif'],
  [/^\.webp$/i, 'image/webp'],
  [/^\.mp4$/i, 'video/mp4'],
  [/^\.pdf$/i, 'application/pdf'],
  [/^\.txt$/i, 'text/plain'],
];

const typeByEnding = (ending: string): string =>
  types.find(([pattern]) => pattern.test(ending))?.[1] ?? 'application/octet-stream';
