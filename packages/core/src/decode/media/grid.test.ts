import type { Json, JsonObject } from '../../submission';
import { fromRows } from './grid';

const rows = (text: string): Json[][] => text.split('\n').map(line => line.split('|'));
const read = (text: string, header?: string) => fromRows(rows(text), [], header);

test.each<[string, string, JsonObject[]]>([
  [
    'a row of names',
    'Name|Nights\nAda|2\nWen|3',
    [
      { Name: 'Ada', Nights: '2' },
      { Name: 'Wen', Nights: '3' },
    ],
  ],
  [
    'none',
    'Ada Voss|ada@example.org|12.5\nBen Oak|ben@example.org|9',
    [
      { column_1: 'Ada Voss', column_2: 'ada@example.org', column_3: '12.5' },
      { column_1: 'Ben Oak', column_2: 'ben@example.org', column_3: '9' },
    ],
  ],
  [
    'a column of names',
    'Submission ID|88|89\nSubmitted|2026-03-01 10:00|2026-03-01 10:30\nDog’s name|Moss|Fern\nCan it swim?|Yes|No',
    [
      { 'Submission ID': '88', Submitted: '2026-03-01 10:00', 'Dog’s name': 'Moss', 'Can it swim?': 'Yes' },
      { 'Submission ID': '89', Submitted: '2026-03-01 10:30', 'Dog’s name': 'Fern', 'Can it swim?': 'No' },
    ],
  ],
  [
    'questions beside answers, below a head that says no more',
    'Question|Answer\nWho found it?|Ivo\nWhat is it?|A glove\nWhere?|Row F',
    [{ 'Who found it?': 'Ivo', 'What is it?': 'A glove', 'Where?': 'Row F' }],
  ],
])('%s', (_, text, document) => expect(read(text).document).toEqual(document));

test('two rows of head: the first identifies, the second words', () => {
  const { document, labels } = read('id|q1|q2\nEntry|What did you see?|How often?\n9|A heron|2\n10|Otters|1');
  expect(document).toEqual([
    { id: '9', q1: 'A heron', q2: '2' },
    { id: '10', q1: 'Otters', q2: '1' },
  ]);
  expect(labels).toEqual({ id: 'Entry', q1: 'What did you see?', q2: 'How often?' });
});
test('a name that comes again is told apart, and called the same', () => {
  const { document, labels } = read('Name|Age|Name|Age\nLio|7|Noa|9');
  expect(document).toEqual([{ Name: 'Lio', Age: '7', 'Name 3': 'Noa', 'Age 4': '9' }]);
  expect(labels).toEqual({ 'Name 3': 'Name', 'Age 4': 'Age' });
});
// RFC 4180 §3: the parameter says whether there is a header.
test.each<[string, number]>([
  ['present', 1],
  ['absent', 2],
])('header=%s', (header, count) => expect(read('Ada|Elden\nWen|Alder', header).document).toHaveLength(count));
test('cells beyond the columns are told', () => {
  const { notes } = read('Name|Nights\nAda|2|x');
  expect(notes.map(({ code }) => code)).toEqual(['media.row']);
});
