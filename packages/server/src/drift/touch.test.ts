import type { FormChange } from '@grammata/core/drift';
import type { Submission } from '@grammata/core/submission';
import { isAbout } from './touch';

const said = (answers: Record<string, Submission['fields'][number]['value']>) =>
  ({
    fields: Object.entries(answers).map(([key, value]) => ({ key, label: key, value })),
    files: [],
  }) as unknown as Submission;
const withPhoto = { ...said({ who: 'Ada' }), files: [{ field: 'site', name: 'site.jpg' }] } as unknown as Submission;
const change = (what: Partial<FormChange>) => ({ question: 'site', ...what }) as FormChange;

test.each<[string, FormChange, Submission, boolean]>([
  ['the successor is answered', change({ change: 'replaced', was: 'site', now: 's1n' }), said({ s1n: 'AB-07' }), true],
  ['the old key still comes', change({ change: 'replaced', was: 'site', now: 's1n' }), said({ site: 'AB-07' }), false],
  ['the new option', change({ change: 'option-added', now: 'AB-21' }), said({ site: 'AB-21' }), true],
  ['another option', change({ change: 'option-added', now: 'AB-21' }), said({ site: 'AB-07' }), false],
  ['the new one of several', change({ change: 'option-renamed', now: 'b2' }), said({ site: ['a', 'b2'] }), true],
  ['what is gone is blank', change({ change: 'gone' }), said({ site: '', who: 'Ada' }), true],
  ['what is gone is not there', change({ change: 'gone' }), said({ who: 'Ada' }), true],
  ['what is gone is answered with a file', change({ change: 'gone' }), withPhoto, false],
  ['what is gone comes back', change({ change: 'gone' }), said({ site: 'AB-07' }), false],
  ['another kind concerns all', change({ change: 'kind', was: 'number', now: 'text' }), said({ site: 4 }), true],
  ['no question', { change: 'envelope', question: null } as FormChange, said({}), true],
])('a submission is about a change where %s', (_, what, submission, is) => expect(isAbout(what, submission)).toBe(is));
