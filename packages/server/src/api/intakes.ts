import { IntakeInput, SendInput, type ArrivalView, type StrayView } from '@grammata/contract';
import { raw, Router } from 'express';
import { request as send } from 'undici';
import { iso } from '../clock';
import type { Pins } from '@grammata/core/decode';
import { arrivalFromFile, LARGEST_UPLOAD, messageOf, readableEndings, redirectTo, typeOfFile } from '../intake';
import { nextTime } from '../timing';
import { fieldFault, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { ArrivalRow, IntakeRow } from '../store';
import { arrivalSummary, deliverySummary, formNames, intakeViews } from './views';
import { checked, numberFrom, textFrom } from './validate';

/** Submissions of one arrival that are sent along with it. */
const MOST_DECODED = 50;
/** Bytes up to which a document is sent along with its message. */
const MOST_SHOWN = 500_000;
/** Bytes up to which a message is read again to be looked at. */
const LARGEST_LOOKED = 20_000_000;

/** ms that the built-in sender waits for the intake's answer. */
const LONGEST_SEND = 30_000;
/** Deliveries of one arrival that are sent along with it. */
const MOST_DELIVERIES = 200;

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

  /** The input, where all of it can be used together. */
  function checkedIntake(body: unknown, before: IntakeRow | null): IntakeInput {
    const input = checked(IntakeInput, body);
    const reply = input.reply ?? before?.reply;
    if (reply === 'redirect' && redirectTo(input.replyText ?? before?.replyText ?? '') === null)
      throw fieldFault('replyText', 'Give the address to go to, with http:// or https://.');
    return input;
  }

  router.get('/intakes', (_request, response) => void response.json(intakeViews(services, store.intakes.all())));

  router.post('/intakes', (request, response) => {
    const row = store.intakes.create(storedIntake(checkedIntake(request.body, null), null));
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
    const before = intakeOr404(request.params.id);
    const input = checkedIntake({ name, ...request.body }, before);
    const row = store.intakes.update(before.id, storedIntake(input, before))!;
    services.feeds.schedule([row]);
    changed(row.id);
    response.json(intakeViews(services, [row])[0]);
  });

  router.delete('/intakes/:id', (request, response) => {
    const { id } = intakeOr404(request.params.id);
    const forms = store.forms.heads(id);
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
    const limit = numberFrom(request.query.limit, 50, 200);
    const rows = store.arrivals.list({ intakeId: id, before: textFrom(request.query.before), limit });
    const names = formNames(services);
    response.json(rows.map(row => arrivalSummary(row, names)));
  });

  /** The built-in sender: over HTTP to the intake's own address, so that it proves what it shows. */
  router.post('/intakes/:id/send', async (request, response) => {
    const intake = intakeOr404(request.params.id);
    const { method, contentType, body, query } = checked(SendInput, request.body);
    const address = request.socket.localAddress ?? '127.0.0.1';
    const host =
      address.includes(':') && !address.startsWith('::ffff:') ? `[${address}]` : address.replace('::ffff:', '');
    const url = `http://${host}:${request.socket.localPort}/in/${intake.slug}${query ? `?${query.replace(/^\?/, '')}` : ''}`;
    if (/[^\u0020-\u00ff\t]/.test(contentType))
      throw fieldFault('contentType', 'Give a media type such as application/json.');
    if (!URL.canParse(url)) throw fieldFault('query', 'Give the query as it stands in an address, such as site=AB-07.');
    const answer = await send(new URL(url), {
      method,
      headers: { host: new URL(config.publicUrl).host, ...(method === 'POST' ? { 'content-type': contentType } : {}) },
      body: method === 'POST' ? body : undefined,
      headersTimeout: LONGEST_SEND,
      bodyTimeout: LONGEST_SEND,
    }).catch((error: Error) => {
      throw new HttpProblem(502, 'The intake did not answer.', error.message);
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
    const pins = store.intakes.pinsOf(row.intakeId);
    const kept = store.arrivals.submissionsOf(row.id, MOST_DECODED);
    const text = row.body.toString('utf8');
    const view: ArrivalView = {
      ...arrivalSummary(row, formNames(services)),
      url: row.url,
      sender: row.sender,
      headers: row.headers,
      checked: row.checked,
      body: text.includes('\u0000') ? null : text,
      cut: row.cut,
      ...(await lookedAt(row, pins)),
      decoded: kept.map(each => ({ ...each.data, sampleId: each.id })),
      deliveries: store.deliveries.ofArrival(row.id, MOST_DELIVERIES).map(each => deliverySummary(services, each)),
    };
    response.json(view);
  });

  /** How a message is read, made afresh; one that can't be read in time is shown as it came. */
  async function lookedAt(
    row: ArrivalRow,
    pins: Pins,
  ): Promise<Pick<ArrivalView, 'document' | 'media' | 'envelope' | 'runnersUp' | 'notes'>> {
    const nothing = { document: null, media: null, envelope: null, runnersUp: [], notes: [] };
    // What was set aside is not read again by looking at it.
    if (row.cut || row.ended || row.state === 'reading' || row.size > LARGEST_LOOKED) return nothing;
    try {
      return await services.decoders.look(messageOf(row, services.bodies), row.size, pins, MOST_SHOWN);
    } catch (error) {
      return { ...nothing, notes: [{ code: 'media.failed', message: (error as Error).message }] };
    }
  }

  /** Has a message read once more that could not be read. */
  router.post('/arrivals/:id/read', (request, response) => {
    const row = store.arrivals.headOf(request.params.id) ?? raise('arrival');
    if (!store.arrivals.readAgain(row.id))
      throw new HttpProblem(409, 'Only a message that could not be read is read again.');
    services.reader.wake();
    live.publish({ type: 'arrival', intakeId: row.intakeId, arrivalId: row.id });
    response.status(202).json(arrivalSummary(store.arrivals.headOf(row.id)!, formNames(services)));
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

function raise(what: string): never {
  throw notFound(what);
}
