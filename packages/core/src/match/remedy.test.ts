import { newLine, type Line } from '../route';
import { inferSchema } from '../schema';
import type { FieldKind, Json, Submission } from '../submission';
import type { TargetField } from '../target';
import { targetField } from '../testing';
import { newStep } from '../transform';
import { remedyFor } from '.';

const submission = (value: Json, kind: FieldKind): Submission => ({
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  files: [],
  questions: [{ key: 'q', label: 'Q', pointer: '/q' }],
  fields: [{ key: 'q', label: 'Q', kind, value, pointer: '/q' }],
});
const remedy = (values: Json[], kind: FieldKind, field: TargetField, cleaning: Line['cleaning'] = []) => {
  const all = values.map(value => submission(value, kind));
  const line: Line = { ...newLine('l', field.key), source: { from: 'field', field: 'q' }, cleaning };
  return remedyFor(line, field, inferSchema(all).fields[0]!, all);
};

// A line that a person drew gets what the matcher would have added: what brings most answers into what the field takes.
test.each<[string, Json[], FieldKind, TargetField, string[], [fine: number, of: number, now: number]]>([
  ['numbers with a comma and a unit', ['8,4 °C', '7', '9.1'], 'text', targetField('t', { type: 'number' }), ['number.read'], [3, 3, 0]],
  ['dates, the day first as the answers show', ['31/12/2026', '01/02/2026'], 'text', targetField('d', { type: 'date' }), ['date.format'], [2, 2, 0]],
  ['a list for a text', [['Foam'], ['Oil', 'Foam']], 'choices', targetField('signs'), ['list.join'], [2, 2, 0]],
  ['options spelt otherwise', ['foam', 'OIL SHEEN'], 'choice', targetField('s', { type: 'choice', options: ['Foam', 'Oil sheen'] }), ['choice.match'], [2, 2, 0]],
  ['a text that is too long', ['short', 'x'.repeat(40)], 'text', targetField('n', { maxLength: 10 }), ['text.shorten'], [2, 2, 1]],
  ['yes and no', ['Yes', 'no'], 'choice', targetField('b', { type: 'boolean' }), ['yesno.read'], [2, 2, 0]],
  ['identifiers for a list of numbers', [['77', '78'], ['9']], 'choices', targetField('ids', { type: 'choices', items: 'integer' }), ['list.each'], [2, 2, 0]],
  ['one identifier for such a list', ['77'], 'text', targetField('ids', { type: 'choices', items: 'integer' }), ['list.each'], [1, 1, 0]],
  ['some that nothing mends', ['7', 'a few', '9'], 'text', targetField('t', { type: 'integer' }), ['number.read'], [2, 3, 0]],
])('%s', (_, values, kind, field, ids, [fine, of, now]) => {
  const found = remedy(values, kind, field);
  expect(found).toMatchObject({ fine, of, now });
  expect(found!.cleaning.map(each => each.id)).toEqual(ids);
  expect(found!.words).not.toBe('');
}); // prettier-ignore

test('what stands there stays where it only lacks something behind it', () => {
  const found = remedy(['about 7.5 m'], 'text', targetField('t', { type: 'integer' }), [
    newStep('number.read', { decimal: 'either' }),
  ]);
  expect(found!.fine).toBe(1);
});

test.each<[string, Json[], FieldKind, TargetField]>([
  ['every answer is taken already', ['a', 'b'], 'text', targetField('n')],
  ['nothing was answered', ['', null], 'text', targetField('t', { type: 'number' })],
  ['nothing mends any', ['none', 'few'], 'text', targetField('t', { type: 'number' })],
])('nothing is said where %s', (_, values, kind, field) => expect(remedy(values, kind, field)).toBeNull());

test('of a line that draws on something else, nothing is said', () => {
  const all = [submission('8,4', 'text')];
  const [asked] = inferSchema(all).fields;
  const line: Line = { ...newLine('l', 't'), source: { from: 'constant', value: 'x' } };
  expect(remedyFor(line, targetField('t', { type: 'number' }), asked!, all)).toBeNull();
});
