import { compileLine } from '../request';
import { newLine } from '../route';
import { inferSchema } from '../schema';
import { scopeOf } from '../scope';
import type { FieldKind, Json, Submission } from '../submission';
import type { Operation, TargetField, TargetType } from '../target';
import { targetField } from '../testing';
import { homeForField, homeForQuestion, homeForStep, isGone, isSure, propose } from '.';
import { compileChain } from '../transform';

type Answer = [key: string, label: string, kind: FieldKind, value: Json];

const submission = (...answers: Answer[]): Submission => ({
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  files: [],
  questions: answers.map(([key, label]) => ({ key, label, pointer: `/${key}` })),
  fields: answers.map(([key, label, kind, value]) => ({ key, label, kind, value, pointer: `/${key}` })),
});
const takes = (key: string, type: TargetType, more: Partial<TargetField> = {}): TargetField =>
  targetField(key, { type, ...more });
const operation = (...fields: TargetField[]): Operation => ({
  id: 'o',
  label: 'O',
  method: 'POST',
  path: '/o',
  fields,
});
const proposed = (submissions: Submission[], ...fields: TargetField[]) =>
  propose(inferSchema(submissions), submissions, operation(...fields));

test.each<[Answer, TargetField, string[]]>([
  [['q1', 'Water temperature', 'text', '8,4 °C'], takes('temperature', 'number'), ['number.read']],
  [['q1', 'How many people?', 'text', '2.5 or so'], takes('people', 'integer'), ['number.read', 'number.round']],
  [['q1', 'Date of visit', 'text', '31/12/2026'], takes('visit_date', 'date'), ['date.format']],
  [['q1', 'Signs seen', 'choices', ['Foam']], takes('signs', 'text'), ['list.join']],
  [
    ['q1', 'Signs seen', 'text', 'Foam, Oil'],
    takes('signs', 'choices', { options: ['Foam', 'Oil'] }),
    ['list.read', 'choice.match'],
  ],
  [['q1', 'Full name', 'text', 'Wen Xiu'], takes('last_name', 'text'), ['name.part']],
  [['q1', 'Address', 'text', '14 Weir Lane, Fernhollow'], takes('city', 'text'), ['address.part']],
  [['q1', 'I agree', 'choice', 'Yes'], takes('consent', 'boolean'), ['yesno.read']],
  [
    ['q1', 'Comments', 'text', '  long   text '],
    takes('comments', 'text', { maxLength: 5 }),
    ['text.trim', 'text.shorten'],
  ],
  [['q1', 'E-mail', 'email', 'Wen@Example.org'], takes('email', 'text'), ['text.case']],
  [['q1', 'Address', 'address', { line1: '1 Hill', city: 'Otterby' }], takes('address', 'text'), ['table.text']],
  [['q1', 'Name', 'name', { first: 'Wen', last: 'Xiu' }], takes('full_name', 'text'), ['table.text']],
  [['q1', 'Kits', 'table', [{ kit: 'Waders' }]], takes('kits', 'text'), ['table.text']],
  [['q1', 'Party size', 'number', 4], takes('party_size', 'text'), ['text.of']],
  [['q1', 'Country', 'text', 'Germany'], takes('country_code', 'text'), ['country.code']],
  [['q1', 'Mobile', 'phone', '+44 20 7946 0142'], takes('phone', 'text', { description: 'E.164' }), ['phone.format']],
  [['q1', 'Site', 'text', 'AB-07'], takes('site', 'text'), []],
])('%j into %j', (answer, field, ids) => {
  const [line] = proposed([submission(answer)], field);
  expect(line).toMatchObject({ to: field.key, source: { from: 'field', field: 'q1' }, fine: 1 });
  expect(line!.cleaning.map(each => each.id)).toEqual(ids);
});

test('an address in parts is written without the names of its parts', () => {
  const [line] = proposed(
    [submission(['q1', 'Address', 'address', { line1: '1 Hill', city: 'Otterby' }])],
    takes('address', 'text'),
  );
  expect(compileChain(line!.cleaning).run({ line1: '1 Hill', city: 'Otterby' })).toBe('1 Hill, Otterby');
});

test('where numbers belong that say no country is asked; the line is proposed all the same, and never sure', () => {
  const phone = takes('phone', 'text', { description: 'E.164' });
  const [line] = proposed([submission(['q1', 'Mobile', 'phone', '020 7946 0142'])], phone);
  expect(line).toMatchObject({ to: 'phone', fine: 0, cleaning: [{ id: 'phone.format', params: { region: '' } }] });
  expect(isSure(line!)).toBe(false);
  const [american] = proposed([submission(['q1', 'Mobile', 'phone', '(802) 555-0147'])], phone);
  expect(american).toMatchObject({ fine: 1, cleaning: [{ id: 'phone.format', params: { region: 'US' } }] });
});

test.each<[string, string, TargetField, Record<string, unknown>, number | null]>([
  ['the order of a date', '3/4/26', takes('date_needed', 'date'), { order: 'asked' }, 0],
  ['the mark before decimals', '1,250', takes('date_needed', 'number'), { decimal: 'asked' }, 0],
  ['no mark, where there is none', '1250', takes('date_needed', 'number'), { decimal: 'asked' }, 1],
])('asked, and proposed all the same: %s', (_, value, field, params, fine) => {
  const [line] = proposed([submission(['q1', 'Date needed', 'text', value])], field);
  expect(line).toMatchObject({ fine, cleaning: [{ params }] });
});

test('answers that are spelt otherwise than the options get a table', () => {
  const [line] = proposed(
    [submission(['q1', 'Severity', 'choice', 'Severe (call me)']), submission(['q1', 'Severity', 'choice', 'low'])],
    takes('severity', 'choice', { options: ['Low', 'Severe'] }),
  );
  expect(line!.cleaning[0]!.params.options).toBe('Severe (call me) = Severe\nLow\nSevere');
  expect(line!.fine).toBe(1);
});

test('what the target would mostly refuse is not proposed', () => {
  const answers = ['soon', 'next week', '3/4/26'].map(value => submission(['q1', 'Date needed', 'text', value]));
  expect(proposed(answers, takes('date_needed', 'date'))).toEqual([]);
});

describe('loose ends', () => {
  test('a line whose field is gone is offered the likeliest free one', () => {
    expect(homeForField('observer_email', [takes('contact_mail', 'text'), takes('ph', 'number')])?.key).toBe(
      'contact_mail',
    );
    expect(homeForField('temp_c', [takes('temp_celsius', 'number'), takes('ph', 'number')])?.key).toBe('temp_celsius');
    expect(homeForField('temp_c', [takes('ph', 'number')])).toBeNull();
  });

  test('a question that is not asked any more is told from one that people leave blank', () => {
    const after = submission(['q9', 'Telephone', 'text', '1']);
    // When submissions came, newest first; and when the question was asked last.
    const newest = (count: number) => Array.from({ length: count }, (_, at) => 1000 - at);
    expect(isGone({ lastAt: 900 }, newest(12))).toBe(true);
    expect(isGone({ lastAt: 991 }, newest(12))).toBe(false);
    expect(isGone({ lastAt: 900 }, newest(3))).toBe(false);
    const { fields } = inferSchema([after]);
    expect(homeForQuestion('q1', 'Phone', fields)?.key).toBe('q9');
    expect(homeForQuestion('q1', 'Severity', fields)).toBeNull();
  });

  test('a step that is not known is offered the one of nearly the same name', () => {
    expect(homeForStep('number.reads')).toBe('number.read');
    expect(homeForStep('something else')).toBeNull();
  });
});

test.each<[number, number | null, boolean]>([
  [0.9, 1, true],
  [0.85, 1, true],
  [0.84, 1, false],
  [0.99, 0.9, true],
  [0.99, 0.89, false],
  // What was never tried on a recorded answer is not sure, however well the words fit.
  [0.99, null, false],
])('a proposal of %d that takes %p of the answers is sure: %p', (score, fine, sure) =>
  expect(isSure({ score, fine })).toBe(sure),
);

describe('a whole whose parts were asked for apart', () => {
  const person = submission(
    ['a', 'First name', 'text', 'Wen'],
    ['b', 'Surname', 'text', 'Xiu'],
    ['c', 'Street', 'text', '14 Weir Lane'],
    ['d', 'Town', 'text', 'Fernhollow'],
    ['e', 'Emergency contact name', 'text', 'Tom Fell'],
  );
  const drawn = (...fields: TargetField[]) =>
    proposed([person], ...fields).map(each => [
      each.to,
      each.source.from === 'text'
        ? compileLine({ ...newLine('l', each.to), source: each.source }, takes(each.to, 'text')).outcome(
            scopeOf(person),
          ).value
        : each.source.from === 'field' && each.source.field,
    ]);
  test.each<[string, TargetField[], unknown[]]>([
    ['a full name', [takes('full_name', 'text')], [['full_name', 'Wen Xiu']]],
    [
      'an address, without the postcode that nobody asked for',
      [takes('address', 'text')],
      [['address', '14 Weir Lane, Fernhollow']],
    ],
    [
      'not where the parts are taken, too',
      [takes('last_name', 'text'), takes('full_name', 'text')],
      [['last_name', 'b']],
    ],
    ['not of another person', [takes('parent_full_name', 'text')], []],
    ['not for options', [takes('full_name', 'choice', { options: ['Wen Xiu'] })], []],
  ])('%s', (_, fields, lines) => expect(drawn(...fields)).toEqual(lines));
  test('is likely, and never taken unseen', () =>
    expect(proposed([person], takes('full_name', 'text')).map(each => [isSure(each), each.score > 0.65])).toEqual([
      [false, true],
    ]));
});
