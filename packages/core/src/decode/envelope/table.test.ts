import fc from 'fast-check';
import Papa from 'papaparse';
import { asText } from '../../submission';
import { decode } from '..';

const read = (text: string, type: string | null = 'text/csv') => decode(new TextEncoder().encode(text), type);
const told = (text: string, type?: string | null) =>
  read(text, type).submissions.map(({ id, submittedAt, fields }) => ({
    id,
    at: submittedAt,
    answers: fields.map(({ label, value }) => `${label}: ${asText(value)}`),
  }));

test('an ordinary export is a submission a row: what identifies it and when it came are no answers', () => {
  const text = [
    'Entry ID,Submitted on,Your name,How was the walk?,Boots size',
    '1001,04/11/2026 08:12,Ada Reed,"Wet, but fine",39',
    '1002,05/11/2026 09:40,Wen Brook,,42',
  ].join('\r\n');
  expect(told(text)).toEqual([
    { id: '1001', at: '04/11/2026 08:12', answers: ['Your name: Ada Reed', 'How was the walk?: Wet, but fine', 'Boots size: 39'] }, // prettier-ignore
    { id: '1002', at: '05/11/2026 09:40', answers: ['Your name: Wen Brook', 'Boots size: 42'] },
  ]);
  expect(read(text).envelope).toMatchObject({ reader: 'table', why: expect.stringContaining('“Entry ID” identifies') });
});
test('a single word that may be a question is one', () => {
  const text = 'Ref;Ranger;Date;Remark\nA1;Noor;2026-04-01;wet\nA2;Pim;2026-04-02;dry';
  expect(told(text)[0]).toEqual({
    id: null,
    at: null,
    answers: ['Ref: A1', 'Ranger: Noor', 'Date: 2026-04-01', 'Remark: wet'],
  });
});
test('what repeats identifies nothing', () => {
  const text = 'Entry ID,Colour\n7,red\n7,blue\n8,green';
  expect(told(text).map(each => each.id)).toEqual([null, null, null]);
});
test.each<[string, string, string | null]>([
  ['comma', 'Entry ID,Colour,Size\n1,red,4\n2,blue,5', 'text/csv'],
  ['semicolons', 'Entry ID;Colour;Size\n1;red;4\n2;blue;5', 'text/csv'],
  ['tabs', 'Entry ID\tColour\tSize\n1\tred\t4\n2\tblue\t5', 'text/tab-separated-values'],
  ['a line that says what separates', 'sep=;\nEntry ID;Colour;Size\n1;red;4\n2;blue;5', 'text/csv'],
  ['sent as plain text', 'Entry ID,Colour,Size\n1,red,4\n2,blue,5', 'text/plain'],
  ['sent as JSON', 'Entry ID,Colour,Size\n1,red,4\n2,blue,5', 'application/json'],
  ['sent without a word', 'Entry ID,Colour,Size\n1,red,4\n2,blue,5', null],
])('%s', (_, text, type) => {
  expect(told(text, type)).toEqual([
    { id: '1', at: null, answers: ['Colour: red', 'Size: 4'] },
    { id: '2', at: null, answers: ['Colour: blue', 'Size: 5'] },
  ]);
});
test('one answer a row: rows of one submission belong together, and what was chosen twice is a list', () => {
  const text = [
    'Response ID,Submitted at,Question,Answer',
    'r1,2026-11-04T08:00:00Z,Which site?,Ford',
    'r1,2026-11-04T08:00:00Z,Signs,Foam',
    'r1,2026-11-04T08:00:00Z,Signs,Litter',
    'r2,2026-11-05T08:00:00Z,Which site?,Weir',
    'r2,2026-11-05T08:00:00Z,Signs,',
  ].join('\n');
  expect(told(text)).toEqual([
    { id: 'r1', at: '2026-11-04T08:00:00Z', answers: ['Which site?: Ford', 'Signs: Foam, Litter'] },
    { id: 'r2', at: '2026-11-05T08:00:00Z', answers: ['Which site?: Weir'] },
  ]);
});
test('text that labels its lines is no table, even with as many commas in each', () => {
  expect(told('Name: Reed, Ada, Ms\nTown: Fernhollow, Basin, UK', 'text/plain')[0]!.answers).toEqual([
    'Name: Reed, Ada, Ms',
    'Town: Fernhollow, Basin, UK',
  ]);
});

// What is written as a table is read as that table, whatever it says: names and cells are made-up words.
const word = fc.string({ unit: fc.constantFrom(...'bcdfgklmnprstvwz'), minLength: 3, maxLength: 8 });
const cell = fc.oneof(
  word,
  fc.tuple(word, word).map(words => words.join(' ')),
  fc.integer({ min: 0, max: 9999 }).map(String),
);
test('any table with a header comes back row by row, cell by cell', () => {
  const table = fc
    .integer({ min: 2, max: 6 })
    .chain(width =>
      fc.tuple(
        fc.uniqueArray(word, { minLength: width, maxLength: width }),
        fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 2, maxLength: 12 }),
        fc.constantFrom(',', ';', '\t'),
      ),
    );
  fc.assert(
    fc.property(table, ([names, rows, delimiter]) => {
      // The first column counts, so that a header shows.
      const whole = rows.map((row, at) => [String(at + 1), ...row]);
      const text = Papa.unparse([['count of rows', ...names], ...whole], { delimiter });
      const { submissions } = read(text);
      expect(submissions.map(each => each.fields.map(field => asText(field.value)))).toEqual(whole);
      expect(new Set(submissions.map(each => each.fields.map(field => field.key).join('|')))).toEqual(
        new Set([['count of rows', ...names].join('|')]),
      );
    }),
    { numRuns: 150 },
  );
});
