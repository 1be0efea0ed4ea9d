import { spawn, type ChildProcess } from 'node:child_process';
import path from 'node:path';
import { vaultWith } from '../access/secrets';
import { Authorizations } from './authorization';
import { credentialsOf, type Consent } from '@grammata/core/target';
import { Consents, type ConsentAuth, type Consented, type ConsentStore } from './consent';
import { isFault, Outward } from './http';

// oidc-provider, an independent implementation of RFC 6749, 7636 and 7009, is the other side.

const BASE = 'https://register.example';
const redirect = 'http://127.0.0.1:9/consent';
const client = (id: string, method: string) => ({
  client_id: id,
  ...(method !== 'none' && { client_secret: 's3cret of the client' }),
  token_endpoint_auth_method: method,
  redirect_uris: [redirect],
  grant_types: ['authorization_code', 'refresh_token'],
  response_types: ['code'],
});

let provider: ChildProcess;
let issuer: string;

/** @param lasts seconds that access tokens are good */
async function startProvider(lasts: number): Promise<void> {
  const clients = [
    client('basic', 'client_secret_basic'),
    client('post', 'client_secret_post'),
    client('public', 'none'),
  ];
  provider = spawn(process.execPath, [path.join(__dirname, '../testing/provider.mjs')], {
    env: { ...process.env, CLIENTS: JSON.stringify(clients), LASTS: String(lasts) },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  issuer = await new Promise(resolve => provider.stdout!.once('data', text => resolve(String(text).trim())));
}

afterEach(() => {
  provider?.kill();
  jest.restoreAllMocks();
});

/** Goes where it is sent, as a browser would, presses what is to be pressed, until it is sent back. */
async function person(url: string, does: 'agrees' | 'refuses' = 'agrees'): Promise<URLSearchParams> {
  const cookies = new Map<string, string>();
  let at = url;
  let body: string | null = null;
  for (let step = 0; step < 20; step++) {
    if (at.startsWith(redirect)) return new URL(at).searchParams;
    const answer: Response = await fetch(at, {
      method: body === null ? 'GET' : 'POST',
      redirect: 'manual',
      headers: {
        cookie: [...cookies].map(each => each.join('=')).join('; '),
        ...(body !== null && { 'content-type': 'application/x-www-form-urlencoded' }),
      },
      ...(body !== null && { body }),
    });
    body = null;
    for (const each of answer.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(each) ?? [];
      cookies.set(name, value);
    }
    const location = answer.headers.get('location');
    if (location) {
      at = new URL(location, at).href;
      continue;
    }
    const page: string = await answer.text();
    const [, prompt]: string[] = /name="prompt" value="(\w+)"/.exec(page) ?? [];
    if (!prompt) throw new Error(page.slice(0, 500));
    if (does === 'refuses') at = `${at}/abort`;
    else body = new URLSearchParams({ prompt, login: 'morenike', password: 'x' }).toString();
  }
  throw new Error('It never came back.');
}

const authFor = (clientId: string): ConsentAuth => ({
  kind: 'consent',
  authorizeUrl: `${issuer}/auth`,
  tokenUrl: `${issuer}/token`,
  clientId,
  scope: 'openid',
  clientIn: clientId === 'post' ? 'body' : 'header',
});

function desk() {
  const row: Consented = { auth: { kind: 'bearer' }, baseUrl: BASE, consent: null, tokens: null };
  const written: Consent[] = [];
  const store: ConsentStore = {
    read: id => (id === 't' ? { ...row } : null),
    write(_id, consent, tokens, was) {
      if (was !== row.tokens) return false;
      written.push(consent);
      Object.assign(row, { consent, tokens });
      return true;
    },
  };
  const vault = vaultWith(Buffer.alloc(32, 7));
  const outward = new Outward(['127.0.0.1'], vault.mask);
  const ended: string[] = [];
  const consents = new Consents(outward, vault, store, redirect, id => ended.push(id));
  const secret = vault.seal('s3cret of the client');
  const begin = (auth: ConsentAuth) => {
    row.auth = auth;
    return consents.begin('t', auth, BASE);
  };
  return {
    consents,
    row,
    begin,
    /** Somebody gives consent. */
    give: async (auth: ConsentAuth) => consents.finish(await person(await begin(auth)), () => secret),
    token: (auth: ConsentAuth) => consents.token({ id: 't', auth, baseUrl: BASE, secret }),
    written,
    vault,
    outward,
    ended,
    secret,
    authorizations: new Authorizations(outward, vault, consents),
  };
}
const me = async (token: string) =>
  (await fetch(`${issuer}/me`, { headers: { authorization: `Bearer ${token}` } })).status;
const tokensOf = ({ vault, row }: ReturnType<typeof desk>) => JSON.parse(vault.open(row.tokens!)) as [string, string];

test.each(['basic', 'post', 'public'])(
  'consent is given, and its token is good: a client that shows itself by %s',
  async id => {
    await startProvider(3600);
    const at = desk();
    const auth = authFor(id);
    at.row.auth = auth;
    const secret = id === 'public' ? null : at.secret;
    expect(await at.authorizations.for({ id: 't', auth, secret })).toMatchObject({
      code: 'consent',
      message: expect.stringMatching(/No consent yet/),
    });
    const back = await person(await at.begin(auth));
    expect(await at.consents.finish(back, () => secret)).toEqual({ targetId: 't', fault: null });
    const given = await at.authorizations.for({ id: 't', auth, secret });
    const [[, header] = []] = 'headers' in given ? given.headers : [];
    expect(await me(header!.replace('Bearer ', ''))).toBe(200);
    // What came is known as a secret, and is masked wherever it turns up.
    expect(at.vault.mask(`x ${header!.slice(7)} y ${tokensOf(at)[1]}`)).toBe('x •••••• y ••••••');
    // A state is good once.
    expect(await at.consents.finish(back, () => secret)).toBeNull();
  },
);

test('a refusal is told; a code that is not for this client is refused', async () => {
  await startProvider(3600);
  const at = desk();
  const refused = await person(await at.begin(authFor('basic')), 'refuses');
  expect(await at.consents.finish(refused, () => at.secret)).toEqual({ targetId: 't', fault: 'Consent was refused.' });
  const back = await person(await at.begin(authFor('basic')));
  back.set('code', 'another');
  expect(await at.consents.finish(back, () => at.secret)).toMatchObject({
    targetId: 't',
    fault: expect.stringMatching(/grant request is invalid/),
  });
  expect(await at.consents.finish(new URLSearchParams({ code: 'x', state: 'nobody’s' }), () => at.secret)).toBeNull();
  expect(at.row.consent).toBeNull();
});

test('tokens that run out are renewed once for all that go at once, rotated, and kept before they are used', async () => {
  // Less than half a minute is about to end at once.
  await startProvider(20);
  const at = desk();
  const auth = authFor('basic');
  await at.give(auth);
  const [first, refresh] = tokensOf(at);
  const had = await Promise.all(Array.from({ length: 8 }, () => at.token(auth)));
  const [second, rotated] = tokensOf(at);
  expect(new Set(had)).toEqual(new Set([second]));
  expect([second === first, rotated === refresh, at.written.length]).toEqual([false, false, 2]);
  expect(await me(second)).toBe(200);
  expect(at.written.every(each => each.givenAt === at.written[0]!.givenAt)).toBe(true);
});

test('a token that is refused is renewed; those that were under way take the new one', async () => {
  await startProvider(3600);
  const at = desk();
  const auth = authFor('basic');
  await at.give(auth);
  const [first] = tokensOf(at);
  const of = { id: 't', auth, secret: at.secret };
  expect(at.authorizations.forget(of, credentialsOf({ kind: 'bearer' }, first))).toBe(true);
  const second = await at.token(auth);
  expect(second).not.toBe(first);
  // Another that was under way with the old one takes the new one.
  expect(at.authorizations.forget(of, credentialsOf({ kind: 'bearer' }, first))).toBe(true);
  expect(await at.token(auth)).toBe(second);
});

test('consent that was withdrawn has ended: it is said, kept, and given again', async () => {
  await startProvider(20);
  const at = desk();
  const auth = authFor('basic');
  await at.give(auth);
  const [, refresh] = tokensOf(at);
  const credentials = Buffer.from(`basic:${encodeURIComponent('s3cret of the client').replace(/%20/g, '+')}`).toString(
    'base64',
  );
  const revoked = await fetch(`${issuer}/token/revocation`, {
    method: 'POST',
    headers: { authorization: `Basic ${credentials}`, 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ token: refresh }).toString(),
  });
  expect(revoked.status).toBe(200);
  const token = await at.token(auth);
  expect(isFault(token as object) && token).toMatchObject({
    code: 'consent',
    message: expect.stringMatching(/^Consent expired: /),
    until: expect.any(Number),
  });
  expect(at.row.consent!.ended).toMatchObject({ reason: expect.any(String) });
  expect(at.ended).toEqual(['t']);
  expect(at.authorizations.forget({ id: 't', auth, secret: at.secret }, { headers: [], query: [] })).toBe(false);
  await at.give(auth);
  expect(typeof (await at.token(auth))).toBe('string');
});

describe('while a token is renewed', () => {
  /** A desk whose token is about to end, and the provider's answer to its renewal held back. */
  async function renewing() {
    await startProvider(20);
    const at = desk();
    const auth = authFor('basic');
    await at.give(auth);
    const { send } = at.outward;
    let answer: () => void = () => undefined;
    const held = new Promise<void>(resolve => (answer = resolve));
    jest.spyOn(at.outward, 'send').mockImplementationOnce(async request => {
      const result = await send.call(at.outward, request);
      await held;
      return result;
    });
    const token = at.token(auth);
    return { at, auth, token, answer };
  }

  test('consent that is given meanwhile stays', async () => {
    const { at, auth, token, answer } = await renewing();
    await at.give(auth);
    const given = at.row.tokens;
    answer();
    expect(await token).toBe(tokensOf(at)[0]);
    expect(at.row.tokens).toBe(given);
  });

  test('consent that is forgotten meanwhile stays forgotten', async () => {
    const { at, token, answer } = await renewing();
    Object.assign(at.row, { consent: null, tokens: null });
    answer();
    expect(await token).toMatchObject({ code: 'consent', message: expect.stringMatching(/No consent yet/) });
    expect(at.row).toMatchObject({ consent: null, tokens: null });
  });

  test('a target that moves meanwhile is not shown the token of before, nor the one of now at the address of before', async () => {
    const { at, auth, token, answer } = await renewing();
    at.row.baseUrl = 'https://other.example';
    answer();
    expect(await token).toMatchObject({ code: 'consent', message: expect.stringMatching(/were changed/) });
    expect(await at.token(auth)).toMatchObject({ code: 'consent', message: expect.stringMatching(/were changed/) });
  });

  test('a consent that is refused does not end one that was given meanwhile', async () => {
    const { at, auth, token, answer } = await renewing();
    answer();
    expect(typeof (await token)).toBe('string');
    const before = at.row.tokens;
    jest.spyOn(at.outward, 'send').mockImplementationOnce(async () => {
      await at.give(auth);
      const body = JSON.stringify({ error: 'invalid_grant' });
      const headers = { 'content-type': 'application/json' };
      return { status: 400, headers, body, shown: body, bytes: Buffer.from(body), cut: false, milliseconds: 1 };
    });
    expect(typeof (await at.token(auth))).toBe('string');
    expect(at.row.tokens).not.toBe(before);
    expect(at.row.consent!.ended).toBeNull();
  });
});

test('consent comes back to a target that is another by then: it is not taken', async () => {
  await startProvider(3600);
  const at = desk();
  const back = await person(await at.begin(authFor('basic')));
  at.row.baseUrl = 'https://other.example';
  expect(await at.consents.finish(back, () => at.secret)).toMatchObject({
    fault: expect.stringMatching(/were changed/),
  });
  expect(at.row.tokens).toBeNull();
});

test('a provider that can’t be reached ends nothing', async () => {
  await startProvider(20);
  const at = desk();
  const auth = authFor('basic');
  await at.give(auth);
  const gone = { ...auth, tokenUrl: 'http://127.0.0.1:1/token' };
  at.row.auth = gone;
  expect(await at.token(gone)).toMatchObject({ code: 'refused' });
  expect(at.row.consent!.ended).toBeNull();
  at.row.auth = auth;
  expect(typeof (await at.token(auth))).toBe('string');
});

test('the address at the provider says what RFC 6749 §4.1.1 and RFC 7636 §4.3 ask for', async () => {
  const at = desk();
  const auth: ConsentAuth = {
    kind: 'consent',
    authorizeUrl: 'https://a.example.org/go?tenant=7',
    tokenUrl: 'https://a.example.org/token',
    clientId: 'c',
    scope: 'a b',
    clientIn: 'body',
  };
  const { searchParams, pathname } = new URL(await at.begin(auth));
  expect(pathname).toBe('/go');
  expect(Object.fromEntries(searchParams)).toEqual({
    tenant: '7',
    response_type: 'code',
    client_id: 'c',
    redirect_uri: redirect,
    scope: 'a b',
    state: expect.stringMatching(/^[\w-]{43}$/),
    code_challenge: expect.stringMatching(/^[\w-]{43}$/),
    code_challenge_method: 'S256',
  });
});

test('consent is of a target’s own address: the side for tests has none of it', async () => {
  const at = desk();
  expect(await at.authorizations.for({ auth: authFor('basic'), secret: at.secret })).toMatchObject({ code: 'token' });
});
