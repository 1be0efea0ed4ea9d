import {
  BatchInput,
  AsBuilderInput,
  TakeAnswersInput,
  WalkInput,
  type AsBuilderView,
  type WalkView,
} from '@grammata/contract';
import { Router } from 'express';
import { LRUCache } from 'lru-cache';
import { actorOf, asItsBuilderSends, draftMustBeAsShown, startTrying, takeAnswers, tryBatch } from '../acts';
import type { Trying } from '../delivery';
import { newId } from '../ids';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import { sendToIntake } from './ownAddress';
import { checked } from './validate';

/** Drafts under way a request at a time, and ms after which one that nobody goes on with is forgotten. */
const MOST_UNDER_WAY = 50;
const FORGOTTEN_AFTER = 30 * 60_000;

/** Routes tried out before they are live: a request at a time, in batches, and from the intake on. */
export function tryingApi(services: Services): Router {
  const { store, vault } = services;
  const router = Router();
  const underWay = new LRUCache<string, { routeId: string; trying: Trying; stepping: boolean }>({
    max: MOST_UNDER_WAY,
    ttl: FORGOTTEN_AFTER,
    updateAgeOnGet: true,
  });
  const routeOr404 = (id: string): RouteRow => {
    const row = store.routes.byId(id);
    if (!row) throw notFound('route');
    return row;
  };
  const view = (id: string, trying: Trying): WalkView => ({ id, ...trying.view(), next: trying.next });

  router.post('/routes/:id/steps', (request, response) => {
    const row = routeOr404(request.params.id);
    const input = checked(WalkInput, request.body);
    draftMustBeAsShown(row, input);
    const trying = startTrying(services, actorOf(response), row, input.sampleId);
    const id = newId();
    underWay.set(id, { routeId: row.id, trying, stepping: false });
    response.status(201).json(view(id, trying));
  });

  /** Makes the next request. */
  router.post('/routes/:id/steps/:step', async (request, response) => {
    const known = underWay.get(request.params.step);
    if (known?.routeId !== routeOr404(request.params.id).id)
      throw new HttpProblem(404, 'This test is no longer running.', 'Start again.');
    // Two clicks are not two requests.
    if (known.stepping) throw new HttpProblem(409, 'This request is being sent.');
    known.stepping = true;
    try {
      await known.trying.step();
    } finally {
      known.stepping = false;
    }
    response.json(view(request.params.step, known.trying));
  });

  /** Tries many samples one after the other, in the background; the report of the last time. */
  router.post('/routes/:id/batch', (request, response) => {
    const row = routeOr404(request.params.id);
    const input = checked(BatchInput, request.body);
    draftMustBeAsShown(row, input);
    response.status(202).json(tryBatch(services, actorOf(response), row, input));
  });

  router.get('/routes/:id/batch', (request, response) => {
    response.json(store.proofs.batch(routeOr404(request.params.id).id));
  });

  /** Has a proof hold what the targets answered when it was tried. */
  router.post('/routes/:id/proofs/:proof/answers', (request, response) => {
    const route = routeOr404(request.params.id);
    takeAnswers(
      services,
      actorOf(response),
      route,
      request.params.proof,
      checked(TakeAnswersInput, request.body ?? {}),
    );
    response.status(204).end();
  });

  /** Sends a recorded sample to its intake once more, over HTTP as its builder does. */
  router.post('/samples/:id/resend', async (request, response) => {
    const { fresh } = checked(AsBuilderInput, request.body);
    const message = await asItsBuilderSends(services, request.params.id, fresh);
    const { status, body } = await sendToIntake(services, request, message);
    const head = [`${message.method} ${message.url}`, ...message.headers.map(each => each.join(': '))].join('\n');
    const { method, identifier } = message;
    response.json({ method, identifier, head: vault.mask(head), status, body } satisfies AsBuilderView);
  });
  return router;
}
