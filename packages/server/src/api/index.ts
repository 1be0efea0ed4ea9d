import express, { Router, type ErrorRequestHandler } from 'express';
import { sameOrigin, signedIn } from '../access';
import { liveStream } from '../live';
import { HttpProblem, notFound, writeProblem } from '../problems';
import type { Services } from '../services';
import { deliveriesApi } from './deliveries';
import { deskApi } from './desk';
import { formsApi } from './forms';
import { intakesApi } from './intakes';
import { readingApi } from './reading';
import { routesApi } from './routes';
import { sessionApi } from './session';
import { samplesApi } from './samples';
import { targetsApi } from './targets';
import { workApi } from './work';

/** The HTTP API under `/api`. */
export function api(services: Services): Router {
  const router = Router();
  router.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  router.use(sameOrigin, express.json({ limit: '4mb' }));
  router.use(sessionApi(services));
  router.use(signedIn(services.store.accounts));
  router.get('/live', liveStream(services.live));
  for (const part of [
    deskApi,
    intakesApi,
    readingApi,
    formsApi,
    samplesApi,
    workApi,
    targetsApi,
    routesApi,
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
  ({ log }: Services): ErrorRequestHandler =>
  (error: unknown, request, response, _next) => {
    if (error instanceof HttpProblem) return writeProblem(response, error);
    const status = (error as { status?: unknown }).status;
    if (typeof status === 'number' && status < 500)
      return writeProblem(response, { status, title: (error as Error).message });
    log.error({ err: error, method: request.method, path: request.path }, 'a request failed inside');
    writeProblem(response, {
      status: 500,
      title: 'Something failed inside Grammata.',
      detail: 'It was logged. Try again.',
    });
  };
