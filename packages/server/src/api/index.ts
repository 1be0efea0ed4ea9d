import express, { Router, type ErrorRequestHandler } from 'express';
import { accountOf, forUs, sameOrigin, signedIn } from '../access';
import { liveStream } from '../live';
import { HttpProblem, notFound, writeProblem } from '../problems';
import type { Services } from '../services';
import { changesApi } from './changes';
import { deliveriesApi } from './deliveries';
import { deskApi } from './desk';
import { formsApi } from './forms';
import { intakesApi } from './intakes';
import { readingApi } from './reading';
import { routesApi } from './routes';
import { sessionApi } from './session';
import { samplesApi } from './samples';
import { proofsApi } from './proofs';
import { targetsApi } from './targets';
import { tryingApi } from './trying';
import { workApi } from './work';
import { workspaceApi } from './workspace';

/** The HTTP API under `/api`. */
export function api(services: Services): Router {
  const router = Router();
  router.use((_request, response, next) => {
    response.set({ 'cache-control': 'no-store', 'x-live-mark': services.live.mark });
    next();
  });
  router.use(forUs(services.entrance), sameOrigin(services.entrance));
  // Before anyone has signed in, no more is read than a password takes.
  router.use(/^\/(session|setup)$/, express.json({ limit: '4kb' }));
  router.use(sessionApi(services));
  router.use(signedIn(services.store.accounts));
  // Documents of targets are large, and so are workspaces.
  router.use(/^\/workspace(\/|$)/, express.json({ limit: '64mb' }));
  router.use(/^\/targets(\/|$)/, express.json({ limit: '24mb' }));
  router.use(express.json({ limit: '4mb' }));
  router.get(
    '/live',
    liveStream(services.live, services.timers, request => accountOf(request, services.store.accounts) !== null),
  );
  for (const part of [
    deskApi,
    intakesApi,
    readingApi,
    formsApi,
    samplesApi,
    workApi,
    targetsApi,
    routesApi,
    proofsApi,
    tryingApi,
    workspaceApi,
    changesApi,
    deliveriesApi,
  ])
    router.use(part(services));
  router.use(() => {
    throw notFound('address in the API');
  });
  router.use(asProblem(services));
  return router;
}

/** Every error leaves as problem details (RFC 9457). */
const asProblem =
  ({ log, health, vault }: Services): ErrorRequestHandler =>
  (error: unknown, request, response, _next) => {
    // Too late for an answer: whoever asked sees that it breaks off.
    if (response.headersSent) {
      log.error({ err: error, method: request.method, path: request.path }, 'an answer broke off');
      return void response.destroy();
    }
    if (error instanceof HttpProblem) {
      const { status, title, detail, errors } = error;
      return writeProblem(response, { status, title, errors, detail: detail && vault.mask(detail) });
    }
    const status = (error as { status?: unknown }).status;
    if (typeof status === 'number' && status >= 400 && status < 500)
      return writeProblem(response, { status, title: (error as Error).message.slice(0, 300) });
    if (health.failed(error))
      return writeProblem(response, {
        status: 503,
        title: 'Nothing can be saved at the moment.',
        detail: health.trouble?.message,
      });
    log.error({ err: error, method: request.method, path: request.path }, 'a request failed inside');
    writeProblem(response, {
      status: 500,
      title: 'Internal error.',
      detail: 'It was logged. Try again.',
    });
  };
