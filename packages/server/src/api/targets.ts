import {
  DocumentInput,
  ExamplesInput,
  OperationInput,
  recipeInput,
  TargetInput,
  TryOperationInput,
  type OfferedView,
  type OperationView,
} from '@grammata/contract';
import { withAnswered, type Operation } from '@grammata/core/target';
import { Router } from 'express';
import {
  actorOf,
  addOperations,
  addTarget,
  newTarget,
  askConsent,
  askNow,
  asTheSourceSays,
  changeTarget,
  forgetConsent,
  removeTarget,
  routesUsing,
  setOperation,
  takeAway,
  settingsMustBeAsShown,
  trialParts,
} from '../acts';
import { tryOperation } from '../delivery';
import { newId } from '../ids';
import { fieldFault, notFound } from '../problems';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { choicesOf, listingOf, lookAt, readTarget, withoutShownSecrets } from '../targets';
import { checked, textFrom } from './validate';
import { operationHeads, ownOf, targetSummary, targetView } from './views';

/** A target as it is stored, as what would store it again. */
const storedInput = (row: TargetRow): Partial<TargetInput> => ({
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
});

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

  router.get('/targets', (_request, response) => void response.json(store.targets.all().map(targetSummary)));

  /** What every target can be asked to do, to be picked from. */
  router.get('/targets/offered', (_request, response) => {
    const offered = store.targets
      .all()
      .map((row): OfferedView => ({ id: row.id, name: row.name, reads: row.reads, operations: operationHeads(row) }));
    response.json(offered);
  });

  /** What a document or an example says, before a target is made of it. */
  router.post('/targets/look', async (request, response) => {
    response.json(await lookAt(services.decoders, checked(DocumentInput, request.body)));
  });

  router.post('/targets', async (request, response) => {
    const input = await withoutShownSecrets(services.decoders, checked(TargetInput, request.body));
    const row = addTarget(services, actorOf(response), input);
    response.status(201).json(view((await readTarget(services, row)).stored));
  });

  router.get('/targets/:id', (request, response) => void response.json(view(targetOr404(request.params.id))));

  router.patch('/targets/:id', async (request, response) => {
    const { shown, ...changed } = (request.body ?? {}) as Partial<TargetInput> & { shown?: unknown };
    const inputOn = (row: TargetRow) => checked(TargetInput, { ...storedInput(row), ...changed });
    const { document } = await withoutShownSecrets(services.decoders, inputOn(targetOr404(request.params.id)));
    // What somebody else changed while the document was looked through stays.
    const row = targetOr404(request.params.id);
    settingsMustBeAsShown(view(row), shown);
    const stored = await changeTarget(services, actorOf(response), row, {
      ...inputOn(row),
      ...(changed.document !== undefined && { document }),
    });
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

  /** Begins to ask for somebody's consent: where it is given. */
  router.post('/targets/:id/consent', async (request, response) => {
    const url = await askConsent(services, actorOf(response), targetOr404(request.params.id));
    response.json({ url });
  });

  router.delete('/targets/:id/consent', (request, response) => {
    forgetConsent(services, actorOf(response), targetOr404(request.params.id));
    response.status(204).end();
  });

  /** What a target that is not stored yet answers where it lists its tables, to be pointed at. */
  router.post('/targets/listing', async (request, response) => {
    const { outward, authorizations, vault } = services;
    const typed = { ...(request.body as Partial<TargetInput>), name: 'the new target', recipe: null };
    const row = { ...newTarget(vault, checked(TargetInput, typed)), id: `new-${newId()}`, consent: null } as TargetRow;
    response.json(await listingOf(row, outward, authorizations));
  });

  /** What it answers where it lists its tables, to be pointed at. */
  router.post('/targets/:id/listing', async (request, response) => {
    const { outward, authorizations } = services;
    response.json(await listingOf(targetOr404(request.params.id), outward, authorizations));
  });

  const operationOr404 = (row: TargetRow, id: unknown): Operation => {
    const operation = row.operations.find(each => each.id === id);
    if (!operation) throw notFound('operation');
    return operation;
  };
  const operationView = (row: TargetRow, operation: Operation): OperationView => ({
    operation: withAnswered(operation, row.answers[operation.id]),
    was: row.own.find(each => each.id === operation.id)?.was ?? null,
    own: ownOf(row, operation.id),
    usedBy: routesUsing(services, row, operation.id),
  });

  router.get('/targets/:id/operation', (request, response) => {
    const row = targetOr404(request.params.id);
    response.json(operationView(row, operationOr404(row, request.query.id)));
  });

  /** Sets an operation as people want it, or adds one. */
  router.put('/targets/:id/operation', (request, response) => {
    const row = targetOr404(request.params.id);
    const operation = setOperation(services, actorOf(response), row, checked(OperationInput, request.body));
    response.json(operationView(targetOr404(row.id), operation));
  });

  router.delete('/targets/:id/operation', (request, response) => {
    takeAway(services, actorOf(response), targetOr404(request.params.id), textFrom(request.query.id) ?? '');
    response.status(204).end();
  });

  /** Takes an operation as the source says it again. */
  router.post('/targets/:id/operation/source', (request, response) => {
    const row = targetOr404(request.params.id);
    const id = textFrom(request.query.id) ?? '';
    asTheSourceSays(services, actorOf(response), row, id);
    response.json(operationView(targetOr404(row.id), operationOr404(targetOr404(row.id), id)));
  });

  /** Adds the operations that examples show. */
  router.post('/targets/:id/examples', async (request, response) => {
    const { text } = checked(ExamplesInput, request.body);
    const row = targetOr404(request.params.id);
    const offer = await services.decoders.offer('example', text, { baseUrl: row.baseUrl });
    if ('fault' in offer) throw fieldFault('text', offer.fault);
    const added = addOperations(services, actorOf(response), row, offer.operations);
    response.status(201).json(added.map(each => operationView(targetOr404(row.id), each)));
  });

  /** Really makes a request of an operation. */
  router.post('/targets/:id/try', async (request, response) => {
    const row = targetOr404(request.params.id);
    const { operationId, values } = checked(TryOperationInput, request.body);
    operationOr404(row, operationId);
    response.json(await tryOperation(trialParts(services), row.id, operationId, values));
  });

  /** Has a target that is left alone asked again at once. */
  router.post('/targets/:id/probe', async (request, response) => {
    const row = targetOr404(request.params.id);
    await askNow(services, actorOf(response), row);
    response.json(view(row));
  });

  /** Tests the connection and reads the tables and columns anew. */
  router.post('/targets/:id/read', async (request, response) => {
    response.json((await readTarget(services, targetOr404(request.params.id), true)).view);
  });
  return router;
}
