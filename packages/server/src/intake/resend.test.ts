import { VerificationInput, verificationKinds } from '@grammata/contract';
import fc from 'fast-check';
import { messageAgain, wasPosted } from './resend';
import { proofFor, signingFor, verify, type Rule } from './verify';

const now = Date.parse('2026-11-04T08:00:00Z');
const rule = (more: Partial<Rule>): Rule => ({ ...new VerificationInput(), ...more });
const standardSecret = `whsec_${Buffer.from('a key of 24 bytes or so..').toString('base64')}`;

/** Whether an intake believes a message. */
function believes(of: Rule, secrets: string[], { headers, url, body }: ReturnType<typeof messageAgain>) {
  const header = (name: string) => headers.find(each => each[0].toLowerCase() === name.toLowerCase())?.[1] ?? null;
  const signing = signingFor(of, secrets, header);
  signing?.update(body);
  const query = new URL(url, 'http://a').searchParams;
  return verify({ header, query, now, signed: signing?.signed() ?? null }, of, secrets);
}

const came = {
  method: 'POST',
  url: '/in/old?form=7',
  headers: [
    ['Content-Type', 'application/json'],
    ['Host', 'a'],
    ['Content-Length', '3'],
    ['Authorization', '••••••'],
    ['X-Mark', 'one'],
  ] as [string, string][],
  body: Buffer.from('{"id":"sub-20411","site":"AB-07","note":"sub-204119"}'),
};
const again = (of: Rule | null, replace: string | null = null, body = came.body, secrets = [standardSecret]) =>
  messageAgain({ ...came, body }, { slug: 'new-slug', verification: of }, secrets, {
    replace,
    turn: letter => (/\d/.test(letter) ? '9' : 'z'),
    id: 'msg_1',
    now,
  });

test.each(
  verificationKinds.flatMap(kind =>
    (['body', 'timestamp.body', 'id.timestamp.body'] as const).map(signed => [kind, signed] as const),
  ),
)('an intake believes what is sent once more: %s, %s', (kind, signed) => {
  const of = rule({ kind, signed, name: 'X-Proof', prefix: 'sha256=', timestampHeader: 'X-Time', idHeader: 'X-Id' });
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), bytes => {
      const message = again(of, null, Buffer.from(bytes));
      expect(believes(of, [standardSecret], message)).toMatchObject({ ok: true });
      expect(believes(of, ['whsec_YW5vdGhlcg=='], message)).toMatchObject({ ok: false });
    }),
    { numRuns: 30 },
  );
});

test('as it came, but for what belongs to the connection and what was masked', () => {
  const { method, url, headers, body, identifier } = again(null);
  expect([method, url, identifier]).toEqual(['POST', '/in/new-slug?form=7', null]);
  expect(headers).toEqual([
    ['Content-Type', 'application/json'],
    ['X-Mark', 'one'],
  ]);
  expect(body.equals(came.body)).toBe(true);
});

test('with an identifier of its own, wherever the other one stood by itself', () => {
  const { body, identifier } = again(null, 'sub-20411');
  expect(identifier).toBe('szz-99999');
  expect(JSON.parse(body.toString())).toEqual({ id: identifier, site: 'AB-07', note: 'sub-204119' });
});

test('bytes of any charset stay what they are', () => {
  const body = Buffer.concat([
    Buffer.from('{"id":"sub-20411","n":"'),
    Buffer.from([0xe9, 0xff, 0x80]),
    Buffer.from('"}'),
  ]);
  const sent = again(null, 'sub-20411', body).body;
  expect(sent.subarray(-5).equals(body.subarray(-5))).toBe(true);
  expect(sent.length).toBe(body.length);
});

test.each([
  ['that is too short to be told from other text', '12'],
  ['that the body does not state', 'nowhere-to-be-found'],
])('an identifier %s is left as it is', (_, replace) => {
  const { body, identifier } = again(null, replace);
  expect([identifier, body.equals(came.body)]).toEqual([null, true]);
});

test('what was not posted can’t be posted once more', () =>
  expect(['POST', 'PATCH', 'MAIL', 'FEED', 'FILE'].map(method => wasPosted({ method }))).toEqual([
    true,
    true,
    false,
    false,
    false,
  ]));

test('of several secrets the first is shown', () =>
  expect(
    proofFor(rule({ kind: 'query', name: 'key' }), ['new', 'old'], Buffer.alloc(0), { id: '', now }).query,
  ).toEqual([['key', 'new']]));
