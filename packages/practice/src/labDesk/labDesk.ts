import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import busboy from 'busboy';
import express, { Router, type Request, type RequestHandler, type Response } from 'express';
import { changing, type ApiEdit } from '../changing';
import { faultSwitch, misbehave, takeFault, type Fault } from '../faults';
import { html, page, type Html } from '../page/html';
import { sendStored } from '../page/content';
import { FileStore } from '../store';
import { labDeskDocument, severities } from './document';

export const LAB_DESK_CLIENT = { id: 'river-watch', secret: 'yard-labdesk-5e30' };

/** How long a token is good, in seconds. */
const TOKEN_LASTS = 90;
/** Longest subject that is kept; longer ones are cut without a word. */
const LONGEST_SUBJECT = 60;
const LARGEST_FILE = 300_000_000;
/** Requests that are taken in ten seconds. */
const RATE = { most: 120, within: 10_000 };

interface Attachment {
  id: string;
  name: string;
  type: string;
  size: number;
  digest: string;
  caption: string;
}

interface Ticket {
  id: string;
  number: number;
  state: 'open' | 'closed';
  at: string;
  attachments: Attachment[];
  values: Record<string, unknown>;
}

interface LabDeskState {
  fault: Fault;
  edits?: ApiEdit[];
  next: number;
  tickets: Ticket[];
  /** What an idempotency key made. */
  made: Record<string, string>;
}

/** Says no as this system does: an error with a message, and details by field. */
const refuse = (response: Response, status: number, message: string, errors: Record<string, string> = {}) =>
  response.status(status).json({ error: { message, errors } });

/** The lab desk: a target with tickets that files are attached to; OAuth 2, multipart, an OpenAPI document, and a page. */
export function labDesk(folder: string, url: () => string): Router {
  const state = new FileStore<LabDeskState>(folder, 'labDesk', { fault: 'none', next: 101, tickets: [], made: {} });
  const files = path.join(folder, 'labDesk');
  mkdirSync(files, { recursive: true });
  const tokens = new Map<string, number>();
  const router = Router();
  const changed = changing({
    name: 'labdesk',
    state,
    document: labDeskDocument('', ''),
    collection: { path: '/tickets', schemas: ['Ticket'] },
    refuse: (response, wrong) =>
      void refuse(
        response,
        422,
        'The ticket can’t be opened.',
        Object.fromEntries(wrong.map(({ field, detail }) => [field, detail])),
      ),
  });
  const { tickets } = state.value;
  const madeUnder = (key: string) => (Object.hasOwn(state.value.made, key) ? state.value.made[key] : undefined);

  router.get(
    '/labdesk',
    (_request, response) =>
      void response.send(page('Lab desk', 'a target', labDeskPage(state.value, changed.section()))),
  );
  router.get('/labdesk/files/:id', (request, response) => {
    const found = tickets.flatMap(each => each.attachments).find(each => each.id === request.params.id);
    if (!found) return void response.status(404).send('File not found.');
    sendStored(response, path.join(files, found.id), found.type);
  });
  router.use(takeFault('labdesk', state), changed.router);
  router.get(
    '/labdesk/v2/openapi.json',
    (_request, response) =>
      void response.json(changed.document(labDeskDocument(`${url()}/labdesk/v2`, `${url()}/labdesk/token`))),
  );
  router.post('/labdesk/token', express.urlencoded({ extended: false }), (request, response) => {
    const body = request.body as Record<string, string | undefined>;
    const [user, secret] = basicOf(request) ?? [body.client_id, body.client_secret];
    response.set('cache-control', 'no-store');
    if (user !== LAB_DESK_CLIENT.id || secret !== LAB_DESK_CLIENT.secret)
      return void response.status(401).json({ error: 'invalid_client', error_description: 'This client is not known' });
    if (body.grant_type !== 'client_credentials')
      return void response.status(400).json({ error: 'unsupported_grant_type' });
    // Whoever asks again soon is handed out the same token again.
    const [last = '', until = 0] = [...tokens].at(-1) ?? [];
    const left = Math.floor((until - Date.now()) / 1000);
    const isSame = left > TOKEN_LASTS / 2;
    const token = isSame ? last : randomUUID();
    if (!isSame) tokens.set(token, Date.now() + TOKEN_LASTS * 1000);
    response.json({ access_token: token, token_type: 'Bearer', expires_in: isSame ? left : TOKEN_LASTS });
  });

  const api = Router();
  const needsToken: RequestHandler = (request, response, next) => {
    const token = /^Bearer (.+)$/.exec(request.header('authorization') ?? '')?.[1] ?? '';
    if ((tokens.get(token) ?? 0) > Date.now()) return next();
    refuse(
      response.set('www-authenticate', 'Bearer error="invalid_token"'),
      401,
      'The token has expired or is not known.',
    );
  };
  api.use(misbehave(state.value), limited(), needsToken, express.json({ limit: '1mb' }), changed.layer);

  api.post('/tickets', (request, response) => {
    const values = (request.body ?? {}) as Record<string, unknown>;
    const errors = complaintsAbout(values);
    if (Object.keys(errors).length > 0) return void refuse(response, 422, 'The ticket can’t be opened.', errors);
    const key = request.header('idempotency-key');
    const before = key === undefined ? undefined : tickets.find(each => each.id === madeUnder(key));
    if (before) return void response.status(200).json(ticketView(before));
    const ticket: Ticket = {
      id: randomUUID(),
      number: state.value.next++,
      state: 'open',
      at: new Date().toISOString(),
      attachments: [],
      values: asKept(values),
    };
    tickets.push(ticket);
    if (key !== undefined) state.value.made[key] = ticket.id;
    state.save();
    response.status(201).json(ticketView(ticket));
  });
  api.get('/tickets/:id', (request, response) => {
    const ticket = tickets.find(each => each.id === request.params.id);
    if (!ticket) return void refuse(response, 404, 'There is no such ticket.');
    response.json(ticketView(ticket));
  });
  api.post('/tickets/:id/attachments', (request, response, next) => {
    const ticket = tickets.find(each => each.id === request.params.id);
    if (!ticket) return void refuse(response, 404, 'There is no such ticket.');
    if (!request.is('multipart/form-data')) return void refuse(response, 415, 'Files come as multipart/form-data.');
    const key = request.header('idempotency-key');
    const before = ticket.attachments.find(each => key !== undefined && each.id === madeUnder(key));
    if (before) return void (request.resume(), response.status(200).json(before));
    takeFile(request, files)
      .then(taken => {
        if (taken === null) return void refuse(response, 422, 'There is no file in it.', { file: 'is required' });
        if (taken === 'large') return void refuse(response, 413, `A file may have ${LARGEST_FILE / 1e6} MB.`);
        ticket.attachments.push(taken);
        if (key !== undefined) state.value.made[key] = taken.id;
        state.save();
        response.status(201).json(taken);
      })
      .catch(next);
  });
  router.use('/labdesk/v2', api);
  return router;
}

/** User and password of HTTP Basic, as an OAuth client writes them (RFC 6749 §2.3.1). */
function basicOf(request: Request): [user: string, password: string] | null {
  const encoded = /^Basic (.+)$/.exec(request.header('authorization') ?? '')?.[1];
  if (encoded === undefined) return null;
  const [user = '', password = ''] = Buffer.from(encoded, 'base64').toString().split(':');
  try {
    return [decodeURIComponent(user), decodeURIComponent(password)];
  } catch {
    return null;
  }
}

/** Takes so many requests in a while, and asks to wait for the others. */
function limited(): RequestHandler {
  let taken: number[] = [];
  return (_request, response, next) => {
    const now = Date.now();
    taken = taken.filter(at => at > now - RATE.within);
    if (taken.length >= RATE.most) {
      response.set('retry-after', String(Math.ceil((taken[0]! + RATE.within - now) / 1000)));
      return void refuse(response, 429, 'Too many requests.');
    }
    taken.push(now);
    next();
  };
}

function complaintsAbout(values: Record<string, unknown>): Record<string, string> {
  const errors: Record<string, string> = {};
  for (const key of ['subject', 'body'])
    if (typeof values[key] !== 'string' || values[key].trim() === '') errors[key] = 'is required';
  if (values.severity !== undefined && !severities.includes(values.severity as string))
    errors.severity = `must be one of ${severities.join(', ')}`;
  if (values.wanted_by !== undefined && Number.isNaN(Date.parse(String(values.wanted_by))))
    errors.wanted_by = 'must be a date';
  if (values.reading !== undefined && typeof values.reading !== 'number') errors.reading = 'must be a number';
  return errors;
}

/** Values as they are kept: the subject cut, the reading rounded, what is not known dropped. */
function asKept({
  subject,
  body,
  severity,
  place,
  reporter,
  call_back,
  wanted_by,
  reading,
  labels,
}: Record<string, unknown>) {
  const known = { body, severity: severity ?? 'normal', place, reporter, call_back, wanted_by, labels };
  return {
    ...known,
    subject: (subject as string).trim().slice(0, LONGEST_SUBJECT),
    ...(reading !== undefined && { reading: Math.round((reading as number) * 10) / 10 }),
  };
}

const ticketView = ({ id, number, state, values }: Ticket) => ({ id, number, state, ...values });

/** Takes the one file of a multipart form to disk, bit by bit. */
async function takeFile(request: Request, folder: string): Promise<Attachment | 'large' | null> {
  const parser = busboy({
    headers: request.headers,
    defParamCharset: 'utf8',
    limits: { files: 1, fileSize: LARGEST_FILE },
  });
  const id = randomUUID();
  const at = path.join(folder, id);
  let caption = '';
  let written: Promise<Attachment | 'large'> | null = null;
  parser.on('field', (name, value) => {
    if (name === 'caption') caption = value;
  });
  parser.on('file', (name, stream, { filename, mimeType }) => {
    if (name !== 'file') return void stream.resume();
    const hash = createHash('sha256');
    let size = 0;
    const through = new PassThrough();
    through.on('data', (chunk: Buffer) => {
      hash.update(chunk);
      size += chunk.length;
    });
    written = pipeline(stream, through, createWriteStream(at)).then(() =>
      stream.truncated
        ? 'large'
        : { id, name: filename ?? 'file', type: mimeType, size, digest: hash.digest('hex'), caption },
    );
  });
  await pipeline(request, parser);
  const taken: Attachment | 'large' | null = await (written as Promise<Attachment | 'large'> | null);
  if (taken === 'large') rmSync(at, { force: true });
  return taken !== null && taken !== 'large' ? { ...taken, caption } : taken;
}

const MOST_SHOWN = 200;

/** The lab desk's page: its tickets, newest first. */
function labDeskPage({ tickets, fault }: LabDeskState, changes: Html): Html {
  const shown = [...tickets].reverse().slice(0, MOST_SHOWN);
  return html`<h1>Lab desk</h1>
    <div class="row">
      <p class="soft">${tickets.length} tickets, newest first.</p>
      ${faultSwitch('labdesk', 'The lab desk', fault)}
    </div>
    ${changes}
    ${
      shown.length === 0
        ? html`<p class="soft">No ticket yet.</p>`
        : html`<div class="scroll" tabindex="0" role="region" aria-label="Tickets">
            <table class="wide">
              <tr>
                ${['No.', 'Subject', 'Severity', 'Place', 'Reporter', 'Call back', 'Files', 'Body'].map(each => html`<th>${each}</th>`)}
              </tr>
              ${shown.map(
                ({ number, values, attachments }) =>
                  html`<tr>
                    <td>${number}</td>
                    <td>${values.subject}</td>
                    <td>${values.severity}</td>
                    <td>${values.place}</td>
                    <td>${values.reporter}</td>
                    <td>${values.call_back}</td>
                    <td>${attachments.map(each => html`<a href="/labdesk/files/${each.id}">${each.name}</a> `)}</td>
                    <td>${values.body}</td>
                  </tr>`,
              )}
            </table>
          </div>`
    }`;
}
