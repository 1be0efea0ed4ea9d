import type { Json, Submission } from '../submission';
import { compileCondition, explainTest, type Comparator } from '.';

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
])('%j %s %j', (value, is, values, holds) => {
  const test = { field: 'q', is, values, not: false };
  expect(compileCondition({ all: [test] })(submission(value))).toBe(holds);
  expect(compileCondition({ all: [{ ...test, not: true }] })(submission(value))).toBe(!holds);
});

test('no test lets everything through; several must all hold', () => {
  expect(compileCondition({ all: [] })(submission('x'))).toBe(true);
  const both = {
    all: [
      { field: 'q', is: 'contains' as const, values: ['a'], not: false },
      { field: 'q', is: 'contains' as const, values: ['b'], not: false },
    ],
  };
  expect(['ab', 'a', 'b'].map(value => compileCondition(both)(submission(value)))).toEqual([true, false, false]);
});

test('reads as a sentence', () => {
  expect(explainTest({ field: 'q', is: 'oneOf', values: ['a', 'b'], not: true }, () => 'Which site?')).toBe(
    'Which site? is none of a, b',
  );
  expect(explainTest({ field: 'q', is: 'blank', values: [], not: true }, () => 'Which site?')).toBe(
    'Which site? is filled',
  );
});
