import { createHmac } from 'node:crypto';
import { VerificationInput } from '@grammata/contract';
import { Webhook } from 'standardwebhooks';
import { isAllowed, signingFor, verify as verifyChecked, type Checked, type Rule } from '.';

const at = Date.parse('2026-11-04T08:00:00Z');
const stamp = String(at / 1000);
type Sent = Omit<Checked, 'signed'> & { body: Buffer };

/** The body goes through in pieces, as it does when it arrives. */
function verify({ body, ...request }: Sent, rule: Rule, secrets: string[]) {
  const signing = signingFor(rule, secrets, request.header);
  for (let at = 0; at < body.length; at += 7) signing?.update(body.subarray(at, at + 7));
  return verifyChecked({ ...request, signed: signing?.signed() ?? null }, rule, secrets);
}

const request = (headers: Record<string, string>, body: string | Buffer = '{"site":"AB-07"}', query = ''): Sent => ({
  header: name => headers[name.toLowerCase()] ?? null,
  query: new URLSearchParams(query),
  body: Buffer.from(body),
  now: at,
});
const rule = (more: Partial<Rule>): Rule => ({ ...new VerificationInput(), ...more });

// RFC 4231 §4, test cases 1, 2, 3, 4, 6 and 7: key, data, HMAC-SHA-256 and the beginning of HMAC-SHA-512.
const hex = (text: string) => Buffer.from(text, 'hex');
test.each<[Buffer, Buffer, string, string]>([
  [
    Buffer.alloc(20, 0x0b),
    Buffer.from('Hi There'),
    'b0344c61d8db38535ca8afceaf0bf12b881dc200c9833da726e9376c2e32cff7',
    '87aa7cdea5ef619d4ff0b4241a1d6cb0',
  ],
  [
    Buffer.from('Jefe'),
    Buffer.from('what do ya want for nothing?'),
    '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
    '164b7a7bfcf819e2e395fbe73b56e0a3',
  ],
  [
    Buffer.alloc(20, 0xaa),
    Buffer.alloc(50, 0xdd),
    '773ea91e36800e46854db8ebd09181a72959098b3ef8c122d9635514ced565fe',
    'fa73b0089d56a284efb0f0756c890be9',
  ],
  [
    hex('0102030405060708090a0b0c0d0e0f10111213141516171819'),
    Buffer.alloc(50, 0xcd),
    '82558a389a443c0ea4cc819899f2083a85f0faa3e578f8077a2e3ff46729665b',
    'b0ba465637458c6990e5a8c5f61d4af7',
  ],
  [
    Buffer.alloc(131, 0xaa),
    Buffer.from('Test Using Larger Than Block-Size Key - Hash Key First'),
    '60e431591ee0b67f0d8a26aacbf5b77f8e0bc6213728c5140546040f0ee37f54',
    '80b24263c7c1a3ebb71493c1dd7be8b4',
  ],
])('RFC 4231: the vectors hold for what signatures are computed with', (key, data, sha256, sha512) => {
  expect(createHmac('sha256', key).update(data).digest('hex')).toBe(sha256);
  expect(createHmac('sha512', key).update(data).digest('hex')).toMatch(new RegExp(`^${sha512}`));
});

describe('a signature over the body', () => {
  // RFC 4231 §4.3, whose key and data are text: the published value is what must be in the header.
  const data = 'what do ya want for nothing?';
  const signature = '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843';
  const over = rule({ kind: 'hmac', name: 'X-Signature', prefix: 'sha256=' });
  test.each<[string, Record<string, string>, boolean, RegExp]>([
    ['holds', { 'x-signature': `sha256=${signature}` }, true, /is valid/],
    ['in capitals', { 'x-signature': `sha256=${signature.toUpperCase()}` }, true, /is valid/],
    [
      'differs',
      { 'x-signature': `sha256=${signature.replace('5', '6')}` },
      false,
      /“6bdcc146bf60…”; sha256 over the body \(28 bytes\) gives “5bdcc146bf60…”/,
    ],
    ['without its prefix', { 'x-signature': signature }, false, /does not start with “sha256=”/],
    ['missing', {}, false, /“X-Signature” with the signature is missing/],
  ])('%s', (_, headers, ok, words) => {
    const verdict = verify(request(headers, data), over, ['Jefe']);
    expect(verdict).toEqual({ ok, words: expect.stringMatching(words) });
    expect(verdict.words).not.toContain('Jefe');
  });
  test('either of two secrets will do', () =>
    expect(verify(request({ 'x-signature': `sha256=${signature}` }, data), over, ['new', 'Jefe']).ok).toBe(true));
  test('one byte more in the body, and it differs', () =>
    expect(verify(request({ 'x-signature': `sha256=${signature}` }, `${data} `), over, ['Jefe']).ok).toBe(false));
});

describe('a signature over timestamp and body', () => {
  const over = rule({
    kind: 'hmac',
    name: 'sig',
    encoding: 'base64',
    algorithm: 'sha512',
    signed: 'timestamp.body',
    timestampHeader: 'sent',
    tolerance: 300,
  });
  const sign = (time: string) => createHmac('sha512', 's').update(`${time}.{}`).digest('base64');
  test.each<[string, string, boolean]>([
    ['now', stamp, true],
    ['in ms', `${stamp}000`, true],
    ['as a date', '2026-11-04T08:01:00Z', true],
    ['four minutes off', String(at / 1000 - 240), true],
    ['six minutes off', String(at / 1000 - 360), false],
    ['from the future', String(at / 1000 + 900), false],
    ['unreadable', 'soon', false],
  ])('%s', (_, time, ok) => expect(verify(request({ sig: sign(time), sent: time }, '{}'), over, ['s']).ok).toBe(ok));
});

describe('Standard Webhooks, signed by its own library', () => {
  const secret = `whsec_${Buffer.from('a secret of the yard, 24+').toString('base64')}`;
  const body = '{"site":"Otter Weir"}';
  const signed = (id = 'msg_1', time = at) => ({
    'webhook-id': id,
    'webhook-timestamp': String(time / 1000),
    'webhook-signature': new Webhook(secret).sign(id, new Date(time), body),
  });
  const standard = rule({ kind: 'standard' });
  test('holds', () => expect(verify(request(signed(), body), standard, [secret])).toMatchObject({ ok: true }));
  test('one of several signatures is enough', () =>
    expect(
      verify(
        request({ ...signed(), 'webhook-signature': `v1,AAAA ${signed()['webhook-signature']}` }, body),
        standard,
        [secret],
      ).ok,
    ).toBe(true));
  test('an old message is refused', () =>
    expect(verify(request(signed('m', at - 600_000), body), standard, [secret])).toMatchObject({
      ok: false,
      words: expect.stringContaining('600 s off'),
    }));
  test('another id, another body, another secret', () => {
    expect(verify(request({ ...signed(), 'webhook-id': 'msg_2' }, body), standard, [secret]).ok).toBe(false);
    expect(verify(request(signed(), '{}'), standard, [secret]).ok).toBe(false);
    expect(verify(request(signed(), body), standard, ['whsec_AAAA']).ok).toBe(false);
  });
});

test.each<[string, Partial<Rule>, Sent, boolean]>([
  ['header', { kind: 'header', name: 'X-Key' }, request({ 'x-key': 'sesame' }), true],
  ['header, wrong', { kind: 'header', name: 'X-Key' }, request({ 'x-key': 'sesam' }), false],
  ['query', { kind: 'query', name: 'key' }, request({}, '', 'key=sesame&a=1'), true],
  ['query, missing', { kind: 'query', name: 'key' }, request({}, '', 'a=1'), false],
  // RFC 7617 §2: user-id and password joined by a colon, in base64.
  [
    'Basic',
    { kind: 'basic', name: 'yard' },
    request({ authorization: `Basic ${Buffer.from('yard:sesame').toString('base64')}` }),
    true,
  ],
  [
    'Basic, another user',
    { kind: 'basic', name: 'yard' },
    request({ authorization: `Basic ${Buffer.from('shed:sesame').toString('base64')}` }),
    false,
  ],
  ['Basic, none', { kind: 'basic', name: 'yard' }, request({}), false],
])('a secret: %s', (_, more, checked, ok) => expect(verify(checked, rule(more), ['sesame']).ok).toBe(ok));

// RFC 4632 (IPv4) and RFC 4291 §2.3 (IPv6) prefixes.
test.each<[string | undefined, string[], boolean]>([
  ['192.0.2.7', [], true],
  ['192.0.2.7', ['192.0.2.0/24'], true],
  ['192.0.3.7', ['192.0.2.0/24'], false],
  ['::ffff:192.0.2.7', ['192.0.2.7'], true],
  ['2001:db8::1', ['2001:db8::/32'], true],
  ['2001:db9::1', ['2001:db8::/32', '192.0.2.0/24'], false],
  [undefined, ['192.0.2.0/24'], false],
])('%s in %j: %s', (address, ranges, allowed) => expect(isAllowed(address, ranges)).toBe(allowed));
