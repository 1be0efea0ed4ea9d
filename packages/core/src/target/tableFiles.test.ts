import { appendOperations, readTableFiles } from '.';

test('files and their columns, one a line', () => {
  const files = readTableFiles('visits.csv: school, pupils , day, …\n\nlog 2026.ndjson: at');
  expect(files).toEqual([
    { name: 'visits.csv', columns: ['school', 'pupils', 'day'], grows: true },
    { name: 'log 2026.ndjson', columns: ['at'], grows: false },
  ]);
  expect(appendOperations(files as never)[1]).toMatchObject({
    id: 'append:log 2026.ndjson',
    path: '/log%202026.ndjson',
    fields: [{ key: 'at', pointer: '/at' }],
  });
});

test.each<[string, RegExp]>([
  ['', /at least one/],
  ['visits.csv', /does not read like/],
  ['../key.csv: a', /does not read like/],
  ['a/b.csv: a', /does not read like/],
  ['.hidden.csv: a', /does not read like/],
  ['a..csv: x', /does not read like/],
  ['visits.xlsx: a', /does not read like/],
  ['visits.csv: ', /no column/],
  ['visits.csv: …', /no column/],
  ['visits.csv: a, a', /names a column twice/],
  ['visits.csv: a\nVISITS.csv: b', /named twice/],
])('%j is refused', (text, says) => expect((readTableFiles(text) as { fault: string }).fault).toMatch(says));
