import type { Json } from '../../submission';
import { asksForFiles, decode, type FilesAsked } from '..';

const read = (document: Json, type = 'application/json', files: FilesAsked = {}) =>
  decode(
    new TextEncoder().encode(typeof document === 'string' ? document : JSON.stringify(document)),
    type,
    '',
    {},
    { files },
  ).submissions.map(each => [
    ...each.files.map(({ field, name }) => `${field}: file ${name}`),
    ...each.fields.map(({ key, kind }) => `${key}: ${kind}`),
  ]);

const one = (proof: Json) => ({
  entry: { id: 'e-1', submitted_at: '2026-11-04T08:12:06Z' },
  answers: [
    { ref: 'who', label: 'Who is asking?', value: 'Ada Reed' },
    { ref: 'proof', label: 'Anything that shows it?', value: proof },
  ],
});
const link = 'https://store.example.org/7/letter.pdf';

test.each<[string, number, number, number, boolean | null]>([
  ['files alone', 3, 0, 0, true],
  ['files and words for none', 3, 1, 2, true],
  ['one link pasted among texts', 1, 0, 9, false],
  ['links alone', 0, 5, 0, null],
  ['texts alone', 0, 0, 5, null],
  ['nothing', 0, 0, 0, null],
])('all answers to a question tell: %s', (_, files, links, others, verdict) =>
  expect(asksForFiles({ files, links, others })).toBe(verdict),
);

test.each<[string, Json, FilesAsked, string]>([
  ['a bare link, where nothing is known', link, {}, 'proof: url'],
  ['a bare link to a question that was answered with files', link, { proof: true }, 'proof: file letter.pdf'],
  ['a path to one', '/u/7/letter.pdf', { proof: true }, 'proof: file letter.pdf'],
  ['words to a question for files', 'none, sorry', { proof: true }, 'proof: text'],
  ['an upload linked in a question for words', 'https://files.example.org/u/31/me.jpg', { proof: false }, 'proof: url'],
  [
    'metadata is a file whatever is known',
    { name: 'a.pdf', size: 3, url: link },
    { proof: false },
    'proof: file a.pdf',
  ],
  ['another question', link, { who: true }, 'proof: url'],
  ['a question called like a property of all objects', link, { constructor: true }, 'proof: url'],
])('%s', (_, proof, files, expected) => {
  expect(read(one(proof), 'application/json', files)[0]).toContain(expected);
});

describe('a column of a table is judged over all of its cells', () => {
  const table = (cells: string[]) =>
    [
      'Entry ID,Submitted at,Name,Extra',
      ...cells.map((cell, n) => `${n + 40},2026-11-0${n + 1} 10:00,Ada Reed,${cell}`),
    ].join('\n');
  const upload = 'https://files.example.org/u/31/me.jpg';
  test('links beside uploads are files too', () => {
    const all = read(table([upload, upload, link]), 'text/csv');
    expect(all.map(each => each.find(told => told.startsWith('Extra')))).toEqual([
      'Extra: file me.jpg',
      'Extra: file me.jpg',
      'Extra: file letter.pdf',
    ]);
  });
  test('one upload among many texts is a text', () => {
    const all = read(table([upload, 'We came late', 'It rained all day', 'Nothing to add']), 'text/csv');
    expect(all[0]).toContain('Extra: url');
  });
});
