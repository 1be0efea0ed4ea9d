import type { DeskView, PracticeView, StripView, ThingsView } from '@grammata/contract';
import { parseJson } from '@grammata/core/submission';
import { Router } from 'express';
import { iso, now } from '../clock';
import { changeBehind } from '../drift';
import { isFault } from '../outward';
import { paceView } from './pace';
import type { Services } from '../services';
import { arrivalSummary, formNames, routeSummary } from './views';

const DAY = 24 * 3600 * 1000;
const DAYS_SHOWN = 28;
const TROUBLES_SHOWN = 6;

/** The overview, and where the practice yard is. */
export function deskApi(services: Services): Router {
  const { store, config, outward } = services;
  const router = Router();

  /** Names of everything that can be gone to, and nothing else of it. */
  router.get('/things', (_request, response) => {
    const view: ThingsView = {
      intakes: store.intakes.all().map(({ id, name }) => ({ id, name })),
      forms: store.forms
        .heads()
        .map(({ form, intakeName }) => ({ id: form.id, name: form.name, ownName: form.ownName, intakeName })),
      routes: store.routes.all().map(({ id, draft }) => ({ id, name: draft.name })),
      targets: store.targets.all().map(({ id, name }) => ({ id, name })),
    };
    response.json(view);
  });

  router.get('/strip', (_request, response) => {
    const [last] = store.arrivals.list({ limit: 1 }).map(row => arrivalSummary(row, formNames(services)));
    const view: StripView = {
      listening: store.intakes.all().filter(each => each.state === 'open').length,
      lastArrival: last ? { at: last.receivedAt, formName: last.formName, arrivalId: last.id } : null,
      waiting: store.deliveries.countIn(['waiting', 'sending']),
      troubled: store.deliveries.countIn(['held', 'dead']),
      changes: store.changes.openCount(),
      storage: services.health.trouble,
    };
    response.json(view);
  });

  router.get('/desk', (_request, response) => {
    const today = Math.floor(now() / DAY) * DAY;
    const since = today - (DAYS_SHOWN - 1) * DAY;
    const known = new Map(store.deliveries.perDay(since).map(each => [each.day, each]));
    const days = Array.from({ length: DAYS_SHOWN }, (_, index) => iso(since + index * DAY).slice(0, 10));
    const names = formNames(services);
    const unreadable = store.arrivals.unreadable();
    const view: DeskView = {
      arrivalsToday: store.arrivals.countSince(today),
      counts: store.deliveries.counts(),
      troubles: store.deliveries.reasons(TROUBLES_SHOWN).map(each => {
        const route = store.routes.byId(each.routeId);
        const change = route && each.state === 'held' ? changeBehind(services, route, each.reason) : null;
        return { ...each, routeName: route?.draft.name ?? '', changeId: change?.id ?? null };
      }),
      days: days.map(day => known.get(day) ?? { day, delivered: 0, held: 0, failed: 0 }),
      routes: store.routes.all().map(row => routeSummary(services, row)),
      strays: services.strays.count,
      changes: store.changes.openCount(),
      unread: unreadable.count,
      lastUnread: unreadable.newest ? arrivalSummary(unreadable.newest, names) : null,
      storage: services.health.trouble,
      parked: store.targets.all().flatMap(({ id, name }) => {
        const parked = services.breakers.parked(id);
        return parked ? [{ targetId: id, name, until: iso(parked.until), reason: parked.reason }] : [];
      }),
    };
    response.json(view);
  });

  router.get('/pace', (_request, response) => {
    response.json(paceView(services));
  });

  router.get('/practice', async (_request, response) => {
    if (!config.practiceUrl) return void response.json({ yard: null } satisfies PracticeView);
    const answer = await outward.send({ method: 'GET', url: `${config.practiceUrl}/parts`, headers: {} });
    const yard = isFault(answer) ? null : ((parseJson(answer.body) ?? null) as PracticeView['yard']);
    response.json({ yard } satisfies PracticeView);
  });
  return router;
}
