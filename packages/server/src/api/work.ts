import { Router } from 'express';
import { notFound } from '../problems';
import type { Services } from '../services';
import { textFrom } from './validate';

/** Long work: how far it is, what came of it, and stopping it. */
export function workApi({ workshop }: Services): Router {
  const router = Router();
  router.get(
    '/work',
    (request, response) =>
      void response.json(
        workshop.list({ intakeId: textFrom(request.query.intake), routeId: textFrom(request.query.route) }),
      ),
  );
  router.post('/work/:id/stop', (request, response) => {
    if (!workshop.stop(request.params.id)) throw notFound('work under way');
    response.status(202).end();
  });
  return router;
}
