import { documentChangeKinds, formChangeKinds } from '@grammata/core/drift';
import { changeWords } from './words';

const none = { question: null, operation: null, field: null, was: null, now: null };
const form = { ...none, question: 'Which site?', was: 'site', now: 'q_771' };
const target = { ...none, operation: 'POST /kits', field: '/contact/email', was: 'a', now: 'b' };

test.each<[Parameters<typeof changeWords>[0], string]>([
  [{ ...form, change: 'replaced' }, '“Which site?” comes under another key: “q_771” in place of “site”.'],
  [{ ...form, change: 'option-renamed' }, '“Which site?”: the option “site” is called “q_771” now.'],
  [{ ...target, change: 'option-renamed' }, '“contact › email” of POST /kits calls the option “a” “b” now.'],
  [
    { ...target, change: 'field-added', now: { required: true } },
    '“contact › email” of POST /kits is new, and required.',
  ],
  [
    { ...target, change: 'narrowed', was: { maxLength: 9 }, now: { maxLength: 5 } },
    '“contact › email” of POST /kits takes less: maxLength 5, and was maxLength 9.',
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
