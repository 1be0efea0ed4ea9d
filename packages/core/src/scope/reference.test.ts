import fc from 'fast-check';
import type { Json, Submission } from '../submission';
import {
  compileReference,
  factReferences,
  isOfDelivery,
  questionKey,
  referenceLabel,
  referenceOf,
  referenceText,
  referredTo,
  scopeOf,
  type Reference,
  type Scope,
} from '.';

const submission: Submission = {
  form: { key: 'f1', name: 'Sampling report' },
  id: 'S-1',
  submittedAt: '2026-11-04T10:00:00Z',
  meta: { country: 'GB' },
  fields: [{ key: 'site', label: 'Which site?', kind: 'text', value: 'AB-07', pointer: '/site' }],
  files: [{ field: 'photo', name: 'a.jpg', type: 'image/jpeg', size: 3, url: 'https://files.example.org/a' }],
  questions: [],
};
const scope: Scope = {
  submission,
  answers: { person: { id: 'P-1', tags: ['a', 'b'], 'odd/name': 7 }, plain: 'done', 'person#record': 'P-1' },
  item: { value: { kit: 'Net', n: 2 }, number: 3 },
  record: { id: 'R-9' },
};

test.each<[string, Reference, Json | undefined]>([
  ['site', { to: 'question', key: 'site' }, 'AB-07'],
  ['@type', { to: 'question', key: '@type' }, undefined],
  ['@itemized', { to: 'question', key: '@itemized' }, undefined],
  ['@id', { to: 'fact', fact: 'id' }, 'S-1'],
  ['@submittedAt', { to: 'fact', fact: 'submittedAt' }, '2026-11-04T10:00:00Z'],
  ['@form', { to: 'fact', fact: 'form' }, 'f1'],
  ['@formName', { to: 'fact', fact: 'formName' }, 'Sampling report'],
  ['@meta/country', { to: 'envelope', name: 'country' }, 'GB'],
  ['@meta/toString', { to: 'envelope', name: 'toString' }, undefined],
  ['@answer/person/id', { to: 'answer', callId: 'person', pointer: '/id' }, 'P-1'],
  ['@answer/person/tags/1', { to: 'answer', callId: 'person', pointer: '/tags/1' }, 'b'],
  ['@answer/person/odd~1name', { to: 'answer', callId: 'person', pointer: '/odd~1name' }, 7],
  ['@answer/plain', { to: 'answer', callId: 'plain', pointer: '' }, 'done'],
  ['@answer/plain/part', { to: 'answer', callId: 'plain', pointer: '/part' }, undefined],
  ['@answer/constructor/name', { to: 'answer', callId: 'constructor', pointer: '/name' }, undefined],
  ['@answer/person/tags/@last', { to: 'answer', callId: 'person', pointer: '/tags/@last' }, 'b'],
  ['@record/person', { to: 'identity', callId: 'person' }, 'P-1'],
  ['@record/nobody', { to: 'identity', callId: 'nobody' }, undefined],
  ['@item', { to: 'item', pointer: '' }, { kit: 'Net', n: 2 }],
  ['@item/kit', { to: 'item', pointer: '/kit' }, 'Net'],
  ['@itemNumber', { to: 'itemNumber' }, 3],
  ['@found', { to: 'record', pointer: '' }, { id: 'R-9' }],
  ['@found/id', { to: 'record', pointer: '/id' }, 'R-9'],
])('%s is read, written and resolved', (text, reference, value) => {
  expect(referenceOf(text)).toEqual(reference);
  expect(referenceText(reference)).toBe(text);
  expect(compileReference(reference)(scope)).toEqual(value);
  expect(referredTo(scope, text)).toEqual(value);
});

test('files of a question are its answer', () =>
  expect(referredTo(scope, 'photo')).toEqual([
    { name: 'a.jpg', type: 'image/jpeg', size: 3, url: 'https://files.example.org/a' },
  ]));

test('before its calls a submission has no item, no record and no answers', () => {
  const bare = scopeOf(submission);
  expect(['@item', '@found/id', '@answer/person/id'].map(each => referredTo(bare, each))).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
  expect(referredTo(bare, '@itemNumber')).toBeNull();
});

test.each<[string, string | undefined]>([
  ['@id', 'Submission id'],
  ['@meta/country', 'country (envelope)'],
  ['@item', 'the item'],
  ['@item/kit/name', 'kit.name of the item'],
  ['@itemNumber', 'number of the item'],
  ['@found', 'record as found'],
  ['@found/id', 'id as found'],
  ['@answer/person/id', 'id from an earlier call'],
  ['site', undefined],
])('%s reads “%s”', (text, label) => expect(referenceLabel(referenceOf(text))).toBe(label));

test('what is known only while a delivery is under way is told apart', () => {
  const waits = (text: string) => isOfDelivery(referenceOf(text));
  expect(['@answer/a/id', '@found', '@item', '@itemNumber', '@id', 'site'].filter(waits)).toEqual([
    '@answer/a/id',
    '@found',
  ]);
});

const names = fc.oneof(
  fc.string(),
  fc.constantFrom('@', '@id', '@item', '@item/', '@itemNumber', '@found/x', '@meta/', '@answer/', '__proto__'),
  fc.string().map(each => `@${each}`),
);

test('every text is a reference, and is written again as it was', () => {
  fc.assert(fc.property(names, text => referenceText(referenceOf(text)) === text));
});

test('whatever a payload calls a question, its key means that question and nothing else', () => {
  fc.assert(
    fc.property(names, name => {
      const key = questionKey(name);
      const asked: Scope = {
        submission: {
          ...submission,
          fields: [{ key, label: name, kind: 'text', value: 'mine', pointer: '' }],
          files: [],
        },
        answers: {},
        item: null,
        record: undefined,
      };
      expect(referredTo(asked, key)).toBe('mine');
      for (const fact of factReferences) expect(compileReference(fact)(asked)).not.toBe('mine');
    }),
  );
});
