import { aboutSubmission, type FieldKind, type Json } from '.';

const of = (...answers: [kind: FieldKind, value: Json][]) =>
  aboutSubmission({
    form: null,
    id: null,
    submittedAt: null,
    files: [],
    questions: [],
    meta: {},
    fields: answers.map(([kind, value], n) => ({ key: `q${n}`, label: `q${n}`, kind, value, pointer: '' })),
  });

test.each<[string, [FieldKind, Json][], string]>([
  [
    'those that tell most, in their order',
    [
      ['number', 7],
      ['text', 'AB-07'],
      ['name', 'Wen Xiu'],
      ['date', '2026-11-02'],
      ['email', 'w@x.org'],
    ],
    'AB-07 · Wen Xiu · w@x.org',
  ],
  ['a name of parts', [['name', { first: 'Wen', middle: null, last: 'Xiu' }]], 'Wen Xiu'],
  ['an address of parts', [['address', { street: 'Ford 1', city: 'Aber' }]], 'Ford 1, Aber'],
  ['an option with an identifier', [['json', { id: 7, name: 'New', isActive: true }]], '7, New'],
  ['a list of options', [['choices', ['low', 'clear']]], 'low, clear'],
  ['what was agreed to', [['boolean', true]], 'true'],
  ['what is long says too much', [['text', 'x'.repeat(41)]], 'no answers'],
  [
    'objects with nothing in them',
    [
      ['json', {}],
      ['name', { first: '' }],
    ],
    'no answers',
  ],
])('%s', (_, answers, told) => expect(of(...answers)).toBe(told));

test('a notice without answers is told by its identifier', () => {
  const notice = { form: null, id: '76', submittedAt: null, fields: [], files: [], questions: [], meta: {} };
  expect(aboutSubmission(notice)).toBe('76');
});
