import { IntakeInput, SendInput, type ArrivalView, type StrayView } from '@grammata/contract';
import { raw, Router } from 'express';
import { request as send } from 'undici';
import { iso } from '../clock';
import { arrivalFromFile, decodeStored, LARGEST_UPLOAD, nextTime, readableEndings, typeOfFile } from '../intake';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { IntakeRow } from '../store';
import { arrivalSummary, deliverySummary, intakeViews } from './views';
import { checked, numberFrom, textFrom } from './validate';

/** Submissions of one arrival that are sent along with it. */
const MOST_DECODED = 50;
/** Bytes up to which a document is sent along with its message. */
const MOST_SHOWN = 500_000;

/** Intakes, what arrived at them, and requests that missed them. */
export function intakesApi(services: Services): Router {
  const { store, live, config, vault } = services;
  const router = Router();
  const intakeOr404 = (id: string) => store.intakes.byId(id) ?? raise('intake');
  const changed = (id: string) => live.publish({ type: 'changed', what: 'intake', id });

  /** The row's values for an input: secrets sealed, those left out kept. */
  const storedIntake = ({ feed, fileAccess, ...input }: IntakeInput, before: IntakeRow | null) => ({
    ...storedProof(input, before),
    ...storedFileAccess(fileAccess, before),
    ...storedFeed(feed, before),
  });

  const storedProof = (
    { verification, ...rest }: Omit<IntakeInput, 'feed' | 'fileAccess'>,
    before: IntakeRow | null,
  ) => {
    if (verification === undefined) return rest;
    if (verification === null) return { ...rest, verification: null, secrets: null };
    const { secrets, ...rule } = verification;
    const given = secrets?.filter(Boolean) ?? [];
    if (given.length === 0 && !(before?.secrets && before.verification?.kind === rule.kind))
      throw fieldFault('verification.secrets', 'Give the secret that the builder signs or sends.');
    if (rule.kind !== 'standard' && rule.name.trim() === '')
      throw fieldFault(
        'verification.name',
        rule.kind === 'basic' ? 'Give the user’s name.' : 'Give the name of the header or value.',
      );
    if (rule.kind === 'hmac' && rule.signed !== 'body' && rule.timestampHeader === '')
      throw fieldFault('verification.timestampHeader', 'Give the header that holds the timestamp.');
    return { ...rest, verification: rule, ...(given.length > 0 ? { secrets: vault.seal(JSON.stringify(given)) } : {}) };
  };

  const storedFileAccess = (access: IntakeInput['fileAccess'], before: IntakeRow | null): Partial<IntakeRow> => {
    if (access === undefined) return {};
    if (access === null) return { fileAccess: null, fileSecret: null };
    const { host, kind, name = '', secret } = access;
    if (kind !== 'bearer' && name === '') throw fieldFault('fileAccess.name', 'Give the user, header or parameter.');
    // A secret is bound to the host it was given for.
    if (!secret && !(before?.fileSecret && before.fileAccess?.host === host))
      throw fieldFault('fileAccess.secret', 'Give the token, password or key for this host.');
    const auth = kind === 'bearer' ? { kind } : kind === 'basic' ? { kind, user: name } : { kind, name };
    return { fileAccess: { host, auth }, ...(secret && { fileSecret: vault.seal(secret) }) };
  };

  const storedFeed = (feed: IntakeInput['feed'], before: IntakeRow | null): Partial<IntakeRow> => {
    if (feed === undefined) return {};
    if (feed === null) return { feed: null, feedSecret: null, feedReading: null };
    const { secret, ...rule } = feed;
    const fault = scheduleFault(rule.every);
    if (fault) throw fieldFault('feed.every', fault);
    if (rule.paging === 'cursor' && rule.cursorAt === '')
      throw fieldFault('feed.cursorAt', 'Give the place of the next cursor in an answer, such as /next.');
    if ((rule.paging === 'cursor' || rule.paging === 'page') && rule.parameter.trim() === '')
      throw fieldFault('feed.parameter', 'Give the query parameter that asks for the next page.');
    if ((rule.auth === 'basic' || rule.auth === 'header') && rule.name.trim() === '')
      throw fieldFault('feed.name', rule.auth === 'basic' ? 'Give the user’s name.' : 'Give the name of the header.');
    // A secret is bound to the address it was given for: another address has to be given it anew.
    const isElsewhere = before?.feed ? new URL(before.feed.url).origin !== new URL(rule.url).origin : true;
    if (rule.auth !== 'none' && !secret && (isElsewhere || !before?.feedSecret))
      throw fieldFault('feed.secret', 'Give the token or password for this address.');
    return {
      feed: rule,
      ...(rule.auth === 'none' ? { feedSecret: null } : secret ? { feedSecret: vault.seal(secret) } : {}),
      ...(before?.feed?.url === rule.url && before.feed.paging === rule.paging ? {} : { feedReading: null }),
    };
  };

  router.get('/intakes', (_request, response) => void response.json(intakeViews(services, store.intakes.all())));

  router.post('/intakes', (request, response) => {
    const row = store.intakes.create(storedIntake(checked(IntakeInput, request.body), null));
    services.feeds.schedule([row]);
    changed(row.id);
    response.status(201).json(intakeViews(services, [row])[0]);
  });

  router.get(
    '/intakes/:id',
    (request, response) => void response.json(intakeViews(services, [intakeOr404(request.params.id)])[0]),
  );

  router.patch('/intakes/:id', (request, response) => {
    const { name } = intakeOr404(request.params.id);
    const input = checked(IntakeInput, { name, ...request.body });
    if (input.reply === 'redirect' && !/^https?:\/\/\S+$/.test(input.replyText ?? '')) {
      throw fieldFault('replyText', 'Give the address to go to, with http:// or https://.');
    }
    const row = store.intakes.update(request.params.id, storedIntake(input, intakeOr404(request.params.id)))!;
    services.feeds.schedule([row]);
    changed(row.id);
    response.json(intakeViews(services, [row])[0]);
  });

  router.delete('/intakes/:id', (request, response) => {
    const { id } = intakeOr404(request.params.id);
    const forms = store.forms.all().filter(each => each.form.intakeId === id);
    const route = store.routes.all().find(each => forms.some(({ form }) => form.id === each.formId));
    if (route)
      throw new HttpProblem(409, `The route “${route.draft.name}” hangs on this intake.`, 'Remove the route first.');
    services.feeds.forget(id);
    store.intakes.remove(id);
    changed(id);
    response.status(204).end();
  });

  router.get('/intakes/:id/arrivals', (request, response) => {
    const { id } = intakeOr404(request.params.id);
    const before = textFrom(request.query.before);
    const rows = store.arrivals.list({
      intakeId: id,
      before: before ? Date.parse(before) : undefined,
      limit: numberFrom(request.query.limit, 50, 200),
    });
    response.json(rows.map(row => arrivalSummary(services, row)));
  });

  /** The built-in sender: over HTTP to the intake's own address, so that it proves what it shows. */
  router.post('/intakes/:id/send', async (request, response) => {
    const intake = intakeOr404(request.params.id);
    const { method, contentType, body, query } = checked(SendInput, request.body);
    const address = request.socket.localAddress ?? '127.0.0.1';
    const host =
      address.includes(':') && !address.startsWith('::ffff:') ? `[${address}]` : address.replace('::ffff:', '');
    const url = `http://${host}:${request.socket.localPort}/in/${intake.slug}${query ? `?${query.replace(/^\?/, '')}` : ''}`;
    const answer = await send(url, {
      method,
      headers: { host: new URL(config.publicUrl).host, ...(method === 'POST' ? { 'content-type': contentType } : {}) },
      body: method === 'POST' ? body : undefined,
    });
    response.json({ status: answer.statusCode, body: await answer.body.text() });
  });

  /** A file of past submissions: they become samples and are not delivered. */
  router.post('/intakes/:id/upload', raw({ type: () => true, limit: LARGEST_UPLOAD }), (request, response) => {
    const intake = intakeOr404(request.params.id!);
    const name = textFrom(request.query.name) ?? 'file';
    const type = typeOfFile(name);
    if (!type)
      throw new HttpProblem(415, `“${name}” can’t be read.`, `Files ending in ${readableEndings.join(', ')} can.`);
    const body = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    if (body.length === 0) throw new HttpProblem(422, `“${name}” is empty.`);
    const arrival = arrivalFromFile(intake, name, type, body);
    store.arrivals.record([arrival]);
    services.reader.wake();
    live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
    response.status(202).json({ id: arrival.id });
  });

  router.get('/arrivals/:id', async (request, response) => {
    const row = store.arrivals.byId(request.params.id) ?? raise('arrival');
    const pins = store.intakes.byId(row.intakeId)?.pins ?? {};
    const decoded = row.cut ? null : await decodeStored(row, pins, services.bodies);
    const kept = store.arrivals.submissionsOf(row.id);
    const text = row.body.toString('utf8');
    const view: ArrivalView = {
      ...arrivalSummary(services, row),
      url: row.url,
      sender: row.sender,
      headers: row.headers,
      checked: row.checked,
      body: text.includes('\u0000') ? null : text,
      cut: row.cut,
      document: row.size > MOST_SHOWN && !row.aside ? null : (decoded?.document ?? null),
      media: decoded?.media ?? null,
      envelope: decoded?.envelope ?? null,
      runnersUp: decoded?.runnersUp ?? [],
      notes: decoded?.notes ?? [],
      decoded: kept.slice(0, MOST_DECODED).map(each => ({ ...each.data, sampleId: each.id })),
      deliveries: store.deliveries
        .ofSubmissions(kept.map(each => each.id))
        .map(each => deliverySummary(services, each)),
    };
    response.json(view);
  });

  router.get('/strays', (_request, response) => {
    const views = store.intakes.strays().map((row): StrayView => ({
      id: row.id,
      at: iso(row.at),
      method: row.method,
      url: row.url,
      sender: row.sender,
      size: row.size,
    }));
    response.json(views);
  });

  router.delete('/strays', (_request, response) => {
    store.intakes.forgetStrays();
    live.publish({ type: 'stray' });
    response.status(204).end();
  });
  return router;
}

/** Why a schedule can't be used; null when it can. */
function scheduleFault(every: string): string | null {
  const next = nextTime(every);
  if (next === null) return 'This schedule never falls due.';
  return next instanceof Date ? null : `This is no schedule: ${next.fault}`;
}

const fieldFault = (field: string, message: string) =>
  new HttpProblem(422, 'Some fields can’t be taken as they are.', undefined, [{ field, message }]);

function raise(what: string): never {
  throw notFound(what);
}
