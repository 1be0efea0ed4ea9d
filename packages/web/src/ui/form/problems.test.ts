import { ApiFault } from '../../api';
import { problemsOf, unseen } from './problems';

const refusal = (...errors: [field: string, message: string][]) =>
  new ApiFault({
    type: 'about:blank',
    title: 'Not taken.',
    status: 422,
    errors: errors.map(([field, message]) => ({ field, message })),
  });

test.each<[string, ApiFault, string[], [string, string][], string | null]>([
  ['beside its field', refusal(['name', 'Too long.']), ['name', 'auth'], [['name', 'Too long.']], null],
  ['a part beside the part', refusal(['auth.user', 'No.']), ['auth', 'auth.user'], [['auth.user', 'No.']], null],
  ['a part beside the whole', refusal(['list.3', 'No range.']), ['list'], [['list', 'No range.']], null],
  ['the whole beside a part', refusal(['auth', 'Missing.']), ['name', 'auth.user'], [['auth.user', 'Missing.']], null],
  ['what is not shown is said above', refusal(['other', 'Odd.']), ['name'], [], 'other: Odd.'],
  [
    'each where it belongs',
    refusal(['name', 'Too long.'], ['other', 'Odd.']),
    ['name'],
    [['name', 'Too long.']],
    'other: Odd.',
  ],
  ['a refusal without fields', refusal(), ['name'], [], 'Not taken.'],
])('%s', (_, error, shown, fields, whole) => {
  expect(problemsOf(error, shown)).toEqual({ fields: fields.map(([field, message]) => ({ field, message })), whole });
});
test('a name that only begins like a field is another', () => {
  expect(problemsOf(refusal(['names', 'Odd.']), ['name']).fields).toEqual([]);
});
test('a server that does not answer is said above', () => {
  expect(problemsOf(new TypeError('failed to fetch'), ['name']).whole).toContain('does not answer');
});
test('what the browser refuses in a field that is not shown is said above, so that nothing fails in silence', () => {
  const errors = { name: { type: 'x', message: 'Too long.' }, auth: { user: { type: 'x', message: 'Missing.' } } };
  expect([unseen(errors, ['name', 'auth.user']), unseen(errors, ['name'])]).toEqual([null, 'auth.user: Missing.']);
});
test('a form that is a part of what is sent finds its own fields', () => {
  expect(problemsOf(refusal(['feed.url', 'No address.']), ['url'], 'feed').fields).toEqual([
    { field: 'url', message: 'No address.' },
  ]);
});
