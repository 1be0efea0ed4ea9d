import fc from 'fast-check';
import type { Condition } from '../condition';
import { compileCall } from '../request';
import { blankPolicies, newLine, problemPolicies, type Line, type Source } from '../route';
import { scopeOf } from '../scope';
import type { Submission } from '../submission';
import type { Operation } from '../target';
import { targetField } from '../testing';
import { isTroubled, Rehearser, stateOf, type CallParts, type Sample } from '.';

const operation: Operation = {
  id: 'o',
  label: 'O',
  method: 'POST',
  path: '/r',
  fields: [targetField('ph', { type: 'number' }), targetField('site', { required: true })],
};
const sample = (id: string, answers: Record<string, string>): Sample => {
  const fields = Object.entries(answers).map(([key, value]) => ({
    key,
    label: key,
    kind: 'text' as const,
    value,
    pointer: `/${key}`,
  }));
  const submission: Submission = { form: null, id, submittedAt: null, meta: {}, files: [], questions: [], fields };
  return { id, receivedAt: '2026-11-04T08:12:06Z', submission };
};
const samples = [
  sample('s1', { p: '7.4', s: 'AB-07' }),
  sample('s2', { p: 'none', s: 'AB-07' }),
  sample('s3', { s: 'AB-02' }),
  sample('s4', { p: 'none', s: 'AB-09' }),
  sample('s5', { p: '7' }),
];
const route = (more: Partial<CallParts> = {}): CallParts => ({
  condition: { all: [] },
  call: {
    id: 'c',
    targetId: 't',
    operationId: 'o',
    lines: [
      { ...newLine('ph', 'ph'), source: { from: 'field', field: 'p' }, cleaning: [{ id: 'number.read', params: {} }] },
      { ...newLine('site', 'site'), source: { from: 'field', field: 's' } },
    ],
  },
  operation,
  baseUrl: 'https://register.example.org',
  context: { timeZone: 'UTC' },
  ...more,
});

test('counts fine, blank and in trouble for each line, and what can be sent', () => {
  const rehearsal = new Rehearser(samples).rehearse(route());
  expect(rehearsal.lines).toMatchObject([
    { lineId: 'ph', fine: 2, blank: 1, trouble: 2 },
    { lineId: 'site', fine: 4, blank: 0, trouble: 1 },
  ]);
  expect(rehearsal).toMatchObject({ going: 5, sendable: 2, missing: [] });
});

test('those that the condition leaves out do not count', () => {
  const rehearsal = new Rehearser(samples).rehearse(
    route({ condition: { all: [{ field: 's', is: 'equals', values: ['AB-07'], not: false }] } }),
  );
  expect(rehearsal.going).toBe(2);
  expect(rehearsal.lines[0]).toMatchObject({ fine: 1, blank: 0, trouble: 1 });
  expect([...rehearsal.goes]).toEqual([1, 1, 0, 0, 0]);
});

describe('rehearsed again and again', () => {
  const rehearser = new Rehearser(samples);

  test('trouble is grouped by what is said, the commonest first', () => {
    const summary = rehearser.rehearse(route());
    expect(summary.lines[0]!.troubles).toEqual([
      {
        code: 'number.none',
        message: 'There is no number in “none”.',
        ways: 1,
        said: ['There is no number in “none”.'],
        samples: [1, 3],
      },
    ]);
    expect(samples.map((_, at) => [0, 1].map(line => stateOf(summary, line, at)[0]).join(''))).toEqual([
      'ff',
      'tf',
      'bf',
      'tf',
      'ft',
    ]);
    expect(samples.map((_, at) => isTroubled(summary, at))).toEqual([false, true, false, true, true]);
    expect(structuredClone(summary)).toEqual(summary);
  });

  test('whatever was edited in between, it says the same as rehearsing afresh', () => {
    const [ph, site] = route().call.lines as [Line, Line];
    const keys = ['p', 's', '@id', 'nothing'];
    const edits = fc.record({
      source: fc.oneof(
        fc.constant(null),
        fc.constantFrom(...keys).map((field): Source => ({ from: 'field', field })),
        fc.constant<Source>({ from: 'rest' }),
        fc.constant<Source>({ from: 'first', fields: keys }),
      ),
      number: fc.boolean(),
      whenBlank: fc.constantFrom(...blankPolicies),
      whenProblem: fc.constantFrom(...problemPolicies),
      only: fc.constantFrom<Condition>(
        { all: [] },
        { any: [{ field: 's', is: 'equals', values: ['AB-07'], not: false }] },
        { none: [{ field: 'p', is: 'above', values: ['7'], not: false }] },
      ),
    });
    fc.assert(
      fc.property(edits, ({ source, number, whenBlank, whenProblem, only }) => {
        const cleaning = number ? [{ id: 'number.read', params: {} }] : [];
        const edited = route({
          condition: only,
          call: { ...route().call, lines: [{ ...ph, source, cleaning, whenBlank, whenProblem }, site] },
        });
        const summary = rehearser.rehearse(edited);
        const fresh = new Rehearser(samples).rehearse(edited);
        expect(summary).toEqual(fresh);
        const { lines } = compileCall(edited.call, operation, edited.baseUrl);
        samples.forEach(({ submission }, at) =>
          lines.forEach((line, place) => {
            const state = line.line.source === null ? 'blank' : line.outcome(scopeOf(submission), edited.context).state;
            expect(stateOf(summary, place, at)).toBe(state);
          }),
        );
      }),
    );
  });
});
