import { createHmac } from 'node:crypto';
import {
  credentialsOf,
  isMade,
  maskedCredentials,
  type Auth,
  type Credentials,
  type MadeAuth,
} from '@grammata/core/target';
import { isJsonObject, parseJson } from '@grammata/core/submission';
import type { Vault } from '../access';
import { now } from '../clock';
import { newId } from '../ids';
import type { ConsentAuth, Consents } from './consent';
import { isFault, type Outward, type OutwardFault } from './http';

/** How a target is shown who asks, as it is stored. */
export interface Sealed {
  /** The target it is of: a consent is given for one target, at its own address. */
  readonly id?: string;
  readonly baseUrl?: string;
  auth: Auth;
  secret: Buffer | null;
}

const none: Credentials = { headers: [], query: [] };

/** The same as it is recorded. */
export const maskedFor = ({ auth, secret }: Sealed): Credentials =>
  secret || auth.kind === 'consent' ? maskedCredentials(auth) : none;

/** How long before its end a token is fetched anew, in ms. */
const EARLY = 30_000;
/** How long a token is taken to last that does not say, in ms (RFC 6749 §5.1 only recommends to say it). */
const USUALLY = 300_000;
/** A token is fetched anew after a day whatever it says. */
const LONGEST = 86_400_000;
/** ms after its end for which a token is still masked: clocks differ, and answers come late. */
const AFTER = 86_400_000;

/** ms after a token was dropped during which the next one is not. */
const SOON = 60_000;

interface Token {
  value: string;
  until: number;
}

/** Makes what is put on requests as they leave: keys as they are, signatures over the body, tokens that are fetched and kept. */
export class Authorizations {
  readonly #tokens = new Map<string, Token>();
  /** When a token was dropped last. */
  readonly #dropped = new Map<string, number>();
  readonly #fetching = new Map<string, Promise<Token | OutwardFault>>();

  constructor(
    private readonly outward: Outward,
    private readonly vault: Vault,
    private readonly consents: Pick<Consents, 'token' | 'refused'> | null = null,
  ) {}

  /**
   * What is put on a request with this body.
   * @param id the message's identifier, which a signature covers; one is made where none is given
   */
  async for(
    { id: targetId, baseUrl, auth, secret }: Sealed,
    body: string | Buffer = '',
    id = newId(),
  ): Promise<Credentials | OutwardFault> {
    if (auth.kind === 'consent') return this.#consented(targetId, auth, baseUrl, secret);
    if (!secret) return none;
    const opened = this.vault.open(secret);
    if (!isMade(auth)) return credentialsOf(auth, opened);
    if (auth.kind !== 'oauth') return { headers: signed(auth, opened, body, id), query: [] };
    const token = await this.#token(auth, opened);
    return isFault(token) ? token : credentialsOf({ kind: 'bearer' }, token.value);
  }

  /**
   * Drops a token that was refused. True where trying again makes sense, with another one: those that were under way with an old one
   * take the one that was had meanwhile. One that was had a moment ago because another was refused is not dropped again.
   * @param shown what was put on the request
   */
  forget({ id, auth, secret }: Sealed, shown: Credentials): boolean {
    if (auth.kind === 'consent') return id !== undefined && (this.consents?.refused(id, tokenIn(shown)) ?? false);
    if (auth.kind !== 'oauth' || secret === null) return false;
    const key = keyOf(auth, this.vault.open(secret));
    if (this.#tokens.get(key)?.value !== tokenIn(shown)) return true;
    if (now() - (this.#dropped.get(key) ?? -Infinity) < SOON) return false;
    this.#dropped.set(key, now());
    this.#tokens.delete(key);
    return true;
  }

  async #consented(
    id: string | undefined,
    auth: ConsentAuth,
    baseUrl: string | null = null,
    secret: Buffer | null,
  ): Promise<Credentials | OutwardFault> {
    if (id === undefined || !this.consents)
      return { code: 'token', message: 'Consent is given for the live address only.', milliseconds: 0 };
    const token = await this.consents.token({ id, auth, baseUrl, secret });
    return typeof token === 'string' ? credentialsOf({ kind: 'bearer' }, token) : token;
  }

  async #token(auth: OAuth, secret: string): Promise<Token | OutwardFault> {
    const key = keyOf(auth, secret);
    const known = this.#tokens.get(key);
    if (known && known.until - EARLY > now()) return known;
    // Deliveries that go at once share one fetching.
    const fetching = this.#fetching.get(key) ?? this.#fetch(auth, secret).finally(() => this.#fetching.delete(key));
    this.#fetching.set(key, fetching);
    const token = await fetching;
    if (!isFault(token)) {
      this.vault.know(token.value, token.until + AFTER);
      this.#tokens.set(key, token);
    }
    return token;
  }

  /** Client credentials (RFC 6749 §4.4.2), the client's own shown as §2.3.1 says. */
  async #fetch(auth: OAuth, secret: string): Promise<Token | OutwardFault> {
    const form = new URLSearchParams({ grant_type: 'client_credentials', ...(auth.scope && { scope: auth.scope }) });
    if (auth.clientIn === 'body') {
      form.set('client_id', auth.clientId);
      form.set('client_secret', secret);
    }
    const user = encoded(auth.clientId);
    const headers =
      auth.clientIn === 'header' ? credentialsOf({ kind: 'basic', user }, encoded(secret)).headers : none.headers;
    const answer = await this.outward.send({
      method: 'POST',
      url: auth.tokenUrl,
      headers: {
        'content-type': 'application/x-www-form-urlencoded',
        accept: 'application/json',
        ...Object.fromEntries(headers),
      },
      body: form.toString(),
    });
    const failed = (code: OutwardFault['code'], message: string): OutwardFault => ({
      code,
      message: `No token from ${new URL(auth.tokenUrl).host}: ${message}`,
      milliseconds: answer.milliseconds,
    });
    if (isFault(answer)) return failed(answer.code, answer.message);
    const document = parseJson(answer.body);
    const {
      access_token: value,
      expires_in: lasts,
      error,
      error_description: said,
    } = isJsonObject(document) ? document : {};
    if (answer.status !== 200 || typeof value !== 'string') {
      const words = [said, error].find(each => typeof each === 'string') ?? `it answered ${answer.status}`;
      return failed(answer.status >= 500 || answer.status === 429 ? 'other' : 'token', `${String(words)}.`);
    }
    const seconds = Number(lasts);
    return { value, until: now() + (seconds > 0 ? Math.min(seconds * 1000, LONGEST) : USUALLY) };
  }
}

type OAuth = Extract<Auth, { kind: 'oauth' }>;

const keyOf = (auth: OAuth, secret: string) => JSON.stringify([auth, secret]);

/** The token that was put on a request. */
const tokenIn = ({ headers }: Credentials): string => headers[0]?.[1].replace(/^Bearer /, '') ?? '';

/** application/x-www-form-urlencoded, as RFC 6749 §2.3.1 asks of identifier and secret in Basic. */
const encoded = (text: string) => new URLSearchParams([['', text]]).toString().slice(1);

/** The headers of a signature over the body. */
function signed(
  auth: Exclude<MadeAuth, OAuth | ConsentAuth>,
  secret: string,
  body: string | Buffer,
  id: string,
): Credentials['headers'] {
  if (auth.kind === 'hmac') {
    const digest = createHmac(auth.algorithm, secret).update(body).digest(auth.encoding);
    return [[auth.name.toLowerCase(), `${auth.prefix}${digest}`]];
  }
  const seconds = String(Math.floor(now() / 1000));
  const key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64');
  const digest = createHmac('sha256', key).update(`${id}.${seconds}.`).update(body).digest('base64');
  return [
    ['webhook-id', id],
    ['webhook-timestamp', seconds],
    ['webhook-signature', `v1,${digest}`],
  ];
}
