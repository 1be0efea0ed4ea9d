import { createHash, randomUUID } from 'node:crypto';
import express, { Router, type Request, type Response } from 'express';
import { html, page } from '../page/html';

export const SIGHTINGS_CLIENT = { id: 'grammata', secret: 'yard-sightings-91b2' };
/** Seconds that a token is good. */
const TOKEN_LASTS = 60;

/** Somebody's consent that a client acts for them. */
export interface GivenConsent {
  id: string;
  client: string;
  at: string;
  /** The refresh token that is good now; each is good once. */
  refresh: string;
}

interface Asked {
  redirect: string;
  state: string;
  challenge: string;
}

/**
 * An OAuth 2 provider (RFC 6749 §4.1) that wants PKCE (RFC 7636), whose refresh tokens are good once, and whose consents can be
 * withdrawn at any time.
 */
export function consents(
  kept: GivenConsent[],
  save: () => void,
): { router: Router; isGood: (request: Request) => boolean; withdraw: (id: string) => void } {
  const asked = new Map<string, Asked>();
  const codes = new Map<string, Asked>();
  const tokens = new Map<string, { consent: string; until: number }>();
  const router = Router();

  router.get('/sightings/authorize', (request, response) => {
    const { client_id: client, redirect_uri: redirect, state, code_challenge: challenge, ...rest } = request.query;
    const isFit =
      client === SIGHTINGS_CLIENT.id &&
      typeof redirect === 'string' &&
      /^http:\/\/(127\.0\.0\.1|localhost):\d+\//.test(redirect) &&
      typeof state === 'string' &&
      typeof challenge === 'string' &&
      rest.response_type === 'code' &&
      rest.code_challenge_method === 'S256';
    if (!isFit) return void response.status(400).send('This client is not known, or asks in another way.');
    const id = randomUUID();
    asked.set(id, { redirect, state, challenge });
    response.send(
      page(
        'Consent',
        'sightings',
        html`<h1>May “${client}” act for you?</h1>
          <p>It would record and change sightings in your name, until you withdraw your consent.</p>
          <p class="row">
            <a href="/sightings/answer?id=${id}&agree=yes">Yes, it may</a>
            <a href="/sightings/answer?id=${id}&agree=no">No</a>
          </p>`,
      ),
    );
  });
  router.get('/sightings/answer', (request, response) => {
    const found = asked.get(String(request.query.id));
    if (!found) return void response.status(400).send('Nobody asked for this.');
    asked.delete(String(request.query.id));
    const back = new URL(found.redirect);
    back.searchParams.set('state', found.state);
    if (request.query.agree === 'yes') {
      const code = randomUUID();
      codes.set(code, found);
      back.searchParams.set('code', code);
    } else back.searchParams.set('error', 'access_denied');
    response.redirect(303, back.href);
  });
  router.post('/sightings/token', express.urlencoded({ extended: false }), (request, response) => {
    response.set('cache-control', 'no-store');
    if (!isClient(request)) return void response.status(401).json({ error: 'invalid_client' });
    const body = request.body as Record<string, string | undefined>;
    if (body.grant_type === 'authorization_code') return void byCode(body, response);
    if (body.grant_type === 'refresh_token') return void byRefresh(body, response);
    response.status(400).json({ error: 'unsupported_grant_type' });
  });

  const grant = (consent: GivenConsent, response: Response) => {
    const token = randomUUID();
    tokens.set(token, { consent: consent.id, until: Date.now() + TOKEN_LASTS * 1000 });
    consent.refresh = randomUUID();
    save();
    response.json({
      access_token: token,
      token_type: 'Bearer',
      expires_in: TOKEN_LASTS,
      refresh_token: consent.refresh,
    });
  };
  const byCode = (
    { code = '', redirect_uri: redirect, code_verifier: verifier = '' }: Record<string, string | undefined>,
    response: Response,
  ) => {
    const found = codes.get(code);
    codes.delete(code);
    const proof = createHash('sha256').update(verifier).digest('base64url');
    if (!found || found.redirect !== redirect || found.challenge !== proof)
      return void response.status(400).json({ error: 'invalid_grant', error_description: 'This code is not good' });
    const consent = { id: randomUUID(), client: SIGHTINGS_CLIENT.id, at: new Date().toISOString(), refresh: '' };
    kept.push(consent);
    grant(consent, response);
  };
  const byRefresh = ({ refresh_token: refresh }: Record<string, string | undefined>, response: Response) => {
    const consent = kept.find(each => each.refresh === refresh);
    if (!consent)
      return void response
        .status(400)
        .json({ error: 'invalid_grant', error_description: 'This consent was withdrawn' });
    grant(consent, response);
  };
  const withdraw = (id: string) => {
    kept.splice(0, kept.length, ...kept.filter(each => each.id !== id));
    for (const [token, of] of tokens) if (of.consent === id) tokens.delete(token);
    save();
  };
  const isGood = (request: Request) => {
    const token = /^Bearer (.+)$/.exec(request.header('authorization') ?? '')?.[1] ?? '';
    return (tokens.get(token)?.until ?? 0) > Date.now();
  };
  return { router, isGood, withdraw };
}

/** The client, shown by HTTP Basic or in the body (RFC 6749 §2.3.1). */
function isClient(request: Request): boolean {
  const body = request.body as Record<string, string | undefined>;
  const encoded = /^Basic (.+)$/.exec(request.header('authorization') ?? '')?.[1];
  const [id, secret] = encoded
    ? Buffer.from(encoded, 'base64').toString().split(':').map(decodeURIComponent)
    : [body.client_id, body.client_secret];
  return id === SIGHTINGS_CLIENT.id && secret === SIGHTINGS_CLIENT.secret;
}
