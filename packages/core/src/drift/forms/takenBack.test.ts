import type { FieldKind, Json, Submission } from '../../submission';
import type { FormChange } from './forms';
import { isTakenBack } from './takenBack';

const said = (kind: FieldKind, value: Json | undefined): Submission =>
  ({
    questions: [],
    fields: value === undefined ? [] : [{ key: 'site', label: 'Site', kind, value }],
    files: [],
  }) as unknown as Submission;
const of = (kind: FieldKind, ...values: (Json | undefined)[]) => values.map(each => said(kind, each));
const none = undefined;
const gone: FormChange = { change: 'gone', question: 'site' };
const less: FormChange = { change: 'option-gone', question: 'site', was: 'AB-07' };
const usual = of('choice', 'AB-07', 'AB-02', 'AB-07', 'AB-02');

test.each<[string, FormChange, Submission[], Submission[], boolean]>([
  ['a question that is asked again', gone, usual, of('choice', 'AB-02', 'AB-02', none, none), true],
  ['one straggler', gone, usual, of('choice', none, 'AB-02', none), false],
  ['stragglers among many without it', gone, usual, of('choice', none, 'a', none, none, none, 'a', none), false],
  [
    'a question that was seldom answered',
    gone,
    of('text', 'a', none, none, none),
    of('text', 'a', none, none, 'b'),
    true,
  ],
  ['one that is not asked', gone, usual, of('choice', none, none), false],
  ['nothing since', gone, usual, [], false],
  ['without anything before it, as if it was always there', gone, [], of('choice', 'a', 'a', none), true],
  ['an option that is chosen again', less, usual, of('choice', 'AB-07', 'AB-02', 'AB-07', 'AB-02'), true],
  ['an option among several', less, usual, [said('choices', ['AB-07', 'x']), said('choices', ['AB-07'])], true],
  ['an option that is not', less, usual, of('choice', 'AB-02', 'AB-03'), false],
  ['blanks say nothing of options', less, usual, of('choice', none, 'AB-07', none, 'AB-07', none), true],
  [
    'an option that was renamed comes under its old name',
    { change: 'option-renamed', question: 'site', was: 'AB-07', now: 'AB-7' },
    usual,
    of('choice', 'AB-07', 'AB-07'),
    true,
  ],
  [
    'answers of the kind that they were',
    { change: 'kind', question: 'site', was: 'number', now: 'text' },
    of('number', 1, 2, 3),
    of('number', 4, 5),
    true,
  ],
  ['what is new is never taken back', { change: 'added', question: 'site' }, [], of('choice', 'a', 'b', 'c'), false],
])('%s', (_, change, before, since, is) => expect(isTakenBack(change, before, since)).toBe(is));

test('a form is asked for its file questions, too', () => {
  const photo = { ...said('files', none), files: [{ field: 'site', name: 'a.jpg' }] } as unknown as Submission;
  expect(isTakenBack(gone, [photo], [photo, photo])).toBe(true);
});
