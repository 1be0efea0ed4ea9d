import { randomBytes } from 'node:crypto';
import type { Auth, Credentials } from '@grammata/core/target';
import { Webhook } from 'standardwebhooks';
import { vaultWith } from '../access';
import { json, startAnswering, type Answering } from '../testing/answering';
import { Authorizations, isFault, Outward } from '.';

const vault = vaultWith(randomBytes(32));
const outward = new Outward(['127.0.0.1']);
let tokens: Answering;
let answer: { status: number; body: unknown };
let authorizations: Authorizations;
beforeEach(async () => {
  answer = { status: 200, body: { access_token: 'tok-1', token_type: 'Bearer', expires_in: 3600 } };
  tokens = await startAnswering((_, response) => json(response, answer.status, answer.body));
  authorizations = new Authorizations(outward, vault);
});
afterEach(() => tokens.stop());
afterAll(() => outward.close());

const sealed = (auth: Auth, secret = 's 3&cret') => ({ auth, secret: vault.seal(secret) });
const oauth = (more = {}): Extract<Auth, { kind: 'oauth' }> => ({
  kind: 'oauth',
  tokenUrl: `${tokens.url}/token`,
  clientId: 'river:watch',
  scope: 'tickets',
  clientIn: 'header',
  ...more,
});

describe('OAuth 2 client credentials (RFC 6749 §4.4)', () => {
  test('a token is fetched as §4.4.2 says, the client shown by Basic as §2.3.1 says, and goes as a bearer token', async () => {
    expect(await authorizations.for(sealed(oauth()))).toEqual({
      headers: [['authorization', 'Bearer tok-1']],
      query: [],
    });
    const { method, headers, body } = tokens.heard[0]!;
    expect([method, headers['content-type']]).toEqual(['POST', 'application/x-www-form-urlencoded']);
    expect(Object.fromEntries(new URLSearchParams(body.toString()))).toEqual({
      grant_type: 'client_credentials',
      scope: 'tickets',
    });
    const shown = Buffer.from(headers.authorization!.replace('Basic ', ''), 'base64').toString();
    expect(shown).toBe('river%3Awatch:s+3%26cret');
  });
  test('the client can be shown in the body instead', async () => {
    await authorizations.for(sealed(oauth({ clientIn: 'body', scope: '' })));
    const { headers, body } = tokens.heard[0]!;
    expect(headers.authorization).toBeUndefined();
    expect(Object.fromEntries(new URLSearchParams(body.toString()))).toEqual({
      grant_type: 'client_credentials',
      client_id: 'river:watch',
      client_secret: 's 3&cret',
    });
  });
  test('a token is kept until it ends; those who ask at once share one fetching; one that was refused is fetched anew', async () => {
    const target = sealed(oauth());
    await Promise.all([authorizations.for(target), authorizations.for(target), authorizations.for(target)]);
    await authorizations.for(target);
    expect(tokens.heard).toHaveLength(1);
    const shown = (await authorizations.for(target)) as Credentials;
    expect(authorizations.forget(target, shown)).toBe(true);
    answer.body = { access_token: 'tok-2', token_type: 'Bearer', expires_in: 3600 };
    // Others that were refused with it take the next one, too: while it is fetched, and after.
    const next = authorizations.for(target);
    expect(authorizations.forget(target, shown)).toBe(true);
    const second = (await next) as Credentials;
    expect(authorizations.forget(target, shown)).toBe(true);
    expect(await authorizations.for(target)).toEqual(second);
    expect(tokens.heard).toHaveLength(2);
    // One that is refused right after that is not dropped: it is not the token that is wrong.
    expect(authorizations.forget(target, second)).toBe(false);
  });
  test('a server that hands out the same token again is read, though it is known and masked by then', async () => {
    const masking = new Outward(['127.0.0.1'], vault.mask);
    const again = new Authorizations(masking, vault);
    answer.body = { access_token: 'known-token', token_type: 'Bearer', expires_in: 20 };
    const target = sealed(oauth());
    const bearer = { headers: [['authorization', 'Bearer known-token']], query: [] };
    expect([await again.for(target), await again.for(target)]).toEqual([bearer, bearer]);
    expect(tokens.heard).toHaveLength(2);
    expect(vault.mask('known-token')).not.toContain('known-token');
    await masking.close();
  });
  test('one that ends within half a minute is not used again', async () => {
    answer.body = { access_token: 'short', token_type: 'Bearer', expires_in: 20 };
    await authorizations.for(sealed(oauth()));
    await authorizations.for(sealed(oauth()));
    expect(tokens.heard).toHaveLength(2);
  });
  test.each<[string, number, unknown, object]>([
    [
      'an error of §5.2',
      400,
      { error: 'invalid_client', error_description: 'Nobody of that name' },
      { code: 'token', message: expect.stringContaining('Nobody of that name.') },
    ],
    ['no token in the answer', 200, { token: 'x' }, { code: 'token' }],
    ['a server in trouble', 503, {}, { code: 'other', message: expect.stringContaining('503') }],
  ])('%s is told', async (_, status, body, fault) => {
    answer = { status, body };
    expect(await authorizations.for(sealed(oauth()))).toMatchObject(fault);
  });
  test('tokens are not asked for at private addresses that are not listed', async () => {
    const guarded = new Outward([]);
    const found = await new Authorizations(guarded, vault).for(sealed(oauth()));
    expect(isFault(found) && found.code).toBe('private');
    await guarded.close();
  });
});

// The other side is the Standard Webhooks library.
test('what is signed by Standard Webhooks is verified by its library, and nothing that was changed is', async () => {
  const secret = `whsec_${randomBytes(24).toString('base64')}`;
  const body = '{"site":"AB-07","note":"Föhre"}';
  const made = await authorizations.for(sealed({ kind: 'webhook' }, secret), body, 'delivery-1');
  if (isFault(made)) throw new Error(made.message);
  const headers = Object.fromEntries(made.headers);
  expect(headers['webhook-id']).toBe('delivery-1');
  expect(new Webhook(secret).verify(body, headers)).toEqual(JSON.parse(body));
  expect(() => new Webhook(secret).verify(`${body} `, headers)).toThrow();
});

// RFC 4231 §4.3, test case 2.
test('an HMAC over the body stands in its header', async () => {
  const auth: Auth = { kind: 'hmac', name: 'X-Signature', algorithm: 'sha256', encoding: 'hex', prefix: 'sha256=' };
  expect(await authorizations.for(sealed(auth, 'Jefe'), 'what do ya want for nothing?')).toEqual({
    headers: [['x-signature', 'sha256=5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843']],
    query: [],
  });
});
