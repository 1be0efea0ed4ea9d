import type { Json } from '@grammata/core/submission';
import type { FieldKind } from '@grammata/core/submission';
import { fromWritten } from './VariantEditor';

test.each<[string, FieldKind, Json, Json | undefined]>([
  ['', 'text', 'Foam', undefined],
  ['Foam', 'text', 'Oil', 'Foam'],
  ['yes', 'boolean', false, true],
  ['No', 'boolean', true, false],
  ['true', 'boolean', false, true],
  // Neither yes nor no stays what was written: it is to be tried.
  ['perhaps', 'boolean', true, 'perhaps'],
  ['7.4', 'number', 7, 7.4],
  ['7,4', 'number', 7, '7,4'],
  ['Foam\n\nOil sheen', 'choices', [], ['Foam', 'Oil sheen']],
  ['{"a":1}', 'json', {}, { a: 1 }],
  ['{', 'json', {}, null],
])('%j of %s, before it %j, is %j', (text, kind, value, expected) =>
  expect(fromWritten(text, { kind, value })).toEqual(expected),
);
