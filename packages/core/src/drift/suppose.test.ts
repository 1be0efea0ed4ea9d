import { register, reporting, reports } from '../testing';
import {
  fareOf,
  formSuppositions,
  supposedOfForm,
  supposedOfTarget,
  triedOn,
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

test('with lines named, only what these keep from going counts, and it is told what they give', () => {
  const [call] = reporting.calls;
  const place = (to: string) => ({ callId: call!.id, lineId: call!.lines.find(each => each.to === to)!.id });
  const without = supposedOfForm(reports, 'site', 'gone', '');
  expect(fareOf(reporting, [register], without, [place('site')])).toMatchObject({ looked: 4, held: 4 });
  expect(fareOf(reporting, [register], without, [place('ph')])).toEqual({ looked: 4, held: 0, reasons: [] });
  const at = [place('site'), { callId: call!.id, lineId: 'of no call' }];
  const site = (all: typeof reports) => all.map(triedOn(reporting, [register], at)).map(([one]) => one);
  expect(site(reports)).toEqual(reports.map(() => ({ value: expect.stringMatching(/^AB-/) })));
  expect(site(without)).toEqual(reports.map(() => ({ problem: expect.stringContaining('site') })));
  expect(reports.map(triedOn(reporting, [register], at)).map(each => each[1])).toEqual(reports.map(() => null));
});

test('what the filter leaves out gives nothing; calls that can’t be made give no answer but why', () => {
  const [call] = reporting.calls;
  const at = [{ callId: call!.id, lineId: call!.lines[0]!.id }];
  const dry = supposedOfForm(reports, 'weather', 'option-renamed', 'Wet');
  expect(dry.map(triedOn(reporting, [register], at))).toEqual(dry.map(() => [null]));
  expect(() => triedOn(reporting, [], at)).toThrow(expect.objectContaining({ code: 'route.target' }));
});
