import { partsOfAddress } from './FromTarget';

test.each<[string, [part: string, where: string][]]>([
  ['https://desk.example.org/tables/42/rows', [['42', '/tables/{id}/rows']]],
  [
    'https://desk.example.org/t/7f/rows/a9',
    [
      ['7f', '/t/{id}/rows/a9'],
      ['a9', '/t/7f/rows/{id}'],
    ],
  ],
  ['https://desk.example.org/view?table=samples', [['samples', '?table={id}']]],
  ['https://desk.example.org/a-name-that-is-long', [['a-name-that-is-long', '/{id}']]],
  // A percent sign that stands for nothing is only one.
  ['https://desk.example.org/100%/x', [['100%', '/{id}/x']]],
  ['https://desk.example.org/view?empty=', []],
  ['no address', []],
  ['ftp://desk.example.org/42', []],
])('%s', (address, parts) => expect(partsOfAddress(address).map(({ part, where }) => [part, where])).toEqual(parts));
