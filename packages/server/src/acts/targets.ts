import { recipeFrom, type AuthInput, type TargetInput } from '@grammata/contract';
import { targetsOf } from '@grammata/core/route';
import type { Auth } from '@grammata/core/target';
import { fieldFault, HttpProblem } from '../problems';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import type { Actor } from './actor';
import { goNow } from './askNow';
import { mustBeFree } from './names';

type Parts = Pick<Services, 'store' | 'vault' | 'live' | 'breakers' | 'log'>;

/** Only a document may stand outside the target. Throws HttpProblem. */
function mustBeBelow({ reads, discoveryPath }: Pick<TargetInput, 'reads' | 'discoveryPath'>): void {
  if (reads !== 'openapi' && !discoveryPath.startsWith('/'))
    throw fieldFault('discoveryPath', 'Start the path with “/”.');
}

/** Takes a target on; what it offers is not read yet. */
export function addTarget({ store, vault, log }: Parts, actor: Actor, given: TargetInput): TargetRow {
  const names = store.targets.all().map(each => each.name);
  mustBeFree(given.name, 'target', names);
  const row = store.targets.create(newTarget(vault, given));
  log.info({ actor: actor.id, target: row.id }, 'a target was added');
  return row;
}

/** A target as it is stored at first. */
export function newTarget(vault: Parts['vault'], given: TargetInput) {
  const { token, auth, tryBaseUrl, tryToken, recipe, ...input } = given;
  mustBeBelow(input);
  return {
    ...input,
    recipe: recipe ? recipeFrom(recipe) : null,
    auth: authOf(auth),
    secret: token ? vault.seal(token) : null,
    trySide: tryBaseUrl ? { baseUrl: tryBaseUrl, auth: authOf(auth) } : null,
    trySecret: tryBaseUrl && tryToken ? vault.seal(tryToken) : null,
  };
}

/**
 * Changes a target. Throws HttpProblem where it moves to another place and its secrets are not given anew: another scheme or
 * port is another place, and a secret that went over TLS does not go in clear. What waits for it goes at once.
 */
export async function changeTarget(
  parts: Parts & Pick<Services, 'ledger' | 'deliveries'>,
  actor: Actor,
  row: TargetRow,
  given: TargetInput,
): Promise<TargetRow> {
  const { store, vault, breakers, log } = parts;
  const { token, auth, tryBaseUrl, tryToken, recipe, ...input } = given;
  mustBeBelow(input);
  const others = store.targets.all().flatMap(each => (each.id === row.id ? [] : each.name));
  if (input.name !== row.name) mustBeFree(input.name, 'target', others);
  const isToken = auth?.kind === 'oauth' || auth?.kind === 'consent';
  const tokensMove =
    isToken &&
    (row.auth.kind !== auth?.kind || !('tokenUrl' in row.auth) || moves(auth.tokenUrl ?? '', row.auth.tokenUrl));
  // A consent is given to one client of one provider, for one address.
  const endsConsent =
    row.consent !== null &&
    (JSON.stringify(authOf(auth)) !== JSON.stringify(row.auth) || moves(input.baseUrl, row.baseUrl));
  if ((moves(input.baseUrl, row.baseUrl) || tokensMove) && row.secret && token === undefined) throw again('token');
  if (tryBaseUrl && (moves(tryBaseUrl, row.trySide?.baseUrl) || tokensMove) && row.trySecret && !tryToken)
    throw again('tryToken');
  const kept = token === undefined ? row.secret : token === '' ? null : vault.seal(token);
  const keptTry = tryToken ? vault.seal(tryToken) : row.trySecret;
  const stored = store.targets.update(row.id, {
    ...input,
    recipe: recipe ? recipeFrom(recipe) : null,
    auth: authOf(auth),
    secret: auth?.kind === 'none' ? null : kept,
    trySide: tryBaseUrl ? { baseUrl: tryBaseUrl, auth: authOf(auth) } : null,
    trySecret: tryBaseUrl && auth?.kind !== 'none' ? keptTry : null,
    ...(endsConsent && { consent: null, consentTokens: null }),
  })!;
  breakers.forget(row.id);
  log.info({ actor: actor.id, target: row.id }, 'a target was changed');
  // What waited for an address or a key that was wrong need not wait longer.
  await goNow(parts, row.id);
  return stored;
}

/** Removes a target. Throws HttpProblem while a route delivers to it. */
export function removeTarget({ store, live, breakers, log }: Parts, actor: Actor, row: TargetRow): void {
  const route = store.routes
    .all()
    .find(each => [each.draft, store.routes.doing(each).definition].some(does => targetsOf(does).includes(row.id)));
  if (route)
    throw new HttpProblem(
      409,
      `The route “${route.draft.name}” delivers to this target.`,
      'Switch its target under Delivery, or remove the route.',
    );
  store.targets.remove(row.id);
  store.changes.forget('target', [row.id]);
  breakers.forget(row.id);
  live.publish({ type: 'changed', what: 'target', id: row.id });
  log.info({ actor: actor.id, target: row.id }, 'a target was removed');
}

const again = (field: string) => fieldFault(field, 'The host changed: enter the credentials again.');

const moves = (to: string, from: string | undefined) => from !== undefined && originOf(to) !== originOf(from);

/** Where an address is: scheme, host and port. `smtp:` has no origin of its own. */
function originOf(address: string): string {
  if (!URL.canParse(address)) return address;
  const { protocol, host } = new URL(address);
  return `${protocol}//${host}`;
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
    case 'consent': {
      const { authorizeUrl = '', tokenUrl = '', clientId = '', scope = '', clientIn = 'header' } = input!;
      return { kind: 'consent', authorizeUrl, tokenUrl, clientId, scope, clientIn };
    }
    case 'hmac': {
      const { name = '', algorithm = 'sha256', encoding = 'hex', prefix = '' } = input!;
      return { kind: 'hmac', name, algorithm, encoding, prefix };
    }
    default:
      return { kind: input!.kind };
  }
}
