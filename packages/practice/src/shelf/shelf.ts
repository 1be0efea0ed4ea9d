import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Router, type RequestHandler } from 'express';
import { faultSwitch, misbehave, problem, takeFault, type Fault } from '../faults';
import { sendStored } from '../page/content';
import { html, page, type Html } from '../page/html';
import { FileStore } from '../store';

export const SHELF_LOGIN = { user: 'river-watch', password: 'yard-shelf-08aa' };

interface ShelfFile {
  name: string;
  type: string;
  size: number;
  digest: string;
  at: string;
  /** Its name on disk. */
  content: string;
}

interface ShelfState {
  fault: Fault;
  files: ShelfFile[];
}

/** The shelf's OpenAPI document; `url` is where its API is. */
export const shelfDocument = (url: string) => ({
  openapi: '3.1.0',
  info: { title: 'Shelf', version: '1', description: 'Files by their names.' },
  servers: [{ url }],
  security: [{ login: [] }],
  components: { securitySchemes: { login: { type: 'http', scheme: 'basic' } } },
  paths: {
    '/files/{name}': {
      parameters: [{ in: 'path', name: 'name', required: true, schema: { type: 'string', maxLength: 120 } }],
      put: {
        operationId: 'putFile',
        summary: 'Put a file on the shelf',
        requestBody: {
          required: true,
          content: {
            'application/octet-stream': { schema: { type: 'string', contentMediaType: 'application/octet-stream' } },
          },
        },
        responses: {
          '200': {
            description: 'It is there',
            content: {
              'application/json': {
                schema: {
                  type: 'object',
                  properties: {
                    name: { type: 'string' },
                    size: { type: 'integer' },
                    digest: { type: 'string', description: 'SHA-256, in hexadecimal' },
                  },
                },
              },
            },
          },
        },
      },
    },
  },
});

/** The shelf: a file store that takes a file as the whole body of a PUT, with HTTP Basic. */
export function shelf(folder: string, url: () => string): Router {
  const state = new FileStore<ShelfState>(folder, 'shelf', { fault: 'none', files: [] });
  const at = path.join(folder, 'shelf');
  mkdirSync(at, { recursive: true });
  const router = Router();
  const find = (name: string) => state.value.files.find(each => each.name === name);
  router.get('/shelf', (_request, response) => void response.send(page('Shelf', 'a target', shelfPage(state.value))));
  router.get('/shelf/look/:name', (request, response) => {
    const file = find(request.params.name);
    if (!file) return void response.status(404).send('File not found.');
    sendStored(response, path.join(at, file.content), file.type);
  });
  router.use(takeFault('shelf', state));
  router.get('/shelf/v1/openapi.json', (_request, response) => void response.json(shelfDocument(`${url()}/shelf/v1`)));
  const api = Router();
  api.use(misbehave(state.value), needsLogin);
  api.put('/files/:name', (request, response, next) => {
    const { name } = request.params;
    if (name.length > 120 || /[/\\\p{Cc}]/u.test(name))
      return void problem(response, 422, 'That is no name for a file.');
    const content = randomUUID();
    const hash = createHash('sha256');
    let size = 0;
    request.on('data', (chunk: Buffer) => {
      hash.update(chunk);
      size += chunk.length;
    });
    pipeline(request, createWriteStream(path.join(at, `${content}.part`)))
      .then(() => {
        const before = find(name);
        if (before) rmSync(path.join(at, before.content), { force: true });
        renameSync(path.join(at, `${content}.part`), path.join(at, content));
        const type = request.header('content-type') ?? 'application/octet-stream';
        const file = { name, type, size, digest: hash.digest('hex'), at: new Date().toISOString(), content };
        state.value.files = [file, ...state.value.files.filter(each => each.name !== name)];
        state.save();
        response.status(before ? 200 : 201).json({ name, size, digest: file.digest });
      })
      .catch(error => {
        rmSync(path.join(at, `${content}.part`), { force: true });
        next(error);
      });
  });
  router.use('/shelf/v1', api);
  return router;
}

const needsLogin: RequestHandler = (request, response, next) => {
  const login = Buffer.from(`${SHELF_LOGIN.user}:${SHELF_LOGIN.password}`).toString('base64');
  if (request.header('authorization') === `Basic ${login}`) return next();
  problem(response.set('www-authenticate', 'Basic realm="shelf"'), 401, 'User or password is wrong.');
};

/** The shelf's page: its files, newest first. */
function shelfPage({ files, fault }: ShelfState): Html {
  return html`<h1>Shelf</h1>
    <div class="row">
      <p class="soft">${files.length} files, newest first.</p>
      ${faultSwitch('shelf', 'The shelf', fault)}
    </div>
    ${
      files.length === 0
        ? html`<p class="soft">Nothing on it yet.</p>`
        : html`<div class="scroll" tabindex="0" role="region" aria-label="Files">
            <table>
              <tr>
                <th>Name</th>
                <th>Type</th>
                <th>Bytes</th>
                <th>SHA-256</th>
              </tr>
              ${files.map(
                each =>
                  html`<tr>
                    <td><a href="/shelf/look/${encodeURIComponent(each.name)}">${each.name}</a></td>
                    <td>${each.type}</td>
                    <td>${each.size}</td>
                    <td>${each.digest.slice(0, 16)}…</td>
                  </tr>`,
              )}
            </table>
          </div>`
    }`;
}
