import { edited, isEdit, type FormEdit } from './edits';
import type { PracticeForm } from './form';

const form: PracticeForm = {
  ref: 'f',
  title: 'F',
  intro: '',
  send: 'Send',
  questions: [
    { id: 's1', ask: 'Which site?', kind: 'pick', required: true, options: ['A', 'B', 'C'] },
    { id: 's2', ask: 'Your name', kind: 'words', required: true },
  ],
};
const told = (...edits: FormEdit[]) =>
  edited(form, edits).questions.map(({ id, ask, options }) => [id, ask, options?.join('')]);

test.each<[FormEdit, (string | undefined)[][]]>([
  [
    { question: 's1', what: 'reworded', to: 'Where?' },
    [
      ['s1', 'Where?', 'ABC'],
      ['s2', 'Your name', undefined],
    ],
  ],
  [
    { question: 's1', what: 'replaced', to: '' },
    [
      ['s1n', 'Which site?', 'ABC'],
      ['s2', 'Your name', undefined],
    ],
  ],
  [{ question: 's2', what: 'retired', to: '' }, [['s1', 'Which site?', 'ABC']]],
  [
    { question: 's1', what: 'option-renamed', to: 'Z' },
    [
      ['s1', 'Which site?', 'ZBC'],
      ['s2', 'Your name', undefined],
    ],
  ],
  [
    { question: 's1', what: 'option-added', to: 'D' },
    [
      ['s1', 'Which site?', 'ABCD'],
      ['s2', 'Your name', undefined],
    ],
  ],
  [
    { question: 's1', what: 'option-retired', to: '' },
    [
      ['s1', 'Which site?', 'AB'],
      ['s2', 'Your name', undefined],
    ],
  ],
  [
    { question: 's2', what: 'added', to: 'Boat?' },
    [
      ['s1', 'Which site?', 'ABC'],
      ['s2', 'Your name', undefined],
      ['s2x', 'Boat?', undefined],
    ],
  ],
  [
    { question: 's2', what: 'option-renamed', to: 'Z' },
    [
      ['s1', 'Which site?', 'ABC'],
      ['s2', 'Your name', undefined],
    ],
  ],
])('%j', (edit, expected) => expect(told(edit)).toEqual(expected));

test('one after the other', () =>
  expect(
    told({ question: 's1', what: 'replaced', to: '' }, { question: 's1n', what: 'reworded', to: 'Where?' })[0],
  ).toEqual(['s1n', 'Where?', 'ABC']));

test.each<[FormEdit, boolean]>([
  [{ question: 's1', what: 'reworded', to: 'x' }, true],
  [{ question: 's1', what: 'reworded', to: '' }, false],
  [{ question: 's1', what: 'retired', to: '' }, true],
  [{ question: 's9', what: 'retired', to: '' }, false],
  [{ question: 's1', what: 'toString' as never, to: 'x' }, false],
])('%j may be done: %s', (edit, is) => expect(isEdit(edit, form)).toBe(is));
