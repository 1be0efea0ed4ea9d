import { newLine, ROUTE_FORMAT, usualTerms, type RouteDefinition } from '../route';
import type { Submission } from '../submission';
import type { Operation } from '../target';
import { targetField } from '../testing';
import {
  fareOf,
  formSuppositions,
  rekeyed,
  repairForForm,
  supposedOfForm,
  supposedOfTarget,
  usesOf,
  type FormSupposition,
  type TargetSupposition,
} from '.';

const operation: Operation = {
  id: 'create',
  label: 'Create',
  method: 'POST',
  path: '/r',
  fields: [
    targetField('site', { required: true, options: ['AB-07', 'AB-02'] }),
    targetField('ph', { type: 'number' }),
    targetField('note', { maxLength: 40 }),
  ],
};
const target = { id: 't', name: 'Register', baseUrl: 'https://r.example.org', operations: [operation] };
const line = (to: string, field: string) => ({ ...newLine(`l-${to}`, to), source: { from: 'field' as const, field } });
const definition: RouteDefinition = {
  format: ROUTE_FORMAT,
  name: 'R',
  condition: { all: [{ field: 'weather', is: 'equals', values: ['Wet'], not: false }] },
  calls: [
    {
      id: 'a',
      targetId: 't',
      operationId: 'create',
      lines: [line('site', 'site'), line('ph', 'ph'), line('note', 'note')],
    },
  ],
  terms: usualTerms,
};
const samples = Array.from({ length: 4 }, (_, at): Submission => ({
  form: null,
  id: String(at),
  submittedAt: null,
  files: [],
  questions: [],
  meta: {},
  fields: Object.entries({
    site: ['AB-07', 'AB-02'][at % 2]!,
    ph: 7.5,
    note: `seen on the way ${at}`,
    weather: 'Wet',
  }).map(([key, value]) => ({
    key,
    label: key,
    kind: typeof value === 'number' ? 'number' : 'text',
    value,
    pointer: `/${key}`,
  })),
}));

test('as it stands all of them go', () =>
  expect(fareOf(definition, [target], samples)).toEqual({ looked: 4, held: 0, reasons: [] }));

test.each<[FormSupposition, string, number, number]>([
  ['gone', 'site', 4, 4],
  ['optional', 'note', 4, 0],
  ['replaced', 'site', 4, 4],
  ['option-renamed', 'site', 4, 2],
  ['text', 'ph', 4, 4],
  ['single-to-list', 'site', 4, 4],
  // What a condition asks for does not go any more.
  ['option-renamed', 'weather', 0, 0],
])('what if %s of %s: of %i that go %i are held', (what, question, looked, held) => {
  const option = question === 'weather' ? 'Wet' : 'AB-07';
  expect(fareOf(definition, [target], supposedOfForm(samples, question, what, option))).toMatchObject({ looked, held });
});

test.each<[TargetSupposition, string, number]>([
  ['required', 'note', 0],
  ['gone', 'ph', 4],
  ['renamed', 'site', 4],
  ['option-renamed', 'site', 2],
  ['shorter', 'note', 4],
  ['number', 'note', 4],
])('what if the target’s %s of %s: %i are held', (what, key, held) => {
  const operations = supposedOfTarget(target.operations, 'create', key, what, 'AB-07');
  expect(fareOf(definition, [{ ...target, operations }], samples)).toMatchObject({ looked: 4, held });
});

test('nothing that is supposed changes what it is supposed of', () => {
  const before = JSON.stringify(samples);
  for (const what of Object.keys(formSuppositions)) supposedOfForm(samples, 'site', what as FormSupposition, 'AB-07');
  supposedOfTarget(target.operations, 'create', 'site', 'gone');
  expect(JSON.stringify(samples)).toBe(before);
  expect(target.operations[0]!.fields).toHaveLength(3);
});

test('a question is found and put in another’s place wherever it is used', () => {
  const wide: RouteDefinition = {
    ...definition,
    calls: [
      {
        ...definition.calls[0]!,
        condition: { any: [{ field: 'site', is: 'blank', values: [], not: true }] },
        repeat: 'site',
        lines: [
          line('site', 'site'),
          { ...newLine('t', 'note'), source: { from: 'text', segments: [{ text: 'At ' }, { field: 'site' }] } },
          { ...newLine('f', 'ph'), source: { from: 'first', fields: ['ph', 'site'] } },
          { ...newLine('c', 'ph'), source: { from: 'constant', value: 'site' } },
        ],
      },
    ],
  };
  expect(usesOf(wide, 'site').map(each => each.what)).toEqual(['condition', 'repeat', 'line', 'line', 'line']);
  const other = rekeyed(wide, 'site', 'q_7');
  expect(usesOf(other, 'site')).toEqual([]);
  expect(usesOf(other, 'q_7')).toEqual(usesOf(wide, 'site'));
  // A constant is no question, whatever it says.
  expect(other.calls[0]!.lines[3]!.source).toEqual({ from: 'constant', value: 'site' });
  expect(rekeyed(other, 'q_7', 'site')).toEqual(wide);
});

describe('repairs of a changed form', () => {
  const parts = {
    schema: { count: 0, fields: [] },
    samples,
    operationOf: () => operation,
  };
  test('a question under another key is rewired, and all go again', () => {
    const now = supposedOfForm(samples, 'site', 'replaced');
    const repair = repairForForm(
      { change: 'replaced', question: 'site', was: 'site', now: 'site (new)' },
      definition,
      parts,
    );
    expect(fareOf(repair!.definition, [target], now)).toMatchObject({ looked: 4, held: 0 });
    // Both are served while both arrive.
    expect(fareOf(repair!.definition, [target], [...now, ...samples])).toMatchObject({ looked: 8, held: 0 });
  });
  test('an option under another name is translated, in lines and conditions', () => {
    const change = (question: string, was: string) => ({
      change: 'option-renamed' as const,
      question,
      was,
      now: `${was} (new)`,
    });
    const sites = supposedOfForm(samples, 'site', 'option-renamed', 'AB-07');
    const repaired = repairForForm(change('site', 'AB-07'), definition, parts)!;
    expect(fareOf(repaired.definition, [target], sites)).toMatchObject({ looked: 4, held: 0 });
    const wet = supposedOfForm(samples, 'weather', 'option-renamed', 'Wet');
    const condition = repairForForm(change('weather', 'Wet'), definition, parts)!;
    expect(fareOf(condition.definition, [target], wet)).toMatchObject({ looked: 4, held: 0 });
    // What comes as before goes as before.
    expect(fareOf(condition.definition, [target], samples)).toMatchObject({ looked: 4, held: 0 });
  });
  test.each([
    ['what is not used', { change: 'replaced' as const, question: 'depth', was: 'depth', now: 'd' }],
    ['a question that is gone', { change: 'gone' as const, question: 'site' }],
    ['another wording', { change: 'reworded' as const, question: 'site', was: 'a', now: 'b' }],
    ['messages that are built otherwise', { change: 'envelope' as const, question: null }],
  ])('nothing mends %s', (_, change) => expect(repairForForm(change, definition, parts)).toBeNull());
});
