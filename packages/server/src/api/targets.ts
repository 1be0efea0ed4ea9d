import { recipeInput, TargetInput } from '@grammata/contract';
import { Router } from 'express';
import { actorOf, addTarget, askNow, changeTarget, removeTarget } from '../acts';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { choicesOf, readTarget } from '../targets';
import { checked, textFrom } from './validate';
import { targetView } from './views';

/** Downstream systems: their address, credentials, and what they offer. */
export function targetsApi(services: Services): Router {
  const { store } = services;
  const view = (row: TargetRow) => targetView(services, row);
  const router = Router();
  const targetOr404 = (id: string): TargetRow => {
    const row = store.targets.byId(id);
    if (!row) throw notFound('target');
    return row;
  };

  router.get('/targets', (_request, response) => void response.json(store.targets.all().map(view)));

  router.post('/targets', async (request, response) => {
    const row = addTarget(services, actorOf(response), checked(TargetInput, request.body));
    response.status(201).json(view((await readTarget(services, row)).stored));
  });

  router.get('/targets/:id', (request, response) => void response.json(view(targetOr404(request.params.id))));

  router.patch('/targets/:id', async (request, response) => {
    const row = targetOr404(request.params.id);
    const input = checked(TargetInput, {
      name: row.name,
      document: row.document,
      recipe: row.recipe && recipeInput(row.recipe),
      tryBaseUrl: row.trySide?.baseUrl ?? null,
      baseUrl: row.baseUrl,
      reads: row.reads,
      discoveryPath: row.discoveryPath,
      auth: row.auth,
      patience: row.patience,
      pace: row.pace,
      ...request.body,
    });
    const stored = changeTarget(services, actorOf(response), row, input);
    response.json(view((await readTarget(services, stored)).stored));
  });

  router.delete('/targets/:id', (request, response) => {
    removeTarget(services, actorOf(response), targetOr404(request.params.id));
    response.status(204).end();
  });

  /** What the target answers to a question for a list, as values to pick. */
  router.get('/targets/:id/choices', async (request, response) => {
    response.json(await choicesOf(targetOr404(request.params.id), textFrom(request.query.operation) ?? '', services));
  });

  /** Has a target that is left alone asked again at once. */
  router.post('/targets/:id/probe', async (request, response) => {
    const row = targetOr404(request.params.id);
    await askNow(services, actorOf(response), row);
    response.json(view(row));
  });

  /** Tests the connection and reads the tables and columns anew. */
  router.post('/targets/:id/read', async (request, response) => {
    response.json((await readTarget(services, targetOr404(request.params.id))).view);
  });
  return router;
}
