import { createReadStream, existsSync } from 'node:fs';
import { createServer } from 'node:http';
import path from 'node:path';
import type { AddressInfo } from 'node:net';
import type { PracticeView } from '@grammata/contract';
import express from 'express';
import { builder, FEED_TOKEN } from './builders/builder';
import { catalogue } from './builders/catalogue';
import { html, page } from './page/html';
import { style } from './page/style';
import { register, REGISTER_TOKEN } from './register/register';
import { roster, ROSTER_KEY } from './roster/roster';

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
        summary: 'Tables with columns to discover, required and option columns.',
        page: `${url}/register`,
        facts: [
          { label: 'Address', value: `${url}/register/v1` },
          { label: 'Lists its tables at', value: '/tables' },
          { label: 'Token', value: REGISTER_TOKEN },
        ],
      },
      {
        id: 'roster',
        name: 'Roster',
        summary: 'Contacts: find, create and update; an OpenAPI document; names cut short, unknown interests dropped.',
        page: `${url}/roster`,
        facts: [
          { label: 'Address', value: `${url}/roster/v1` },
          { label: 'Document at', value: '/openapi.json' },
          { label: 'Key in X-Roster-Key', value: ROSTER_KEY },
        ],
      },
    ],
  });
  const app = express();
  app.disable('x-powered-by');
  app.get('/favicon.ico', (_request, response) => void response.status(204).end());
  app.get('/yard.css', (_request, response) => void response.type('css').send(style));
  app.get('/files/:id/:name', (request, response) => {
    const at = path.join(dataDir, 'files', request.params.id, 'content');
    if (!fileId.test(request.params.id) || !existsSync(at))
      return void response.status(404).send('There is no such file.');
    response.type(path.extname(request.params.name) || 'application/octet-stream');
    createReadStream(at).pipe(response);
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
          ${list('Form builders', parts().builders)}${list('Targets', parts().targets)}`,
      ),
    );
  });
  app.use(
    ...[...builders.values()].map(each => each.router),
    register(dataDir),
    roster(dataDir, () => url),
  );
  const server = createServer(app);
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      url = `http://${host}:${(server.address() as AddressInfo).port}`;
      const stop = () => {
        builders.forEach(each => each.stop());
        server.closeAllConnections();
        return new Promise<void>(done => server.close(() => done()));
      };
      resolve({
        url,
        register: { baseUrl: `${url}/register/v1`, token: REGISTER_TOKEN },
        roster: { baseUrl: `${url}/roster/v1`, key: ROSTER_KEY },
        pointAt: (id, address, via) => builders.get(id)?.pointAt(address, via),
        fill: (id, rows) => builders.get(id)?.fill(rows),
        stop,
      });
    });
  });
}
