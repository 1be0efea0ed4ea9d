import { ResendInput, type DeliveryPage, type DeliveryState, type DeliveryView } from '@grammata/contract';
import { foresee, type Done } from '@grammata/core/perform';
import { Router } from 'express';
import { iso, isoOrNull } from '../clock';
import { actorOf, sendAgain, sendAlikeAgain } from '../acts';
import { callLabel, endOfTries } from '../delivery';
import { notFound } from '../problems';
import type { Services } from '../services';
import { MOST_SEARCHED, wordsIn, type DeliveryFilter } from '../store';
import { checked, numberFrom, textFrom, timeFrom } from './validate';
import { deliverySummary } from './views';

const states: DeliveryState[] = ['waiting', 'sending', 'delivered', 'held', 'dead'];
const stateFrom = (value: unknown) => states.find(each => each === value);

/** What was sent, waits, or could not be sent; and sending it again. */
export function deliveriesApi(services: Services): Router {
  const { store, deliveries } = services;
  const router = Router();

  router.get('/deliveries', (request, response) => {
    const { query } = request;
    const search = textFrom(query.search);
    const found = wordsIn(search).length > 0 ? store.newestThatSay(search!) : null;
    const held = found && store.deliveries.holding(found.ids, search!);
    const filter: DeliveryFilter = {
      state: stateFrom(query.state),
      routeId: textFrom(query.routeId),
      targetId: textFrom(query.targetId),
      arrivalId: textFrom(query.arrivalId),
      since: timeFrom(query.since, 'since'),
      until: timeFrom(query.until, 'until'),
      ...(held && { ids: held.ids }),
    };
    const upTo = textFrom(query.upTo);
    const listed = { ...filter, ...(upTo && { upTo }) };
    const { rows, total } = store.deliveries.page(
      listed,
      numberFrom(query.offset, 0, 1e9),
      numberFrom(query.limit, 100, 500),
    );
    const page: DeliveryPage = {
      deliveries: rows.map(row => deliverySummary(services, row, row.version)),
      total,
      newest: store.deliveries.newest(),
      newer: upTo ? store.deliveries.countOf({ ...filter, after: upTo }) : 0,
      counts: store.deliveries.counts(listed),
      searched: found?.searched ?? (held?.isAll === false ? MOST_SEARCHED : null),
    };
    response.json(page);
  });

  router.get('/deliveries/:id', (request, response) => {
    const row = store.deliveries.byId(request.params.id);
    if (!row) throw notFound('delivery');
    const { route, data, problems } = deliveries.preparation.prepare(row);
    const done = store.deliveries.doneOf(row.id);
    const ahead = (earlier: Done[]) =>
      route && data ? foresee(route.stages, data, route.context, earlier) : { requests: [], problems: [] };
    const definition = store.routes.version(row.versionId)?.definition;
    const calls = definition?.calls ?? [];
    const hours = definition?.terms.hours ?? 0;
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
      tryUntil: isoOrNull(endOfTries(row, hours)),
      hours,
    };
    response.json(view);
  });

  router.post('/deliveries/resend', async (request, response) => {
    const input = checked(ResendInput, request.body);
    const { filter } = input;
    const actor = actorOf(response);
    if (filter)
      return void response.status(202).json({ ids: [], work: sendAlikeAgain(services, actor, filter, input).id });
    response.json({ ids: await sendAgain(services, actor, input), work: null });
  });
  return router;
}
