import { newLine, type RouteDefinition } from '../route';
import { lineFrom, register, reporting, reports } from '../testing';
import {
  fareOf,
  formSuppositions,
  rekeyed,
  supposedOfForm,
  supposedOfTarget,
  usesOf,
  type FormSupposition,
  type TargetSupposition,
} from '.';

test('as it stands all of them go', () =>
  expect(fareOf(reporting, [register], reports)).toEqual({ looked: 4, held: 0, reasons: [] }));

test.each<[FormSupposition, string, number, number]>([
  ['gone', 'site', 4, 4],
  ['gone', 'note', 4, 0],
  ['replaced', 'site', 4, 4],
  ['option-renamed', 'site', 4, 2],
  ['text', 'ph', 4, 4],
  ['single-to-list', 'site', 4, 4],
  // What a condition asks for does not go any more.
  ['option-renamed', 'weather', 0, 0],
])('what if %s of %s: of %i that go %i are held', (what, question, looked, held) => {
  const option = question === 'weather' ? 'Wet' : 'AB-07';
  expect(fareOf(reporting, [register], supposedOfForm(reports, question, what, option))).toMatchObject({
    looked,
    held,
  });
});

test.each<[TargetSupposition, string, number]>([
  ['required', 'note', 0],
  ['gone', 'ph', 4],
  ['renamed', 'site', 4],
  ['option-renamed', 'site', 2],
  ['shorter', 'note', 4],
  ['number', 'note', 4],
])('what if the target’s %s of %s: %i are held', (what, key, held) => {
  const operations = supposedOfTarget(register.operations, 'create', key, what, 'AB-07');
  expect(fareOf(reporting, [{ ...register, operations }], reports)).toMatchObject({ looked: 4, held });
});

test('nothing that is supposed changes what it is supposed of', () => {
  const before = JSON.stringify(reports);
  for (const what of Object.keys(formSuppositions)) supposedOfForm(reports, 'site', what as FormSupposition, 'AB-07');
  supposedOfTarget(register.operations, 'create', 'site', 'gone');
  expect(JSON.stringify(reports)).toBe(before);
  expect(register.operations[0]!.fields).toHaveLength(3);
});

test('a question is found and put in another’s place wherever it is used', () => {
  const wide: RouteDefinition = {
    ...reporting,
    calls: [
      {
        ...reporting.calls[0]!,
        condition: { any: [{ field: 'site', is: 'blank', values: [], not: true }] },
        repeat: 'site',
        lines: [
          lineFrom('site', 'site'),
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
