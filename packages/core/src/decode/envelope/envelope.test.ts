import type { Json } from '../../submission';
import { definitionsIn, joined } from './definitions';
import { withEmbeddedOpened } from './expand';
import { readLabelledText } from './labelledText';
import { optionLabels } from './options';
import { readEnvelope } from '.';

describe('lines of “label: value”', () => {
  const read = (text: string) => readLabelledText(text, '')?.answers.map(({ label, value }) => [label, value]);
  test.each<[string, [string, string][] | undefined]>([
    [
      'School: Elden\nPupils: 24',
      [
        ['School', 'Elden'],
        ['Pupils', '24'],
      ],
    ],
    [
      'Dear team,\n\nSchool: Elden\nPupils: 24',
      [
        ['School', 'Elden'],
        ['Pupils', '24'],
      ],
    ],
    [
      'A: x\nB: two\nlines',
      [
        ['A', 'x'],
        ['B', 'two\nlines'],
      ],
    ],
    [
      'A: x\nB: one\n\nnext paragraph',
      [
        ['A', 'x'],
        ['B', 'one\n\nnext paragraph'],
      ],
    ],
    [
      'A:\nx\nB: y',
      [
        ['A', 'x'],
        ['B', 'y'],
      ],
    ],
    [
      'A: x\nB: y\n-- \nC: signature',
      [
        ['A', 'x'],
        ['B', 'y'],
      ],
    ],
    [
      '- A: x\n- B: y',
      [
        ['A', 'x'],
        ['B', 'y'],
      ],
    ],
    [
      'When: 10:30\nWhere: gate',
      [
        ['When', '10:30'],
        ['Where', 'gate'],
      ],
    ],
    ['See https://example.org for more', undefined],
    ['only one: line', undefined],
    ['', undefined],
  ])('%j', (text, answers) => expect(read(text)).toEqual(answers));
});

test.each<[Json, [string, string][] | null]>([
  [
    [
      { id: 1, label: 'Oak' },
      { id: 2, label: 'Elm' },
    ],
    [
      ['1', 'Oak'],
      ['2', 'Elm'],
    ],
  ],
  [[{ value: 'o', text: 'Oak' }], [['o', 'Oak']]],
  [
    { o: 'Oak', e: 'Elm' },
    [
      ['o', 'Oak'],
      ['e', 'Elm'],
    ],
  ],
  [['Oak', 'Elm'], null],
  [[], null],
  [[{ label: 'Oak' }], null],
])('options in %j', (list, labels) => expect(optionLabels(list) && [...optionLabels(list)!]).toEqual(labels));

describe('JSON inside JSON', () => {
  test('objects, and lists of objects, are opened at any depth', () => {
    const inner = JSON.stringify({ b: JSON.stringify([{ c: 1 }]) });
    expect(withEmbeddedOpened({ a: inner })).toEqual({ a: { b: [{ c: 1 }] } });
  });
  test.each<[Json]>([[{ a: '["Foam"]' }], [{ a: '{broken' }], [{ a: '12' }], ['text'], [null], [[1, 'x']]])(
    '%j stays the same document',
    document => expect(withEmbeddedOpened(document)).toBe(document),
  );
});

test('definitions apart give wording, kind and options, from a list, a dictionary, or a map of labels', () => {
  const reading = readEnvelope({ answers: { a: '1', b: 'x' } }).winner!;
  const told = (document: Json) =>
    joined(reading.submissions[0]!.answers, definitionsIn(document), ['/answers']).answers.map(({ label, stated }) => [
      label,
      stated,
    ]);
  expect(
    told({
      defs: [
        { id: 'a', title: 'Which tree?', type: 'radio' },
        { id: 'b', title: 'How tall?', type: 'text' },
      ],
    }),
  ).toEqual([
    ['Which tree?', 'radio'],
    ['How tall?', 'text'],
  ]);
  expect(told({ defs: { a: { title: 'Which tree?' }, b: { title: 'How tall?' } } })).toEqual([
    ['Which tree?', null],
    ['How tall?', null],
  ]);
  expect(told({ labels: { a: 'Which tree?', b: 'How tall?' } })).toEqual([
    ['Which tree?', null],
    ['How tall?', null],
  ]);
  expect(told({ other: { x: 'No', y: 'Such' } })).toEqual([
    ['A', null],
    ['B', null],
  ]);
});

describe('which shape wins, and who comes next', () => {
  test.each<[string, Json, string, string]>([
    [
      'a labelled list',
      {
        list: [
          { id: 'a', label: 'One', value: 1 },
          { id: 'b', label: 'Two', value: 2 },
        ],
      },
      'labelled-list',
      '/list',
    ],
    [
      'a labelled dictionary',
      { d: { a: { label: 'One thing', answer: 'x' }, b: { label: 'Two things', answer: 'y' } } },
      'labelled-dictionary',
      '/d',
    ],
    ['plain keys', { a: 'x', b: 'y' }, 'flat', ''],
    ['plain keys under a name', { id: 1, data: { a: 'x', b: 'y' } }, 'flat', '/data'],
    ['a text', 'A: x\nB: y', 'labelled-text', ''],
    [
      'answers in a text, told once more beside them',
      {
        form_no: '2412',
        readable: 'Who: Wen Xiu, Mail: wen@example.org, Site: Ford, Signs: Foam Litter',
        content:
          '{"n3_who":{"first":"Wen","last":"Xiu"},"n4_mail":"wen@example.org","n5_site":"Ford","n6_signs":["Foam"]}',
      },
      'flat',
      '/content',
    ],
  ])('%s', (_, document, reader, answersAt) => {
    const { winner, runnersUp } = readEnvelope(withEmbeddedOpened(document));
    expect(winner).toMatchObject({ reader, answersAt, why: expect.stringMatching(/\S/) });
    expect(winner!.score).toBeLessThanOrEqual(1);
    for (const other of runnersUp) expect(other.score).toBeLessThanOrEqual(winner!.score);
  });
  test.each<[Json]>([[null], [7], [true], ['just a sentence'], [[]], [[1, 2]], [{}]])(
    '%j holds no answers, and says so',
    document => expect(readEnvelope(document)).toMatchObject({ winner: null, notes: [{ code: 'envelope.none' }] }),
  );
});
