import { recipeFrom, recipeInput, TargetInput, type AuthInput } from '@grammata/contract';
import type { Auth } from '@grammata/core/target';
import { Router } from 'express';
import { actorOf, askNow } from '../acts';
import { fieldFault, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { choicesOf, readTarget } from '../targets';
import { checked, textFrom } from './validate';
import { targetView } from './views';

/** Where an address is: scheme, host and port. `smtp:` has no origin of its own. */
function originOf(address: string): string {
  if (!URL.canParse(address)) return address;
  const { protocol, host } = new URL(address);
  return `${protocol}//${host}`;
}

/** Downstream systems: their address, credentials, and what they offer. */
export function targetsApi(services: Services): Router {
  const { store, vault, live, breakers } = services;
  const view = (row: TargetRow) => targetView(services, row);
  const router = Router();
  const targetOr404 = (id: string): TargetRow => {
    const row = store.targets.byId(id);
    if (!row) throw notFound('target');
    return row;
  };
  const changed = (id: string) => live.publish({ type: 'changed', what: 'target', id });

  router.get('/targets', (_request, response) => void response.json(store.targets.all().map(view)));

  router.post('/targets', async (request, response) => {
    const { token, auth, tryBaseUrl, tryToken, recipe, ...input } = checked(TargetInput, request.body);
    const row = store.targets.create({
      ...input,
      recipe: recipe ? recipeFrom(recipe) : null,
      auth: authOf(auth),
      secret: token ? vault.seal(token) : null,
      trySide: tryBaseUrl ? { baseUrl: tryBaseUrl, auth: authOf(auth) } : null,
      trySecret: tryBaseUrl && tryToken ? vault.seal(tryToken) : null,
    });
    response.status(201).json(view((await readTarget(services, row)).stored));
  });

  router.get('/targets/:id', (request, response) => void response.json(view(targetOr404(request.params.id))));

  router.patch('/targets/:id', async (request, response) => {
    const row = targetOr404(request.params.id);
    const { token, auth, tryBaseUrl, tryToken, recipe, ...input } = checked(TargetInput, {
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
    // Another scheme or port is another place: a secret that went over TLS does not go in clear.
    const moves = (to: string, from: string | undefined) => from !== undefined && originOf(to) !== originOf(from);
    const again = (field: string) => fieldFault(field, 'The address moves to another place: give the token again.');
    const tokensMove =
      auth?.kind === 'oauth' && (row.auth.kind !== 'oauth' || moves(auth.tokenUrl ?? '', row.auth.tokenUrl));
    if ((moves(input.baseUrl, row.baseUrl) || tokensMove) && row.secret && token === undefined) throw again('token');
    if (tryBaseUrl && (moves(tryBaseUrl, row.trySide?.baseUrl) || tokensMove) && row.trySecret && !tryToken)
      throw again('tryToken');
    const kept = token === undefined ? row.secret : token === '' ? null : vault.seal(token);
    const secret = auth?.kind === 'none' ? null : kept;
    const keptTry = tryToken ? vault.seal(tryToken) : row.trySecret;
    const stored = store.targets.update(row.id, {
      ...input,
      recipe: recipe ? recipeFrom(recipe) : null,
      auth: authOf(auth),
      secret,
      trySide: tryBaseUrl ? { baseUrl: tryBaseUrl, auth: authOf(auth) } : null,
      trySecret: tryBaseUrl && auth?.kind !== 'none' ? keptTry : null,
    })!;
    breakers.forget(row.id);
    response.json(view((await readTarget(services, stored)).stored));
  });

  router.delete('/targets/:id', (request, response) => {
    const row = targetOr404(request.params.id);
    const route = store.routes.all().find(each => each.draft.calls.some(call => call.targetId === row.id));
    if (route)
      throw new HttpProblem(409, `The route “${route.draft.name}” delivers to this target.`, 'Remove the route first.');
    store.targets.remove(row.id);
    breakers.forget(row.id);
    changed(row.id);
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

/** What a kind of credentials needs, and nothing else. */
function authOf(input: AuthInput | undefined): Auth {
  switch (input?.kind) {
    case undefined:
      return { kind: 'bearer' };
    case 'basic':
      return { kind: 'basic', user: input!.user ?? '' };
    case 'header':
    case 'query':
      return { kind: input!.kind, name: input!.name ?? '' };
    case 'oauth': {
      const { tokenUrl = '', clientId = '', scope = '', clientIn = 'header' } = input!;
      return { kind: 'oauth', tokenUrl, clientId, scope, clientIn };
    }
    case 'hmac': {
      const { name = '', algorithm = 'sha256', encoding = 'hex', prefix = '' } = input!;
      return { kind: 'hmac', name, algorithm, encoding, prefix };
    }
    default:
      return { kind: input!.kind };
  }
}
