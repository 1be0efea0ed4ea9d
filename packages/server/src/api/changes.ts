import { ChangeInput, HoldInput, RepairInput, SupposeInput } from '@grammata/contract';
import { Router } from 'express';
import {
  actorOf,
  changesView,
  changeView,
  decideHolding,
  proposeRepair,
  settleChange,
  suppose,
  takeRepair,
} from '../acts';
import type { Services } from '../services';
import { checked } from './validate';

/** Changes that are told at once, the newest first. */
const MOST = 100;

/** Changes of forms and targets: what they touch, what mends them, and what was decided. */
export function changesApi(services: Services): Router {
  const router = Router();

  router.get('/changes', (_request, response) => {
    response.json(changesView(services, MOST));
  });

  router.post('/changes/:id', (request, response) => {
    const { state } = checked(ChangeInput, request.body);
    response.json(changeView(services, settleChange(services, actorOf(response), request.params.id, state)));
  });

  router.post('/changes/:id/holding', async (request, response) => {
    const row = await decideHolding(services, actorOf(response), request.params.id, checked(HoldInput, request.body));
    response.json(changeView(services, row));
  });

  /** What would become of the routes if something were otherwise: nothing is changed. */
  router.post('/suppose', async (request, response) => {
    response.json(await suppose(services, checked(SupposeInput, request.body)));
  });

  /** What mends a route. */
  router.post('/changes/:id/repair', (request, response) => {
    response.json(proposeRepair(services, request.params.id, checked(RepairInput, request.body)));
  });

  router.post('/changes/:id/repair/take', (request, response) => {
    takeRepair(services, actorOf(response), request.params.id, checked(RepairInput, request.body));
    response.status(204).end();
  });
  return router;
}
