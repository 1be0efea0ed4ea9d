import { pauseBefore } from './backoff';
import type { Success } from '@grammata/core/route';
import { retryAfterOf, verdictOn } from './outcome';

const at = Date.parse('2026-11-04T08:00:00Z');
const answer = (status: number, body = '', headers: Record<string, string> = {}) => ({
  status,
  headers,
  body,
  shown: body,
  bytes: Buffer.from(body),
  cut: false,
  milliseconds: 5,
});

// RFC 9110 §15: 2xx succeeded; 4xx is the client's fault; 5xx the server's. 408, 425 (RFC 8470), 429 (RFC 6585) may pass.
test.each<[number, 'delivered' | 'retry' | 'final']>([
  [200, 'delivered'],
  [201, 'delivered'],
  [204, 'delivered'],
  [301, 'final'],
  [400, 'final'],
  // Credentials: it waits until they are right.
  [401, 'retry'],
  [403, 'retry'],
  [404, 'final'],
  [408, 'retry'],
  [409, 'final'],
  [413, 'final'],
  [422, 'final'],
  [425, 'retry'],
  [429, 'retry'],
  [500, 'retry'],
  [501, 'final'],
  [502, 'retry'],
  [503, 'retry'],
  [504, 'retry'],
])('an answer of %d is %s', (status, outcome) => expect(verdictOn(answer(status), at).outcome).toBe(outcome));

test.each<['refused' | 'timeout' | 'dropped' | 'private' | 'address', 'retry' | 'final']>([
  ['refused', 'retry'],
  ['timeout', 'retry'],
  ['dropped', 'retry'],
  ['private', 'final'],
  ['address', 'final'],
])('no answer, %s, is %s', (code, outcome) =>
  expect(verdictOn({ code, message: 'x', milliseconds: 1 }, at)).toMatchObject({
    outcome,
    message: 'x',
    retryAfter: null,
  }),
);

// RFC 9110 §10.2.3: delay-seconds or HTTP-date, with the examples given there.
test.each<[string | undefined, number | null]>([
  ['120', 120_000],
  ['Wed, 04 Nov 2026 08:00:30 GMT', 30_000],
  ['Fri, 31 Dec 1999 23:59:59 GMT', 0],
  ['soon', null],
  [undefined, null],
])('Retry-After %s', (header, wait) => expect(retryAfterOf(header, at)).toBe(wait));

test.each<[string, 'retry' | 'final', RegExp]>([
  ['', 'retry', /^Not allowed with these credentials \(403\)\.$/],
  ['{"message":"The token lacks the scope contacts:write."}', 'retry', /^Not allowed with these credentials .* scope/],
  [
    '{"message":"duplicate content"}',
    'final',
    /^Request rejected by the target \(403\)\. Response: duplicate content$/,
  ],
])('403 with %j is %s', (body, outcome, message) => {
  const judged = verdictOn(answer(403, body), at);
  expect([judged.outcome, judged.message]).toEqual([outcome, expect.stringMatching(message)]);
});

describe('pauses between tries', () => {
  test.each([
    [1, 1000],
    [2, 2000],
    [3, 4000],
    [6, 32_000],
    [40, 30 * 60_000],
  ])('after try %d at most %d ms', (tried, most) => {
    expect(pauseBefore(tried, null, 1)).toBe(most);
    expect(pauseBefore(tried, null, 0)).toBe(most / 2);
  });
  // RFC 9110 §10.2.3: not before; and those that were asked together do not come back together.
  test('never less than the target asked for, and spread out behind that', () => {
    expect(pauseBefore(1, 90_000, 0)).toBe(90_000);
    expect(pauseBefore(1, 90_000, 1)).toBe(135_000);
    const all = Array.from({ length: 200 }, () => pauseBefore(1, 90_000));
    expect(new Set(all.map(each => Math.floor(each / 5000))).size).toBeGreaterThan(5);
  });
});

// JSend's statuses (from memory), and members that are common practice.
test.each<[object | string, string | null]>([
  [{ success: false, message: 'The key was revoked.' }, 'The key was revoked.'],
  [{ ok: false, error: 'invalid_auth' }, 'invalid_auth'],
  [{ success: false, errors: [{ field: 'email', message: 'is taken' }] }, 'email: is taken'],
  [{ status: 'fail', data: { title: 'A title is required' } }, 'title: A title is required'],
  [{ status: 'error', message: 'Unable to reach the database' }, 'Unable to reach the database'],
  [{ succeeded: false }, 'It does not say why.'],
  [{ success: true, id: 7 }, null],
  [{ status: 'success', data: { id: 7 } }, null],
  // A record of its own may have such members.
  [{ id: 7, status: 'failed inspection' }, null],
  [{ id: 7, status: 'error' }, null],
  [{ id: 7, success: 'no' }, null],
  [{ data: { success: false } }, null],
  ['[{"success":false}]', null],
  ['accepted', null],
])('a response with 200 that says %j refuses: %j', (body, says) => {
  const text = typeof body === 'string' ? body : JSON.stringify(body);
  const judged = (success: Success | null | undefined) =>
    verdictOn(answer(200, text), at, { statuses: [], takesPages: false, success });
  expect(judged(null)).toMatchObject(
    says === null
      ? { outcome: 'delivered', message: expect.stringMatching(/^Accepted with 200\./) }
      : { outcome: 'final', message: `Status 200, but the response says no: ${says}` },
  );
  // Where somebody said so, the status alone counts.
  expect(judged({ by: 'status', pointer: '', values: null }).outcome).toBe('delivered');
  expect(judged(undefined).outcome).toBe('delivered');
});
