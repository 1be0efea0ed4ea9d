import { AcceptInput, ApproveInput, LoosenInput, ProofsInput, type ProofView } from '@grammata/contract';
import { Router } from 'express';
import {
  acceptShown,
  actorOf,
  approveSamples,
  draftMustBeAsShown,
  loosenProof,
  markOfProof,
  proposeProofs,
  removeProofs,
} from '../acts';
import { iso } from '../clock';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import { checked } from './validate';

/** Proofs of routes: approved rehearsals that every edit is held against. */
export function proofsApi(services: Services): Router {
  const { store } = services;
  const router = Router();
  const routeOr404 = (id: string): RouteRow => {
    const row = store.routes.byId(id);
    if (!row) throw notFound('route');
    return row;
  };
  const all = (routeId: string): ProofView[] =>
    store.proofs.of(routeId).map(row => {
      const { at, routeId: _route, ...proof } = row;
      return { ...proof, at: iso(at), mark: markOfProof(row) };
    });

  router.get('/routes/:id/proofs', (request, response) => {
    response.json(all(routeOr404(request.params.id).id));
  });

  /** The samples that are worth proving. */
  router.post('/routes/:id/proofs/propose', async (request, response) => {
    response.json(await proposeProofs(services, routeOr404(request.params.id)));
  });

  /** Approves what the draft gives for samples. */
  router.post('/routes/:id/proofs', (request, response) => {
    const row = routeOr404(request.params.id);
    const input = checked(ApproveInput, request.body);
    draftMustBeAsShown(row, input);
    approveSamples(services, actorOf(response), row, input.sampleIds);
    response.status(201).json(all(row.id));
  });

  /** Accepts what the draft gives now. */
  router.post('/routes/:id/proofs/accept', (request, response) => {
    const row = routeOr404(request.params.id);
    const input = checked(AcceptInput, request.body);
    draftMustBeAsShown(row, input);
    acceptShown(services, actorOf(response), row, input);
    response.json(all(row.id));
  });

  router.post('/routes/:id/proofs/remove', (request, response) => {
    const row = routeOr404(request.params.id);
    removeProofs(services, actorOf(response), row, checked(ProofsInput, request.body).ids);
    response.json(all(row.id));
  });

  /** Says which places of a proof are not held to the letter. */
  router.patch('/routes/:id/proofs/:proof', (request, response) => {
    const row = routeOr404(request.params.id);
    loosenProof(services, actorOf(response), row, request.params.proof, checked(LoosenInput, request.body).loose);
    response.json(all(row.id));
  });
  return router;
}
