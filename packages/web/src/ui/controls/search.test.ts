import { fit, found } from './search';

const all = [
  { label: 'Water temperature', words: 'q_12' },
  { label: 'Site', words: 'q_1 place' },
  { label: 'Site name', words: 'q_2' },
  { label: 'Name of the site', words: 'q_3' },
];
const labels = (typed: string) => found(all, typed).map(each => each.label);

test.each<[string, string[]]>([
  ['', ['Water temperature', 'Site', 'Site name', 'Name of the site']],
  ['  ', ['Water temperature', 'Site', 'Site name', 'Name of the site']],
  ['site', ['Site', 'Site name', 'Name of the site']],
  ['SITE', ['Site', 'Site name', 'Name of the site']],
  ['name site', ['Site name', 'Name of the site']],
  ['q_2', ['Site name']],
  ['place', ['Site']],
  ['site place', ['Site']],
  ['nothing', []],
])('%j finds %j', (typed, expected) => expect(labels(typed)).toEqual(expected));

test.each<[string, string, string, number]>([
  ['Sampling report', 'Forms f1', 'samp', 1],
  ['Specimen archive', 'Targets t1', 'arch', 0.8],
  ['Resampling', 'Forms f2', 'samp', 0.6],
  ['Sign out', 'log off', 'log', 0.4],
  // All letters of the word, one after the other, and not the word.
  ['Site access map, printed', 'Routes', 'samp', 0],
  ['Ångström survey', 'Forms f3', 'angs', 1],
  ['Volunteer sign-up to Roster', 'Routes r1', 'roster volunteer', 0.8],
  ['To number', '', 'number', 0.8],
])('“%s” (%s) for “%s”', (label, words, typed, fits) => expect(fit({ label, words }, typed)).toBe(fits));

test('what fits alike stands by what suits; what fits better stands before what suits', () => {
  const steps = [{ label: 'To date' }, { label: 'To number' }, { label: 'Total' }];
  expect(found(steps, 'to', ({ label }) => (label === 'Total' ? 1 : 0)).map(each => each.label)).toEqual([
    'Total',
    'To date',
    'To number',
  ]);
  expect(found(steps, 'number', ({ label }) => (label === 'Total' ? 1 : 0)).map(each => each.label)).toEqual([
    'To number',
  ]);
});
