import { ResendInput, type DeliveryPage, type DeliveryState, type DeliveryView } from '@grammata/contract';
import { foresee, type Done } from '@grammata/core/perform';
import { Router } from 'express';
import { iso, isoOrNull } from '../clock';
import { callLabel } from '../delivery';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { DeliveryFilter, DeliveryRow } from '../store';
import { checked, numberFrom, textFrom } from './validate';
import { deliverySummary } from './views';

const states: DeliveryState[] = ['waiting', 'sending', 'delivered', 'held', 'dead'];
const stateFrom = (value: unknown) => states.find(each => each === value);

/** What was sent, waits, or could not be sent; and sending it again. */
export function deliveriesApi(services: Services): Router {
  const { store, live, due, deliveries } = services;
  const router = Router();

  router.get('/deliveries', (request, response) => {
    const { query } = request;
    const filter: DeliveryFilter = {
      state: stateFrom(query.state),
      routeId: textFrom(query.routeId),
      search: textFrom(query.search),
    };
    const { rows, total } = store.deliveries.page(
      filter,
      numberFrom(query.offset, 0, 1e9),
      numberFrom(query.limit, 100, 500),
    );
    const page: DeliveryPage = {
      deliveries: rows.map(row => deliverySummary(services, row, row.version)),
      total,
      counts: store.deliveries.counts({ routeId: filter.routeId, search: filter.search }),
    };
    response.json(page);
  });

  router.get('/deliveries/:id', (request, response) => {
    const row = store.deliveries.byId(request.params.id);
    if (!row) throw notFound('delivery');
    const { route, data, problems } = deliveries.preparation.prepare(row);
    const done = store.deliveries.doneOf(row.id);
    const ahead = (earlier: Done[]) =>
      route && data ? foresee(route.steps, data, route.context, earlier) : { requests: [], problems: [] };
    const calls = store.routes.version(row.versionId)?.definition.calls ?? [];
    const [first] = calls;
    const view: DeliveryView = {
      ...deliverySummary(services, row),
      idempotencyKey: row.idempotencyKey,
      arrivalId: store.arrivals.submission(row.submissionId)?.arrivalId ?? '',
      targetName: first ? callLabel(first, store).targetName : 'a target that was removed',
      planned: ahead([])
        .requests.filter(each => each.purpose === 'create')
        .map(({ callId, planned }) => ({ callId, plan: planned.request })),
      calls: calls.map(call => ({ id: call.id, ...callLabel(call, store) })),
      done,
      problems: [...problems, ...ahead(done).problems].map(({ code, message }) => ({ code, message })),
      attemptList: store.deliveries
        .attemptsOf(row.id)
        .map(({ startedAt, deliveryId: _, ...attempt }) => ({ ...attempt, startedAt: iso(startedAt) })),
      tryUntil: isoOrNull(row.tryUntil),
      hours: store.routes.version(row.versionId)?.definition.terms.hours ?? 0,
    };
    response.json(view);
  });

  /** Sends again: what failed under its old key, what was delivered as a deliberate second delivery under a new one. */
  router.post('/deliveries/resend', (request, response) => {
    const { ids, mapping } = checked(ResendInput, request.body);
    const rows = ids.map(id => store.deliveries.byId(id)).filter(row => row !== undefined);
    const sent = rows.map(row => sendAgain(row, mapping)).filter(id => id !== null);
    deliveries.wake();
    response.json({ ids: sent });
  });

  function sendAgain(row: DeliveryRow, mapping: ResendInput['mapping']): string | null {
    if (row.state === 'waiting' || row.state === 'sending') return null;
    const versionId = (mapping === 'now' ? store.routes.latestVersion(row.routeId)?.id : undefined) ?? row.versionId;
    let id: string | null = row.id;
    if (row.state === 'delivered') {
      const { routeId, submissionId, about } = row;
      id =
        due.enqueue([
          { routeId, submissionId, versionId, about, run: store.deliveries.lastRun(routeId, submissionId) + 1 },
        ])[0]?.id ?? null;
    } else {
      store.deliveries.again(row, versionId);
    }
    if (id) live.publish({ type: 'delivery', routeId: row.routeId, deliveryId: id, state: 'waiting' });
    return id;
  }
  return router;
}
