import { referredTo, scopeOf } from '../scope';
import { decode, withArrival, withHeaders } from '.';

const read = (query = '') =>
  decode(
    new TextEncoder().encode(
      '{"id":"e1","sent":"2026-11-04T08:12:06Z","answers":[{"label":"Which site?","value":"Ford"}]}',
    ),
    'application/json',
    query,
  );
const told = (headers: [string, string][]) => withHeaders(read(), headers).submissions[0]!.meta;

test('the values of the address stand beside what the body says', () => {
  expect(read('campaign=autumn&site=x').submissions[0]!.meta).toMatchObject({
    'query.campaign': 'autumn',
    'query.site': 'x',
  });
});

test.each<[string, string]>([
  ['X-Event', 'entry.created'],
  ['x-form-id', 'moorings'],
  ['Idempotency-Key', 'k-77'],
  ['Message-ID', '<a@b.example>'],
])('what a header says of the message can be used: %s', (name, value) => {
  expect(told([[name, value]])).toEqual({ [`header.${name.toLowerCase()}`]: value });
});

test.each([
  ['Host', 'example.org'],
  ['Content-Type', 'application/json'],
  ['Accept-Encoding', 'gzip'],
  ['X-Forwarded-For', '192.0.2.1'],
  ['Sec-Fetch-Mode', 'cors'],
  ['Authorization', 'Basic …'],
  ['X-Hub-Signature-256', 'sha256=00'],
  ['X-Api-Key', 'k'],
  ['X-Webhook-Token', 't'],
  ['Cookie', 'a=b'],
  ['X-Long', 'x'.repeat(3000)],
])('how it was carried and what proves its sender stays out of reach: %s', (name, value) => {
  expect(told([[name, value]])).toEqual({});
});

test('what the payload says goes before it, and no more than some are taken', () => {
  const many = Array.from({ length: 60 }, (_, n): [string, string] => [`x-n-${n}`, String(n)]);
  expect(Object.keys(told(many))).toHaveLength(40);
});

test('when it arrived stands beside it, whatever the payload says of it', () => {
  const decoded = withArrival(read(), Date.UTC(2026, 10, 4, 8, 12, 7));
  expect(referredTo(scopeOf(decoded.submissions[0]!), '@arrivedAt')).toBe('2026-11-04T08:12:07.000Z');
  expect(referredTo(scopeOf(read().submissions[0]!), '@arrivedAt')).toBeNull();
});
