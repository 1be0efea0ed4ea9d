import { asText, isBlank, parseJson, type Json } from './json';
import { answerOf, type Submission } from './submission';
import { labelFromKey, wordsOf } from './words';

test.each<[Json | undefined, boolean]>([
  [null, true],
  [undefined, true],
  ['', true],
  [' \n', true],
  [[], true],
  [['', null], true],
  [{}, true],
  [0, false],
  [false, false],
  ['0', false],
  [[0], false],
  [{ a: null }, false],
])('%j is blank: %s', (value, blank) => expect(isBlank(value)).toBe(blank));

test.each<[Json | undefined, string]>([
  ['x', 'x'],
  [7.4, '7.4'],
  [true, 'true'],
  [['a', '', 'b'], 'a, b'],
  [{ a: 1 }, '{"a":1}'],
  [null, ''],
  [undefined, ''],
])('%j as text', (value, text) => expect(asText(value)).toBe(text));

test('text that is no JSON gives undefined', () => expect(parseJson('[1,')).toBeUndefined());

test.each<[string, string[]]>([
  ['submittedAt', ['submitted', 'at']],
  ['submitted_at', ['submitted', 'at']],
  ['IPAddress', ['ip', 'address']],
  ['Which site?', ['which', 'site']],
  ['größe-cm', ['größe', 'cm']],
  ['q12b', ['q12b']],
])('the words of %s', (name, words) => expect(wordsOf(name)).toEqual(words));

test.each([
  ['water_temp', 'Water temp'],
  ['Which site?', 'Which site?'],
  ['pH', 'P h'],
  ['***', '***'],
])('a label made of %s', (key, label) => expect(labelFromKey(key)).toBe(label));

test('the answer to a question is its field’s value or its files', () => {
  const file = { field: 'pics', name: 'a.jpg', url: 'https://files.example.org/a.jpg', type: null, size: 3 };
  const submission: Submission = {
    form: null,
    id: null,
    submittedAt: null,
    meta: {},
    questions: [],
    fields: [{ key: 'site', label: 'Site', kind: 'text', value: 'AB-07', pointer: '/site' }],
    files: [file],
  };
  expect(answerOf(submission, 'site')).toBe('AB-07');
  expect(answerOf(submission, 'pics')).toEqual([
    { name: 'a.jpg', url: 'https://files.example.org/a.jpg', type: null, size: 3 },
  ]);
  expect(answerOf(submission, 'other')).toBeUndefined();
});
