import type { Json } from '../../submission';
import { answerFields } from './answer';

const columns = (rows: Json[]) =>
  answerFields({ range: 'A1:C9', values: rows })
    .find(each => each.items)
    ?.items?.map(each => [each.pointer, each.label, each.type]);

test.each<[string, Json[], unknown]>([
  [
    'a first row of names',
    [
      ['Name', 'Mail', 'Count'],
      ['Wen', 'w@x.org', 7],
    ],
    [
      ['/0', 'Name', 'text'],
      ['/1', 'Mail', 'text'],
      ['/2', 'Count', 'integer'],
    ],
  ],
  [
    'rows of unequal length',
    [['Name', 'Mail'], ['Wen']],
    [
      ['/0', 'Name', 'text'],
      ['/1', 'Mail', 'text'],
    ],
  ],
  [
    'numbers are no names',
    [
      [2024, 7],
      [2025, 9],
    ],
    [
      ['/0', 'Column 1', 'integer'],
      ['/1', 'Column 2', 'integer'],
    ],
  ],
  [
    'what comes again below is no name',
    [
      ['Ford', 'ok'],
      ['Weir', 'ok'],
    ],
    [
      ['/0', 'Column 1', 'text'],
      ['/1', 'Column 2', 'text'],
    ],
  ],
  ['one row says nothing', [['Name', 'Mail']], undefined],
  ['a list of texts has no columns', ['a', 'b'], undefined],
])('columns of a list of rows: %s', (_, rows, told) => expect(columns(rows)).toEqual(told));
