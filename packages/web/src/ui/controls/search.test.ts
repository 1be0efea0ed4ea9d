import { found } from './search';

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
  ['name site', ['Name of the site', 'Site name']],
  ['q_2', ['Site name']],
  ['place', ['Site']],
  ['site place', ['Site']],
  ['nothing', []],
])('%j finds %j', (typed, expected) => expect(labels(typed)).toEqual(expected));
