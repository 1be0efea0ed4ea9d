import {
  DraftInput,
  RouteInput,
  RunInput,
  SelectionInput,
  SendRecordedInput,
  type FilesView,
  type RefusalView,
  type RouteView,
} from '@grammata/contract';
import { everything } from '@grammata/core/condition';
import { identityFaults, newLine, ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import { writable } from '@grammata/core/target';
import { Problem } from '@grammata/core/transform';
import { Router } from 'express';
import { actorOf, goLive, pause, previewRecorded, sendRecorded } from '../acts';
import { iso, now } from '../clock';
import { filesNeeded, runDraft } from '../delivery';
import { isFileFault } from '../files';
import { newId } from '../ids';
import { fieldFaults, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import { formView } from './forms';
import { checked } from './validate';
import { routeSummary, targetView } from './views';

/** How many of the newest submissions, and how many of their files, are looked at before a route goes live. */
const NEWEST = 40;
const MOST_FILES = 5;

/** Routes: their drafts, going live, pausing. */
export function routesApi(services: Services): Router {
  const { store, live, deliveries, courier, contents } = services;
  const router = Router();
  const routeOr404 = (id: string): RouteRow => {
    const row = store.routes.byId(id);
    if (!row) throw notFound('route');
    return row;
  };
  const changed = (id: string) => live.publish({ type: 'changed', what: 'route', id });
  const view = (row: RouteRow): RouteView => {
    const form = store.forms.byId(row.formId);
    if (!form) throw notFound('form of this route');
    const targets = [...new Set(row.draft.calls.map(call => call.targetId))].flatMap(
      each => store.targets.byId(each) ?? [],
    );
    return {
      ...routeSummary(services, row),
      draft: row.draft,
      revision: row.revision,
      form: formView(form),
      targets: targets.map(each => targetView(services, each)),
      trial: row.trial,
    };
  };

  router.get(
    '/routes',
    (_request, response) => void response.json(store.routes.all().map(row => routeSummary(services, row))),
  );

  router.post('/routes', (request, response) => {
    const { name, formId, targetId, operationId } = checked(RouteInput, request.body);
    const form = store.forms.byId(formId);
    const operation = store.targets.byId(targetId)?.operations.find(each => each.id === operationId);
    const errors = [
      ...(form ? [] : [{ field: 'formId', message: 'Pick a form.' }]),
      ...(operation ? [] : [{ field: 'operationId', message: 'Pick what the target is to do.' }]),
    ];
    if (!form || !operation) throw fieldFaults(errors);
    const lines = writable(operation).map(field => newLine(newId(), field.key));
    const draft: RouteDefinition = {
      format: ROUTE_FORMAT,
      name,
      condition: everything,
      calls: [{ id: newId(), targetId, operationId, lines }],
      terms: usualTerms,
    };
    const row = store.routes.create(formId, draft);
    store.forms.update(formId, { state: 'adopted' });
    changed(row.id);
    response.status(201).json(view(row));
  });

  router.get('/routes/:id', (request, response) => void response.json(view(routeOr404(request.params.id))));

  router.put('/routes/:id/draft', (request, response) => {
    const row = routeOr404(request.params.id);
    const draft = checked(DraftInput, request.body);
    const faults = identityFaults(draft.definition);
    if (faults.length > 0) throw fieldFaults(faults.map(({ pointer, message }) => ({ field: pointer, message })));
    const saved = store.routes.saveDraft(row.id, draft);
    if (!saved)
      throw new HttpProblem(
        409,
        'This route was edited elsewhere meanwhile.',
        'Load it again to see that edit; yours was not stored.',
      );
    changed(row.id);
    response.json(view(saved));
  });

  router.post('/routes/:id/live', (request, response) => {
    const row = routeOr404(request.params.id);
    goLive(services, actorOf(response), row);
    changed(row.id);
    response.json(view(routeOr404(row.id)));
  });

  router.post('/routes/:id/pause', (request, response) => {
    const row = routeOr404(request.params.id);
    pause(services, actorOf(response), row);
    changed(row.id);
    response.json(view(routeOr404(row.id)));
  });

  /** Runs the draft for one sample: really, on the side to try things on, or looking up only. */
  router.post('/routes/:id/run', async (request, response) => {
    const row = routeOr404(request.params.id);
    const { sampleId, send } = checked(RunInput, request.body);
    const data = store.arrivals.submission(sampleId)?.data ?? store.forms.variant(sampleId)?.data;
    if (!data) throw notFound('sample');
    const ran = await runDraft(
      { preparation: deliveries.preparation, courier },
      row.draft,
      { submissionId: sampleId, data },
      send,
    );
    if (send) {
      store.routes.keepTrial(row.id, { ...ran, sampleId, at: iso(now()), revision: row.revision });
      changed(row.id);
    }
    response.json(ran);
  });

  /** What sending recorded submissions would do; and doing so, in the background. */
  router.post('/routes/:id/recorded/preview', async (request, response) => {
    const selection = checked(SelectionInput, request.body);
    response.json(await previewRecorded(services, actorOf(response), request.params.id, selection));
  });

  router.post('/routes/:id/recorded', (request, response) => {
    const input = checked(SendRecordedInput, request.body);
    response.status(202).json(sendRecorded(services, actorOf(response), request.params.id, input));
  });

  /** Whether the files of the newest submissions that go along can be had. */
  router.get('/routes/:id/files', async (request, response) => {
    const row = routeOr404(request.params.id);
    const route = deliveries.preparation.route(row.draft, 'live');
    const view: FilesView = { looked: 0, faults: [] };
    if (route instanceof Problem) return void response.json(view);
    for (const { id, data } of store.forms.samples(row.formId, NEWEST)) {
      for (const index of filesNeeded(route, data)) {
        if (view.looked >= MOST_FILES) break;
        view.looked += 1;
        const got = await contents.get(id, data, index);
        if (isFileFault(got)) view.faults.push({ sampleId: id, message: got.message });
        else got.remove();
      }
    }
    response.json(view);
  });

  /** What targets had against single values, beside the lines they are about. */
  router.get('/routes/:id/refusals', (request, response) => {
    const { id } = routeOr404(request.params.id);
    const refusals = store.deliveries
      .refusals(id, 200)
      .flatMap(({ id: deliveryId, submissionId, callId, complaints, startedAt }) =>
        complaints.flatMap(({ lineId, message }): RefusalView[] =>
          lineId === null ? [] : [{ deliveryId, sampleId: submissionId, callId, lineId, message, at: iso(startedAt) }],
        ),
      );
    response.json(refusals);
  });

  router.delete('/routes/:id', (request, response) => {
    const row = routeOr404(request.params.id);
    if (row.state === 'live') throw new HttpProblem(409, 'A live route can’t be removed.', 'Pause it first.');
    store.routes.remove(row.id);
    changed(row.id);
    response.status(204).end();
  });
  return router;
}
