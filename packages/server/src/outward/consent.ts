import * as oauth from 'oauth4webapi';
import { isJsonObject, parseJson } from '@grammata/core/submission';
import type { Auth, Consent } from '@grammata/core/target';
import { LRUCache } from 'lru-cache';
import type { Vault } from '../access';
import { now } from '../clock';
import { isFault, type Outward, type OutwardFault } from './http';

/** OAuth 2 with somebody's consent: what is known of the provider and the client. */
export type ConsentAuth = Extract<Auth, { kind: 'consent' }>;

/** Tokens that a consent gave. Times are ms since the epoch. */
export interface Tokens {
  access: string;
  /** Null where the provider gave none: once the access token ends, somebody has to give consent again. */
  refresh: string | null;
  /** Null where the provider does not say. */
  expiresAt: number | null;
}

/** A target as far as its consent goes. */
export interface Consented {
  auth: Auth;
  baseUrl: string;
  consent: Consent | null;
  tokens: Buffer | null;
}

/** Keeps consents, sealed and durable. */
export interface ConsentStore {
  read(targetId: string): Consented | null;
  /** Writes only where the tokens are still those that were read; false where they are others. */
  write(targetId: string, consent: Consent, tokens: Buffer, was: Buffer | null): boolean;
}

/** Whom a token is shown to, as it was when the request was begun. */
export interface Asking {
  id: string;
  auth: ConsentAuth;
  baseUrl: string | null;
  secret: Buffer | null;
}

/** A consent that somebody was sent to give, until they come back. */
interface Begun {
  targetId: string;
  auth: ConsentAuth;
  baseUrl: string;
  verifier: string;
}

/** How long somebody may take at the provider, in ms. */
const WHILE = 15 * 60_000;
/** How long before its end a token is renewed, in ms. */
const EARLY = 30_000;
/** How long deliveries wait before they look again whether consent was given, in ms. */
const LOOK_AGAIN = 10 * 60_000;

/**
 * OAuth 2 by authorization code with PKCE (RFC 6749 §4.1, RFC 7636), renewed by refresh tokens that may rotate (RFC 9700 §4.14). Deliveries that
 * go at once share one renewal; a new refresh token is durable before the old one is gone.
 */
export class Consents {
  readonly #begun = new LRUCache<string, Begun>({ max: 1000, ttl: WHILE });
  readonly #renewing = new Map<string, Promise<OutwardFault | null>>();
  readonly #refused = new Set<string>();

  /**
   * @param redirectUri the address that providers send people back to
   * @param changed hears of each target whose consent ended
   */
  constructor(
    private readonly outward: Outward,
    private readonly vault: Vault,
    private readonly store: ConsentStore,
    readonly redirectUri: string,
    private readonly changed: (targetId: string) => void,
  ) {}

  /** The address at the provider where consent is given. */
  async begin(targetId: string, auth: ConsentAuth, baseUrl: string): Promise<string> {
    const state = oauth.generateRandomState();
    const verifier = oauth.generateRandomCodeVerifier();
    this.#begun.set(state, { targetId, auth, baseUrl, verifier });
    const url = new URL(auth.authorizeUrl);
    const asked = {
      response_type: 'code',
      client_id: auth.clientId,
      redirect_uri: this.redirectUri,
      state,
      code_challenge: await oauth.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
      ...(auth.scope && { scope: auth.scope }),
    };
    for (const [name, value] of Object.entries(asked)) url.searchParams.set(name, value);
    return url.href;
  }

  /**
   * What the provider sent somebody back with becomes tokens that are kept.
   * @returns whose consent it is, and what went wrong; null where nobody was sent to give one
   */
  async finish(
    back: URLSearchParams,
    secretOf: (targetId: string) => Buffer | null,
  ): Promise<{ targetId: string; fault: string | null } | null> {
    const state = back.get('state') ?? '';
    const begun = this.#begun.get(state);
    if (!begun) return null;
    this.#begun.delete(state);
    const { targetId, auth, baseUrl, verifier } = begun;
    const failed = (fault: string) => ({ targetId, fault });
    const [server, client] = sidesOf(auth);
    const before = this.store.read(targetId);
    if (!before || !isFor(before, { auth, baseUrl })) return failed(MOVED);
    try {
      const params = oauth.validateAuthResponse(server, client, back, state);
      const answer = await oauth.authorizationCodeGrantRequest(
        server,
        client,
        clientAuth(auth, this.#open(secretOf(targetId))),
        params,
        this.redirectUri,
        verifier,
        this.#options,
      );
      const given = await oauth.processAuthorizationCodeResponse(server, client, answer);
      // What somebody gave just now holds, whatever became of an earlier consent meanwhile; not where the target is another.
      const after = this.store.read(targetId);
      if (!after || !isFor(after, { auth, baseUrl })) return failed(MOVED);
      this.#keep(targetId, tokensOf(given, null), now(), after.tokens);
      return { targetId, fault: null };
    } catch (error) {
      if (error instanceof oauth.AuthorizationResponseError)
        return failed(error.error === 'access_denied' ? 'Consent was refused.' : wordsOf(error));
      return failed(wordsOf(error));
    }
  }

  /** A token that is good now, renewed where it is about to end; or why there is none. */
  async token(asking: Asking): Promise<string | OutwardFault> {
    const kept = this.#kept(asking);
    if (isFault(kept)) return kept;
    const { tokens } = kept;
    const isOver = tokens.expiresAt !== null && tokens.expiresAt - EARLY <= now();
    if (!isOver && !this.#refused.has(asking.id)) return tokens.access;
    // A renewal is of one consent: another that was given meanwhile is renewed on its own.
    const key = kept.sealed.toString('base64');
    const renewing = this.#renewing.get(key) ?? this.#renew(asking, kept).finally(() => this.#renewing.delete(key));
    this.#renewing.set(key, renewing);
    const fault = await renewing;
    if (fault) return fault;
    // What holds now counts: renewed, or given, forgotten or moved meanwhile.
    const after = this.#kept(asking);
    return isFault(after) ? after : after.tokens.access;
  }

  /** The consent that holds for a request; or why there is none. */
  #kept(asking: Asking): Kept | OutwardFault {
    const row = this.store.read(asking.id);
    if (!row || !isFor(row, asking)) return { ...missing(MOVED), until: now() };
    if (!row.consent || !row.tokens) return missing('No consent yet. Give it on the target’s page.');
    if (row.consent.ended)
      return missing(`Consent expired: ${row.consent.ended.reason} Renew it on the target’s page.`);
    return { consent: row.consent, sealed: row.tokens, tokens: this.#tokensIn(row.tokens, row.consent) };
  }

  /**
   * Hears that a token was refused. True where trying again makes sense, with another one: those that were under way with an old one take
   * the one that was had meanwhile.
   */
  refused(targetId: string, token: string): boolean {
    const kept = this.store.read(targetId);
    if (!kept?.consent || !kept.tokens || kept.consent.ended) return false;
    const { access, refresh } = this.#tokensIn(kept.tokens, kept.consent);
    if (access !== token) return true;
    if (refresh !== null) this.#refused.add(targetId);
    return refresh !== null;
  }

  /** Keeps what it renews, only where the consent is still the one that was to be renewed. */
  async #renew({ id, auth, secret }: Asking, kept: Kept): Promise<OutwardFault | null> {
    const { tokens, sealed, consent } = kept;
    if (tokens.refresh === null) return this.#end(id, kept, 'its token expired and there is no refresh token.');
    const [server, client] = sidesOf(auth);
    try {
      const authentication = clientAuth(auth, this.#open(secret));
      const answer = await oauth.refreshTokenGrantRequest(
        server,
        client,
        authentication,
        tokens.refresh,
        this.#options,
      );
      const given = await oauth.processRefreshTokenResponse(server, client, answer);
      const renewed = tokensOf(given, tokens.refresh);
      this.#keep(id, renewed, consent.givenAt, sealed);
      return null;
    } catch (error) {
      // RFC 6749 §5.2: the refresh token is not good any more; whatever else went wrong may pass.
      if (error instanceof oauth.ResponseBodyError && error.error === 'invalid_grant')
        return this.#end(
          id,
          kept,
          error.error_description ? `${error.error_description}.` : 'the provider no longer accepts it.',
        );
      const host = new URL(auth.tokenUrl).host;
      const code = error instanceof oauth.ResponseBodyError && error.status < 500 ? 'token' : 'other';
      return error instanceof Unreached
        ? error.fault
        : { code, message: `No token from ${host}: ${wordsOf(error)}`, milliseconds: 0 };
    }
  }

  #keep(targetId: string, tokens: Tokens, givenAt: number, was: Buffer | null): void {
    const { access, refresh, expiresAt } = tokens;
    const sealed = this.vault.seal(JSON.stringify([access, refresh ?? '']));
    if (!this.store.write(targetId, { givenAt, expiresAt, ended: null }, sealed, was)) return;
    this.#refused.delete(targetId);
  }

  #end(targetId: string, { consent, sealed }: Kept, reason: string): OutwardFault | null {
    if (!this.store.write(targetId, { ...consent, ended: { at: now(), reason } }, sealed, sealed)) return null;
    this.changed(targetId);
    return missing(`Consent expired: ${reason} Renew it on the target’s page.`);
  }

  #tokensIn(sealed: Buffer, { expiresAt }: Consent): Tokens {
    const [access = '', refresh = ''] = JSON.parse(this.vault.open(sealed)) as string[];
    return { access, refresh: refresh || null, expiresAt };
  }

  #open = (secret: Buffer | null): string | null => (secret === null ? null : this.vault.open(secret));

  /** Requests go out where all others do. */
  get #options() {
    return {
      [oauth.allowInsecureRequests]: true,
      [oauth.customFetch]: async (
        url: string,
        { method, headers, body }: oauth.CustomFetchOptions<string, unknown>,
      ) => {
        const answer = await this.outward.send({
          method: method as 'POST',
          url,
          headers: headers as Record<string, string>,
          body: String(body as URLSearchParams),
        });
        if (isFault(answer)) throw new Unreached(answer);
        return new Response(withoutIdToken(answer.bytes.toString('utf8')), {
          status: answer.status,
          headers: { 'content-type': answer.headers['content-type'] ?? '' },
        });
      },
    };
  }
}

/** A consent that holds. */
interface Kept {
  consent: Consent;
  sealed: Buffer;
  tokens: Tokens;
}

const MOVED = 'The target’s address or credentials were changed.';

/** True where a target is still the one that a consent was asked for: one client of one provider, for one address. */
const isFor = (row: Pick<Consented, 'auth' | 'baseUrl'>, asking: { auth: ConsentAuth; baseUrl: string | null }) =>
  JSON.stringify(row.auth) === JSON.stringify(asking.auth) &&
  (asking.baseUrl === null || row.baseUrl === asking.baseUrl);

/** The token endpoint could not be asked. */
class Unreached extends Error {
  constructor(readonly fault: OutwardFault) {
    super(fault.message);
  }
}

const missing = (message: string): OutwardFault => ({
  code: 'consent',
  message,
  milliseconds: 0,
  until: now() + LOOK_AGAIN,
});

/** Who somebody is, is nothing that is asked here. */
function withoutIdToken(body: string): string {
  const document = parseJson(body);
  if (!isJsonObject(document ?? null)) return body;
  const { id_token: _who, ...others } = document as Record<string, unknown>;
  return JSON.stringify(others);
}

function sidesOf({ authorizeUrl, tokenUrl, clientId }: ConsentAuth): [oauth.AuthorizationServer, oauth.Client] {
  return [
    { issuer: new URL(tokenUrl).origin, authorization_endpoint: authorizeUrl, token_endpoint: tokenUrl },
    { client_id: clientId },
  ];
}

/** RFC 6749 §2.3.1; a client without a secret is known by its identifier alone. */
const clientAuth = ({ clientIn }: ConsentAuth, secret: string | null): oauth.ClientAuth =>
  !secret ? oauth.None() : clientIn === 'body' ? oauth.ClientSecretPost(secret) : oauth.ClientSecretBasic(secret);

/** A provider that gives no new refresh token leaves the old one good (RFC 6749 §6). */
const tokensOf = (given: oauth.TokenEndpointResponse, before: string | null): Tokens => ({
  access: given.access_token,
  refresh: given.refresh_token ?? before,
  expiresAt: given.expires_in === undefined ? null : now() + given.expires_in * 1000,
});

function wordsOf(error: unknown): string {
  if (error instanceof oauth.ResponseBodyError || error instanceof oauth.AuthorizationResponseError)
    return `${error.error_description ?? error.error}.`;
  if (error instanceof oauth.WWWAuthenticateChallengeError) return 'unknown client.';
  return (error as Error).message;
}
