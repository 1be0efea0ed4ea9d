import type { Success } from '../route';
import { complaintIn, doubtIn, isAboutCredentials, isSuccess, membersOf, refusalBy } from '.';

test.each<[string, string | null]>([
  [
    '{"title":"Not taken.","errors":[{"field":"site","message":"not one of the options"}]}',
    'Not taken. site: not one of the options',
  ],
  [
    '{"type":"about:blank","title":"Bad","detail":"pH is missing","errors":[{"detail":"must be a number","pointer":"#/ph"}]}',
    'pH is missing #/ph: must be a number',
  ], // RFC 9457 §3, appendix example shape
  ['{"error":{"message":"no such table"}}', 'no such table'],
  ['{"error":"invalid_grant","error_description":"expired"}', 'expired'],
  ['plain words', 'plain words'],
  ['<html>Oops</html>', null],
  ['', null],
])('the complaint in %s', (body, said) => expect(complaintIn(body)).toBe(said));

// Common practice, no source.
test.each<[object | string, string | null]>([
  [{ status: 'ERROR', message: 'duplicate' }, 'duplicate'],
  [{ result: 'fail', detail: 'No such list.' }, 'No such list.'],
  [{ errors: ['email is taken'] }, 'email is taken'],
  [{ error: 'invalid_auth' }, 'invalid_auth'],
  [{ outcome: 'rejected' }, 'It does not say why.'],
  ['ERROR: no such list', 'ERROR: no such list'],
  // Said of nothing, or of a record that was stored.
  [{ errors: [], error: null, status: 'ok' }, null],
  [{ error: 0, failures: {} }, null],
  [{ error: false }, null],
  [{ id: 7, status: 'failed' }, null],
  [{ status: 'failed inspection' }, null],
  [{ message: 'Error reports are welcome.' }, null],
  ['accepted', null],
  ['errorless', null],
  ['[{"error":"x"}]', null],
])('a response that says %j may say no: %j', (body, doubt) =>
  expect(doubtIn(typeof body === 'string' ? body : JSON.stringify(body))).toBe(doubt),
);

test.each<[number, string, boolean]>([
  [401, '{"message":"duplicate content"}', true],
  [403, '', true],
  [403, '<html>Forbidden</html>', true],
  [403, '{"message":"Invalid API key"}', true],
  [403, '{"error":{"message":"You do not have permission to write to this list."}}', true],
  [403, '{"message":"duplicate content"}', false],
  [403, 'Records of last year are closed.', false],
  [404, '', false],
])('%i with %j is about credentials: %s', (status, body, is) => expect(isAboutCredentials(status, body)).toBe(is));

describe('a member that says whether it went well', () => {
  const status: Success = { by: 'member', pointer: '/state', values: ['OK', 'queued'] };
  const key: Success = { by: 'member', pointer: '/data/id', values: null };
  test.each<[Success | null, object | string, string | null]>([
    [status, { state: 'ok' }, null],
    [status, { state: 'Queued', error: 'none' }, null],
    [status, { state: 'KO', message: 'duplicate' }, 'state is “KO”. duplicate'],
    [status, {}, 'state is missing.'],
    [status, 'OK', 'state is missing. OK'],
    [key, { data: { id: 0 } }, null],
    [key, { data: { id: '' }, success: true }, 'data.id is missing.'],
    [key, { data: [] }, 'data.id is missing.'],
    [{ ...status, values: ['true', '1'] }, { state: true }, null],
    [{ ...status, values: ['true', '1'] }, { state: 1 }, null],
    [{ by: 'status', pointer: '', values: null }, { success: false }, null],
    [null, { success: false, message: 'gone' }, 'gone'],
    [{ by: 'member', pointer: '', values: null }, 'accepted', null],
    [{ by: 'member', pointer: '', values: ['OK'] }, { success: false, message: 'gone' }, 'gone'],
  ])('%j of %j', (success, body, refusal) => {
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    expect(refusalBy(success, text)).toBe(refusal);
  });
  test('nothing is no success, whatever was asked for', () => {
    for (const values of [null, ['']])
      for (const value of [undefined, null, '', []]) expect(isSuccess({ values }, value)).toBe(false);
  });
});

test('members of responses: those that tell first, with their values and how often; varied ones without', () => {
  const responses = [
    ...Array.from({ length: 9 }, (_, index) => ({ ref: `r-${index}`, answer: { state: 'OK' }, rows: [1] })),
    { answer: { state: 'ERROR', note: 'duplicate' } },
  ];
  expect(membersOf(responses)).toEqual([
    {
      pointer: '/answer/state',
      present: 10,
      values: [
        { value: 'OK', count: 9 },
        { value: 'ERROR', count: 1 },
      ],
    },
    { pointer: '/answer/note', present: 1, values: [{ value: 'duplicate', count: 1 }] },
    { pointer: '/ref', present: 9, values: [] },
  ]);
  expect(membersOf([null, 7, 'text', [{ ok: true }]])).toEqual([]);
});
