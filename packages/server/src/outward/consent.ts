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

/** Keeps consents, sealed and durable. */
export interface ConsentStore {
  read(targetId: string): { consent: Consent; tokens: Buffer } | null;
  write(targetId: string, consent: Consent, tokens: Buffer): void;
}

/** A consent that somebody was sent to give, until they come back. */
interface Begun {
  targetId: string;
  auth: ConsentAuth;
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
  readonly #renewing = new Map<string, Promise<Tokens | OutwardFault>>();
  readonly #refused = new Set<string>();
  readonly #renewed = new Map<string, number>();

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
  async begin(targetId: string, auth: ConsentAuth): Promise<string> {
    const state = oauth.generateRandomState();
    const verifier = oauth.generateRandomCodeVerifier();
    this.#begun.set(state, { targetId, auth, verifier });
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
    const { targetId, auth, verifier } = begun;
    const failed = (fault: string) => ({ targetId, fault });
    const [server, client] = sidesOf(auth);
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
      this.#keep(targetId, tokensOf(given, null), now());
      return { targetId, fault: null };
    } catch (error) {
      if (error instanceof oauth.AuthorizationResponseError)
        return failed(error.error === 'access_denied' ? 'Consent was refused.' : wordsOf(error));
      return failed(wordsOf(error));
    }
  }

  /** A token that is good now, renewed where it is about to end; or why there is none. */
  async token(targetId: string, auth: ConsentAuth, secret: Buffer | null): Promise<string | OutwardFault> {
    const kept = this.store.read(targetId);
    if (!kept) return missing('Nobody has given consent yet. Give it on the target’s page.');
    if (kept.consent.ended)
      return missing(`Consent has ended: ${kept.consent.ended.reason} Give it again on the target’s page.`);
    const tokens = this.#tokensIn(kept.tokens, kept.consent);
    const isOver = tokens.expiresAt !== null && tokens.expiresAt - EARLY <= now();
    if (!isOver && !this.#refused.has(targetId)) return tokens.access;
    const renewing =
      this.#renewing.get(targetId) ??
      this.#renew(targetId, auth, secret, tokens).finally(() => this.#renewing.delete(targetId));
    this.#renewing.set(targetId, renewing);
    const renewed = await renewing;
    return isFault(renewed) ? renewed : renewed.access;
  }

  /**
   * Hears that a token was refused that was asked for at a time (ms since the epoch). True where trying again makes sense, with
   * another one: those that were under way with an old one take the one that was had meanwhile.
   */
  refused(targetId: string, asked: number): boolean {
    const kept = this.store.read(targetId);
    if (!kept || kept.consent.ended || this.#tokensIn(kept.tokens, kept.consent).refresh === null) return false;
    if ((this.#renewed.get(targetId) ?? 0) <= asked) this.#refused.add(targetId);
    return true;
  }

  async #renew(
    targetId: string,
    auth: ConsentAuth,
    secret: Buffer | null,
    tokens: Tokens,
  ): Promise<Tokens | OutwardFault> {
    if (tokens.refresh === null)
      return this.#end(targetId, 'its token ran out, and the provider gave none to renew it.');
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
      const before = this.store.read(targetId);
      this.#keep(targetId, renewed, before?.consent.givenAt ?? now());
      return renewed;
    } catch (error) {
      // RFC 6749 §5.2: the refresh token is not good any more; whatever else went wrong may pass.
      if (error instanceof oauth.ResponseBodyError && error.error === 'invalid_grant')
        return this.#end(
          targetId,
          error.error_description ? `${error.error_description}.` : 'the provider does not take it any more.',
        );
      const host = new URL(auth.tokenUrl).host;
      const code = error instanceof oauth.ResponseBodyError && error.status < 500 ? 'token' : 'other';
      return error instanceof Unreached
        ? error.fault
        : { code, message: `No token was had from ${host}: ${wordsOf(error)}`, milliseconds: 0 };
    }
  }

  #keep(targetId: string, tokens: Tokens, givenAt: number): void {
    const { access, refresh, expiresAt } = tokens;
    const sealed = this.vault.seal(JSON.stringify([access, refresh ?? '']));
    this.store.write(targetId, { givenAt, expiresAt, ended: null }, sealed);
    this.#refused.delete(targetId);
    this.#renewed.set(targetId, now());
  }

  #end(targetId: string, reason: string): OutwardFault {
    const kept = this.store.read(targetId);
    if (kept) this.store.write(targetId, { ...kept.consent, ended: { at: now(), reason } }, kept.tokens);
    this.changed(targetId);
    return missing(`Consent has ended: ${reason} Give it again on the target’s page.`);
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
  if (error instanceof oauth.WWWAuthenticateChallengeError) return 'it does not know this client.';
  return (error as Error).message;
}
