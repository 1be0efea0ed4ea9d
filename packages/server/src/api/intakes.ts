import { IntakeInput, SendInput, type ArrivalView, type StrayView } from '@grammata/contract';
import { Router } from 'express';
import { actorOf, changeIntake, openIntake, readAgain, removeIntake, settingsMustBeAsShown, takeUpload } from '../acts';
import { maskedIn } from '../access';
import { iso } from '../clock';
import { isUnpinned, type Pins, type Way } from '@grammata/core/decode';
import { messageOf } from '../intake';
import { fieldFault, notFound } from '../problems';
import type { Services } from '../services';
import { FEED, isSameWay, type ArrivalRow } from '../store';
import { ownAddress, sendToIntake } from './ownAddress';
import { arrivalSummary, deliverySummary, formNames, intakeViews } from './views';
import { checked, numberFrom, textFrom } from './validate';

/** Submissions of one arrival that are sent along with it. */
const MOST_DECODED = 50;
/** Bytes up to which a document is sent along with its message. */
const MOST_SHOWN = 500_000;
/** Bytes up to which a message is read again to be looked at. */
const LARGEST_LOOKED = 20_000_000;

/** Deliveries of one arrival that are sent along with it. */
const MOST_DELIVERIES = 200;

/** Intakes, what arrived at them, and requests that missed them. */
export function intakesApi(services: Services): Router {
  const { store, live } = services;
  const router = Router();
  const intakeOr404 = (id: string) => store.intakes.byId(id) ?? raise('intake');

  router.get('/intakes', (_request, response) => void response.json(intakeViews(services, store.intakes.all())));

  router.post('/intakes', (request, response) => {
    const row = openIntake(services, actorOf(response), checked(IntakeInput, request.body));
    response.status(201).json(intakeViews(services, [row])[0]);
  });

  router.get(
    '/intakes/:id',
    (request, response) => void response.json(intakeViews(services, [intakeOr404(request.params.id)])[0]),
  );

  router.patch('/intakes/:id', (request, response) => {
    const before = intakeOr404(request.params.id);
    const { shown, ...given } = (request.body ?? {}) as { shown?: unknown };
    settingsMustBeAsShown(intakeViews(services, [before])[0]!, shown);
    const input = checked(IntakeInput, { name: before.name, ...given });
    const row = changeIntake(services, actorOf(response), before, input);
    response.json(intakeViews(services, [row])[0]);
  });

  router.delete('/intakes/:id', async (request, response) => {
    await removeIntake(services, actorOf(response), intakeOr404(request.params.id));
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
    const url = `/in/${intake.slug}${query ? `?${query.replace(/^\?/, '')}` : ''}`;
    if (/[^\u0020-\u00ff\t]/.test(contentType))
      throw fieldFault('contentType', 'Enter a media type such as application/json.');
    if (!URL.canParse(url, ownAddress(request))) throw fieldFault('query', 'Enter a query string such as site=AB-07.');
    const headers = method === 'POST' ? ([['content-type', contentType]] as const) : [];
    response.json(await sendToIntake(services, request, { method, url, headers, body }));
  });

  /** A file of past submissions: they become samples and are not delivered. */
  router.post('/intakes/:id/upload', async (request, response) => {
    const intake = intakeOr404(request.params.id);
    const name = textFrom(request.query.name) ?? 'file';
    const arrival = await takeUpload(services, actorOf(response), intake, name, request);
    response.status(202).json({ id: arrival.id });
  });

  router.get('/arrivals/:id', async (request, response) => {
    const row = store.arrivals.byId(request.params.id) ?? raise('arrival');
    const pins = store.intakes.pinsOf(row.intakeId);
    const kept = store.arrivals.submissionsOf(row.id, MOST_DECODED);
    const body = store.arrivals.bodyOf(row.id);
    const text = body.toString('utf8');
    const looked = await lookedAt(row, body, pins);
    // A feed may repeat what it was shown; what it holds is used as it is.
    const mask = row.method === FEED ? services.vault.mask : (shown: string) => shown;
    const view: ArrivalView = {
      ...arrivalSummary(row, formNames(services)),
      url: row.url,
      sender: row.sender,
      headers: row.headers,
      checked: row.checked,
      body: text.includes('\u0000') ? null : mask(text),
      cut: row.cut,
      ...looked,
      document: maskedIn(looked.document, mask),
      shared: store.arrivals.sharing(row.id),
      decoded: kept.map(({ id, data }) => ({
        ...data,
        fields: data.fields.map(each => ({ ...each, value: maskedIn(each.value, mask) })),
        sampleId: id,
      })),
      deliveries: store.deliveries.ofArrival(row.id, MOST_DELIVERIES).map(each => deliverySummary(services, each)),
    };
    response.json(view);
  });

  /** How a message is read, made afresh; one that can't be read in time is shown as it came. */
  async function lookedAt(
    row: ArrivalRow,
    body: Buffer,
    pins: Pins,
  ): Promise<Pick<ArrivalView, 'document' | 'media' | 'envelope' | 'runnersUp' | 'notes' | 'before'>> {
    const nothing = { document: null, media: null, envelope: null, runnersUp: [], notes: [], before: null };
    // What was set aside is not read again by looking at it.
    if (row.cut || row.ended || row.state === 'reading' || row.size > LARGEST_LOOKED) return nothing;
    try {
      const message = {
        ...messageOf({ ...row, body }, services.bodies),
        known: { ways: store.arrivals.waysOf(row.intakeId), files: store.forms.questions.filesAsked(row.intakeId) },
      };
      const read = await services.decoders.look(message, row.size, pins, MOST_SHOWN);
      return { ...read, before: read.envelope?.isSure && isUnpinned(pins) ? otherBefore(row, read.envelope) : null };
    } catch (error) {
      return { ...nothing, notes: [{ code: 'media.failed', message: (error as Error).message }] };
    }
  }

  /** How the last message before one was read, where none before it was read as that one is. */
  function otherBefore({ intakeId, receivedAt }: ArrivalRow, envelope: Way): ArrivalView['before'] {
    const ways = store.arrivals.waysOf(intakeId, receivedAt);
    return ways.some(each => isSameWay(each, envelope)) ? null : (ways[0] ?? null);
  }

  /** Has a message read once more that could not be read. */
  router.post('/arrivals/:id/read', async (request, response) => {
    const row = store.arrivals.headOf(request.params.id) ?? raise('arrival');
    await readAgain(services, actorOf(response), row);
    response.status(202).json(arrivalSummary(store.arrivals.headOf(row.id)!, formNames(services)));
  });

  router.get('/strays', (_request, response) => {
    const views = services.strays.list().map((row): StrayView => ({
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
    services.strays.forget();
    live.publish({ type: 'stray' });
    response.status(204).end();
  });
  return router;
}

function raise(what: string): never {
  throw notFound(what);
}
