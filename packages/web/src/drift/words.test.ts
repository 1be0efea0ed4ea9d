import { documentChangeKinds, formChangeKinds } from '@grammata/core/drift';
import { changeWords } from './words';

const none = { question: null, operation: null, field: null, was: null, now: null };
const form = { ...none, question: 'Which site?', was: 'site', now: 'q_771' };
const target = { ...none, operation: 'POST /kits', field: '/contact/email', was: 'a', now: 'b' };

test.each<[Parameters<typeof changeWords>[0], string]>([
  [{ ...form, change: 'replaced' }, 'Key of “Which site?” changed: “site” → “q_771”.'],
  [{ ...form, change: 'option-renamed' }, 'Option of “Which site?” renamed: “site” → “q_771”.'],
  [{ ...target, change: 'option-renamed' }, 'Option of “contact › email” of POST /kits renamed: “a” → “b”.'],
  [
    { ...target, change: 'field-added', now: { required: true } },
    'New required field: “contact › email” of POST /kits.',
  ],
  [
    { ...target, change: 'narrowed', was: { maxLength: 9 }, now: { maxLength: 5 } },
    'Stricter limit for “contact › email” of POST /kits: maxLength 9 → maxLength 5.',
  ],
  [
    {
      ...target,
      change: 'operation-moved',
      field: null,
      operation: 'GET /kits, POST /kits',
      was: '/kits',
      now: '/sets',
    },
    'Path of 2 operations changed: /kits → /sets.',
  ],
])('%j', (change, words) => expect(changeWords(change)).toBe(words));

test('each change is a sentence of its own, without a hole in it', () => {
  const all = [
    ...formChangeKinds.map(change => changeWords({ ...form, change })),
    ...documentChangeKinds.map(change => changeWords({ ...target, change })),
  ];
  expect(new Set(all).size).toBe(all.length);
  for (const each of all) expect(each).toMatch(/^[^ ].*\.$/);
  expect(all.join()).not.toMatch(/undefined|null|“”| {2}/);
});
