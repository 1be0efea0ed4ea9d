import {
  DraftInput,
  LookInput,
  RehomeInput,
  RouteInput,
  RunInput,
  SelectionInput,
  SendRecordedInput,
  type FilesView,
  type RefusalView,
  type ResponsesView,
  type RouteView,
  type VersionView,
  ShownDraftInput,
} from '@grammata/contract';
import { doubtIn, membersOf } from '@grammata/core/response';
import { operationsUsed } from '@grammata/core/route';
import { parseJson } from '@grammata/core/submission';
import { operationsNear } from '@grammata/core/target';
import { Problem } from '@grammata/core/transform';
import { Router } from 'express';
import {
  actorOf,
  askLookUp,
  copyRoute,
  drawRoute,
  goLive,
  pause,
  previewRecorded,
  proposeRehome,
  rehome,
  removeRoute,
  saveDraft,
  sendRecorded,
  trialParts,
  tryOut,
  draftMustBeAsShown,
} from '../acts';
import { iso } from '../clock';
import { filesNeeded, overviewOf } from '../delivery';
import { isFileFault } from '../files';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import { formView } from './forms';
import { checked, textFrom } from './validate';
import { routeSummary, routeTarget } from './views';

/** How many of the newest submissions, and how many of their files, are looked at before a route goes live. */
const NEWEST = 40;
/** Newest responses of a call that are looked at for what tells a success. */
const MOST_RESPONSES = 500;
const MOST_FILES = 5;
/** Versions that are told of. */
const MOST_VERSIONS = 50;

/** Routes: their drafts, going live, pausing. */
export function routesApi(services: Services): Router {
  const { store, deliveries, contents } = services;
  const router = Router();
  const routeOr404 = (id: string): RouteRow => {
    const row = store.routes.byId(id);
    if (!row) throw notFound('route');
    return row;
  };
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
      targets: targets.map(each =>
        routeTarget(services, each, operationsNear(each.operations, operationsUsed(row.draft, each.id))),
      ),
      trial: row.trial,
    };
  };

  router.get(
    '/routes',
    (_request, response) => void response.json(store.routes.all().map(row => routeSummary(services, row))),
  );

  router.post('/routes', (request, response) => {
    const row = drawRoute(services, actorOf(response), checked(RouteInput, request.body));
    response.status(201).json(view(row));
  });

  router.get('/routes/:id', (request, response) => void response.json(view(routeOr404(request.params.id))));

  router.put('/routes/:id/draft', (request, response) => {
    const row = routeOr404(request.params.id);
    const saved = saveDraft(services, actorOf(response), row, checked(DraftInput, request.body));
    response.json(view(saved));
  });

  /** A draft as it would hang on another form or target; and hanging it there. */
  router.post('/routes/:id/rehome', (request, response) => {
    response.json(proposeRehome(services, routeOr404(request.params.id), checked(RehomeInput, request.body)));
  });

  router.post('/routes/:id/rehome/take', (request, response) => {
    const row = routeOr404(request.params.id);
    response.json(view(rehome(services, actorOf(response), row, checked(RehomeInput, request.body))));
  });

  /** What was live, the newest first. */
  router.get('/routes/:id/versions', (request, response) => {
    const { id } = routeOr404(request.params.id);
    const view = store.routes
      .versions(id, MOST_VERSIONS)
      .map(({ number, by, createdAt, formId, definition }): VersionView => {
        const formName = store.forms.named(formId)?.name ?? 'a form that was removed';
        return { number, by, at: iso(createdAt), formId, formName, definition };
      });
    response.json(view);
  });

  router.post('/routes/:id/copy', (request, response) => {
    const row = copyRoute(services, actorOf(response), routeOr404(request.params.id));
    response.status(201).json(view(row));
  });

  router.post('/routes/:id/live', (request, response) => {
    const row = routeOr404(request.params.id);
    draftMustBeAsShown(row, checked(ShownDraftInput, request.body ?? {}));
    goLive(services, actorOf(response), row);
    response.json(view(routeOr404(row.id)));
  });

  router.post('/routes/:id/pause', (request, response) => {
    const row = routeOr404(request.params.id);
    pause(services, actorOf(response), row);
    response.json(view(routeOr404(row.id)));
  });

  /** Runs the draft for one sample: really, on the side to try things on, or looking up only. */
  router.post('/routes/:id/run', async (request, response) => {
    const row = routeOr404(request.params.id);
    response.json(await tryOut(services, actorOf(response), row, checked(RunInput, request.body)));
  });

  /** What sending recorded submissions would do; and doing so, in the background. */
  router.post('/routes/:id/look', async (request, response) => {
    const row = routeOr404(request.params.id);
    response.json(await askLookUp(services, actorOf(response), row, checked(LookInput, request.body)));
  });

  router.post('/routes/:id/recorded/preview', async (request, response) => {
    const selection = checked(SelectionInput, request.body);
    response.json(await previewRecorded(services, actorOf(response), request.params.id, selection));
  });

  router.post('/routes/:id/recorded', (request, response) => {
    const input = checked(SendRecordedInput, request.body);
    response.status(202).json(sendRecorded(services, actorOf(response), request.params.id, input));
  });

  /** What the draft would make and change over the newest samples; only look-ups are sent. */
  router.post('/routes/:id/overview', async (request, response) => {
    const row = routeOr404(request.params.id);
    draftMustBeAsShown(row, checked(ShownDraftInput, request.body ?? {}));
    response.json(await overviewOf(trialParts(services), row.draft, store.forms.samples(row.formId, 200)));
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

  /** What a call was answered, as far as it may tell whether that was a success. */
  router.get('/routes/:id/responses', (request, response) => {
    const { id } = routeOr404(request.params.id);
    const texts = store.deliveries.responses(id, textFrom(request.query.call) ?? '', MOST_RESPONSES);
    const read = texts.flatMap(text => parseJson(text) ?? []);
    const doubts = new Map<string, number>();
    for (const doubt of texts.map(doubtIn)) if (doubt !== null) doubts.set(doubt, (doubts.get(doubt) ?? 0) + 1);
    const view: ResponsesView = {
      total: texts.length,
      members: membersOf(read),
      doubts: [...doubts].map(([message, count]) => ({ message, count })).slice(0, 5),
    };
    response.json(view);
  });

  router.delete('/routes/:id', (request, response) => {
    const row = routeOr404(request.params.id);
    removeRoute(services, actorOf(response), row);
    response.status(204).end();
  });
  return router;
}
