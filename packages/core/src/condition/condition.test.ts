import fc from 'fast-check';
import { scopeOf } from '../scope';
import type { Json, Submission } from '../submission';
import {
  comparators,
  compileCondition,
  conditionFault,
  explainCondition,
  explainTest,
  testsOf,
  type Comparator,
  type Condition,
  type Part,
} from '.';

const submission = (value: Json | undefined): Submission => ({
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  files: [],
  questions: [],
  fields: value === undefined ? [] : [{ key: 'q', label: 'Q', kind: 'text', value, pointer: '/q' }],
});

test.each<[Json | undefined, Comparator, string[], boolean]>([
  ['AB-07', 'equals', ['ab-07 '], true],
  ['AB-07', 'equals', ['AB-0'], false],
  [['Foam', 'Litter'], 'equals', ['Litter'], true],
  [7.4, 'equals', ['7.4'], true],
  ['AB-07', 'oneOf', ['AB-01', 'AB-07'], true],
  [['Foam'], 'oneOf', ['Litter', 'Oil sheen'], false],
  [undefined, 'oneOf', ['x'], false],
  ['Smell of diesel', 'contains', ['DIESEL'], true],
  ['x', 'contains', ['y'], false],
  [undefined, 'blank', [], true],
  ['', 'blank', [], true],
  [0, 'blank', [], false],
  [' Weir Lane 14', 'startsWith', ['weir'], true],
  ['wen@example.org', 'endsWith', ['@EXAMPLE.org'], true],
  ['AB-07', 'matches', ['^ab-\\d+$'], true],
  ['AB-07', 'matches', ['('], false],
  ['8,4 °C', 'above', ['8'], true],
  ['8,4 °C', 'below', ['8.4'], false],
  ['not read', 'above', ['0'], false],
  [7, 'between', ['6,5', '8'], true],
  [9, 'between', ['6,5'], false],
  ['3/11/2026', 'before', ['2026-11-04'], true],
  ['2026-11-04T10:00:00Z', 'after', ['2026-11-04'], false],
  ['2026-11-05', 'after', ['4.11.2026'], true],
  ['soon', 'after', ['2026-11-04'], false],
  [true, 'yes', [], true],
  ['nein', 'yes', [], false],
  [undefined, 'yes', [], false],
  [['Foam', 'Litter'], 'hasAll', ['litter', 'foam'], true],
  [['Foam'], 'hasAll', ['Litter', 'Foam'], false],
  [['Foam', 'Litter'], 'only', ['Foam'], false],
  [['Foam'], 'only', ['Foam', 'Litter'], true],
  [['a', '', 'b'], 'atLeast', ['2'], true],
  [[], 'atLeast', ['1'], false],
  [[{ name: 'a.JPG', type: 'image/jpeg' }], 'fileOf', ['image/*'], true],
  [[{ name: 'a.JPG', type: null }], 'fileOf', ['.jpg'], true],
  [[{ name: 'a.jpg', type: 'image/jpeg' }], 'fileOf', ['application/pdf'], false],
])('%j %s %j', (value, is, values, holds) => {
  const test = { field: 'q', is, values, not: false };
  expect(compileCondition({ all: [test] })(scopeOf(submission(value)))).toBe(holds);
  expect(compileCondition({ all: [{ ...test, not: true }] })(scopeOf(submission(value)))).toBe(!holds);
});

test('no test lets everything through; several must all hold', () => {
  expect(compileCondition({ all: [] })(scopeOf(submission('x')))).toBe(true);
  const both = {
    all: [
      { field: 'q', is: 'contains' as const, values: ['a'], not: false },
      { field: 'q', is: 'contains' as const, values: ['b'], not: false },
    ],
  };
  expect(['ab', 'a', 'b'].map(value => compileCondition(both)(scopeOf(submission(value))))).toEqual([
    true,
    false,
    false,
  ]);
});

test('reads as a sentence', () => {
  expect(explainTest({ field: 'q', is: 'oneOf', values: ['a', 'b'], not: true }, () => 'Which site?')).toBe(
    'Which site? is none of a, b',
  );
  expect(explainTest({ field: 'q', is: 'blank', values: [], not: true }, () => 'Which site?')).toBe(
    'Which site? is filled',
  );
});

describe('groups', () => {
  const has = (letter: string): Part => ({ field: 'q', is: 'contains', values: [letter], not: false });
  test.each<[string, Condition, string[]]>([
    ['any', { any: [has('a'), has('b')] }, ['a', 'b', 'ab']],
    ['none', { none: [has('a'), has('b')] }, ['c']],
    ['all of any', { all: [{ any: [has('a'), has('c')] }, has('b')] }, ['ab']],
    ['an empty group inside says nothing', { all: [{ any: [] }, has('b')] }, ['b', 'ab']],
  ])('%s', (_, condition, passing) => {
    const goes = compileCondition(condition);
    expect(['a', 'b', 'c', 'ab'].filter(each => goes(scopeOf(submission(each))))).toEqual(passing);
  });

  test('read as a sentence, groups in brackets', () => {
    const condition: Condition = { all: [{ any: [has('a'), has('b')] }, { none: [has('c')] }] };
    expect(explainCondition(condition, () => 'Q')).toBe('(Q contains a or Q contains b) and (not (Q contains c))');
    expect(testsOf(condition)).toHaveLength(3);
    expect(explainCondition({ any: [] }, () => 'Q')).toBe('always');
  });

  test('what stands beside the answers is tested like an answer', () => {
    const about = { ...submission('x'), form: { key: 'f1', name: 'Alert' }, meta: { country: 'GB' } };
    const is = (field: string, value: string) =>
      compileCondition({ all: [{ field, is: 'equals', values: [value], not: false }] })(scopeOf(about));
    expect([is('@form', 'f1'), is('@formName', 'alert'), is('@meta/country', 'gb'), is('@id', 'x')]).toEqual([
      true,
      true,
      true,
      false,
    ]);
  });
});

test.each<[unknown, RegExp]>([
  [{ all: [], any: [] }, /one of all, any and none/],
  [{ all: [{ field: 'q', is: 'like', values: [], not: false }] }, /no comparison called “like”/],
  [{ any: [{ field: 'q', is: 'equals', values: [1], not: false }] }, /texts/],
  [{ all: [{ field: 'q', is: 'equals', values: [], not: false, then: 1 }] }, /no “then”/],
  [[], /an object/],
  [Array.from({ length: 12 }).reduce(inner => ({ all: [inner] }), { all: [] }), /nested deeper/],
])('%j is no condition', (value, says) => expect(conditionFault(value)).toMatch(says));

test('no comparator throws on any answer, and its contrary is its contrary', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...comparators),
      fc.jsonValue(),
      fc.array(fc.string(), { maxLength: 3 }),
      (is, value, values) => {
        const test = { field: 'q', is, values, not: false };
        const [plain, contrary] = [{ all: [test] }, { all: [{ ...test, not: true }] }];
        expect(conditionFault(plain)).toBeNull();
        const answered = submission(value as Json);
        expect(compileCondition(plain)(scopeOf(answered))).toBe(!compileCondition(contrary)(scopeOf(answered)));
      },
    ),
  );
});
