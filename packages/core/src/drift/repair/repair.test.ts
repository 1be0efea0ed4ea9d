import { lineFrom, register, registering, reporting, reports, targetField } from '../../testing';
import { compileCondition, type Condition } from '../../condition';
import type { RouteDefinition } from '../../route';
import { inferSchema } from '../../schema';
import { scopeOf } from '../../scope';
import type { Operation } from '../../target';
import {
  fareOf,
  operationName,
  operationChanges,
  repairsForForm,
  repairsForTarget,
  supposedOfForm,
  supposedOfTarget,
  type FormChange,
  type FormSupposition,
  type TargetSupposition,
} from '..';

/** The first repair that is offered. */
const repairForForm = (...asked: Parameters<typeof repairsForForm>) => repairsForForm(...asked)[0]?.repair ?? null;
const repairForTarget = (...asked: Parameters<typeof repairsForTarget>) =>
  repairsForTarget(...asked)[0]?.repair ?? null;

const schema = inferSchema(reports);

describe('repairs of a changed form', () => {
  const parts = {
    schema: { count: 0, fields: [] },
    samples: reports,
    operationOf: () => registering,
  };
  test('a question under another key is rewired, and all go again', () => {
    const now = supposedOfForm(reports, 'site', 'replaced');
    const repair = repairForForm(
      { change: 'replaced', question: 'site', was: 'site', now: 'site (new)' },
      reporting,
      parts,
    );
    expect(fareOf(repair!.definition, [register], now)).toMatchObject({ looked: 4, held: 0 });
    // Both are served while both arrive.
    expect(fareOf(repair!.definition, [register], [...now, ...reports])).toMatchObject({ looked: 8, held: 0 });
  });
  const asked = { field: 'weather', is: 'equals' as const, values: ['Wet'], not: false };
  const filled = { field: 'weather', is: 'blank' as const, values: [], not: true };
  test.each<[string, Condition, string[]]>([
    ['what is said', { all: [asked] }, ['Wet']],
    ['what is not said', { all: [{ ...asked, not: true }] }, ['Dry', '']],
    ['what is filled', { any: [filled] }, ['Wet', 'Dry']],
    ['what is blank', { all: [{ ...filled, not: false }] }, ['']],
    ['none of it', { none: [asked] }, ['Dry', '']],
    ['none that is blank', { none: [{ ...filled, not: false }] }, ['Wet', 'Dry']],
    ['a group inside a group', { all: [{ any: [asked, { none: [filled] }] }] }, ['Wet', '']],
  ])('a filter that asks for a question under another key asks for either: %s', (_, condition, goes) => {
    const change = { change: 'replaced' as const, question: 'weather', was: 'weather', now: 'q_7' };
    const [call] = reporting.calls;
    const find = { line: { ...call!.lines[0]!, source: { from: 'field' as const, field: 'weather' } } };
    const definition = {
      ...reporting,
      condition,
      calls: [{ ...call!, condition, find: find as NonNullable<typeof call>['find'] }],
    } as typeof reporting;
    const made = repairForForm(change, definition, parts)!.definition;
    const first = { from: 'first', fields: ['q_7', 'weather'] };
    expect(made.calls[0]).toMatchObject({ condition: made.condition, find: { line: { source: first } } });
    const lets = compileCondition(made.condition);
    const with_ = (key: string, value: string) =>
      scopeOf({ ...reports[0]!, fields: [{ key, label: key, value, kind: 'text', pointer: '' }] });
    for (const key of ['weather', 'q_7'])
      expect(['Wet', 'Dry', ''].filter(value => lets(with_(key, value)))).toEqual(
        ['Wet', 'Dry', ''].filter(value => goes.includes(value)),
      );
    expect(repairForForm(change, made, parts)).toBeNull();
  });
  test('a question that got another key twice is asked for under all three', () => {
    const replaced = (was: string, now: string) => ({ change: 'replaced' as const, question: was, was, now });
    const once = repairForForm(replaced('site', 'q_7'), reporting, parts)!.definition;
    const twice = repairForForm(replaced('q_7', 'q_9'), once, parts)!.definition;
    expect(twice.calls[0]!.lines.find(each => each.to === 'site')!.source).toEqual({
      from: 'first',
      fields: ['q_9', 'q_7', 'site'],
    });
  });
  test('an option under another name is translated, in lines and conditions', () => {
    const change = (question: string, was: string) => ({
      change: 'option-renamed' as const,
      question,
      was,
      now: `${was} (new)`,
    });
    const sites = supposedOfForm(reports, 'site', 'option-renamed', 'AB-07');
    const repaired = repairForForm(change('site', 'AB-07'), reporting, parts)!;
    expect(fareOf(repaired.definition, [register], sites)).toMatchObject({ looked: 4, held: 0 });
    const wet = supposedOfForm(reports, 'weather', 'option-renamed', 'Wet');
    const condition = repairForForm(change('weather', 'Wet'), reporting, parts)!;
    expect(fareOf(condition.definition, [register], wet)).toMatchObject({ looked: 4, held: 0 });
    // What comes as before goes as before.
    expect(fareOf(condition.definition, [register], reports)).toMatchObject({ looked: 4, held: 0 });
  });
  test.each([
    ['what is not used', { change: 'replaced' as const, question: 'depth', was: 'depth', now: 'd' }],
    ['a question that is gone', { change: 'gone' as const, question: 'site' }],
    ['another wording', { change: 'reworded' as const, question: 'site', was: 'a', now: 'b' }],
    ['messages that are built otherwise', { change: 'envelope' as const, question: null }],
  ])('nothing mends %s', (_, change) => expect(repairForForm(change, reporting, parts)).toBeNull());
});

describe('what is mended is not mended again', () => {
  test.each<[FormSupposition, FormChange]>([
    ['replaced', { change: 'replaced', question: 'site', was: 'site', now: 'site (new)' }],
    ['option-renamed', { change: 'option-renamed', question: 'site', was: 'AB-07', now: 'AB-07 (new)' }],
    ['single-to-list', { change: 'single-to-list', question: 'note' }],
  ])('%s', (what, change) => {
    const question = change.question!;
    const now = supposedOfForm(reports, question, what, 'AB-07');
    const parts = { schema: inferSchema(now), samples: now, operationOf: () => registering };
    const once = repairForForm(change, reporting, parts)!;
    expect(fareOf(reporting, [register], now).held).toBeGreaterThan(0);
    expect(fareOf(once.definition, [register], now)).toMatchObject({ looked: 4, held: 0 });
    expect(repairForForm(change, once.definition, parts)).toBeNull();
  });
  test('an option that a condition asks for', () => {
    const change: FormChange = { change: 'option-renamed', question: 'weather', was: 'Wet', now: 'Wet (new)' };
    const parts = { schema, samples: reports, operationOf: () => registering };
    const once = repairForForm(change, reporting, parts)!;
    expect(once.words).toEqual(['The filter also accepts “Wet (new)”.']);
    expect(repairForForm(change, once.definition, parts)).toBeNull();
  });
});

describe('repairs for a changed target', () => {
  const changed = (now: Operation[], key: string) => {
    const [change] = operationChanges([registering], now).filter(each => each.field === `/${key}`);
    const parts = { schema, samples: reports, operationOf: () => now[0]!, before: [registering], after: now };
    return {
      held: fareOf(reporting, [{ ...register, operations: now }], reports).held,
      repair: (of = reporting) => repairForTarget(change!, register.id, of, parts),
    };
  };
  test.each<[TargetSupposition, string, number, RegExp]>([
    ['option-renamed', 'site', 2, /“AB-07” is sent as “AB-07 \(new\)”/],
    ['renamed', 'site', 4, /The line for “site” fills “site \(new\)”/],
    ['shorter', 'note', 4, /note: .*4 of 4 answers are valid, 0 before/],
  ])('%s of %s', (what, key, held, words) => {
    const now = supposedOfTarget([registering], 'create', key, what, 'AB-07');
    const { repair, held: broken } = changed(now, key);
    expect(broken).toBe(held);
    const once = repair()!;
    expect(once.words.join(' ')).toMatch(words);
    expect(fareOf(once.definition, [{ ...register, operations: now }], reports)).toMatchObject({ looked: 4, held: 0 });
    expect(repair(once.definition)).toBeNull();
  });
  test.each<[TargetSupposition, string]>([
    ['gone', 'ph'],
    ['required', 'note'],
  ])('nothing mends %s of %s', (what, key) =>
    expect(changed(supposedOfTarget([registering], 'create', key, what), key).repair()).toBeNull(),
  );
  test('a field that is new and required gets the line that is likely', () => {
    const now = [{ ...registering, fields: [...registering.fields, targetField('weather', { required: true })] }];
    const { repair, held } = changed(now, 'weather');
    expect(held).toBe(4);
    const once = repair()!;
    expect(once.words[0]).toMatch(/^New line for “weather”/);
    expect(once.definition.calls[0]!.lines.at(-1)).toMatchObject({ to: 'weather', source: { field: 'weather' } });
    expect(repair(once.definition)).toBeNull();
  });
  test('an operation that moved takes the calls along, wherever they use it', () => {
    const moved = { ...registering, id: 'put', method: 'PUT' as const, path: '/v2/samples/{no}' };
    const change = {
      change: 'operation-moved' as const,
      operation: operationName(registering),
      was: operationName(registering),
      now: operationName(moved),
    };
    const [call] = reporting.calls;
    const find = {
      operationId: 'list',
      line: lineFrom('no', 'no'),
      list: '',
      equals: '/no',
      whenNone: 'create' as const,
    };
    const using: RouteDefinition = {
      ...reporting,
      calls: [
        call!,
        {
          ...call!,
          id: 'second',
          operationId: 'other',
          find: { ...find, whenSeveral: 'first', update: { operationId: call!.operationId, to: 'no', from: '/no' } },
          readBack: { operationId: call!.operationId, to: 'no', from: '/no' },
        },
        { ...call!, id: 'third', targetId: 'another' },
      ],
    };
    const parts = { schema, samples: reports, operationOf: () => moved, before: [registering], after: [moved] };
    const repair = repairForTarget(change, register.id, using, parts)!;
    expect(repair.words).toEqual([`Use ${change.now} instead of ${change.was}.`]);
    expect(repair.definition.calls.map(each => each.operationId)).toEqual(['put', 'other', call!.operationId]);
    expect(repair.definition.calls[1]).toMatchObject({
      find: { operationId: 'list', update: { operationId: 'put' } },
      readBack: { operationId: 'put' },
    });
    expect(repairForTarget(change, register.id, repair.definition, parts)).toBeNull();
    // Where it is not there any more, or has kept its identifier, there is nothing to take along.
    expect(repairForTarget(change, register.id, using, { ...parts, after: [] })).toBeNull();
    expect(
      repairForTarget(change, register.id, using, { ...parts, after: [{ ...moved, id: registering.id }] }),
    ).toBeNull();
  });
  test('a call to another target is left alone', () => {
    const now = supposedOfTarget([registering], 'create', 'site', 'renamed');
    const [change] = operationChanges([registering], now);
    const parts = { schema, samples: reports, operationOf: () => now[0]!, before: [registering], after: now };
    expect(repairForTarget(change!, 'another', reporting, parts)).toBeNull();
  });
});

test('a constant that holds what looks like a question stays as it is', () => {
  const value = { field: 'site', of: [{ each: 'site' }] };
  const [call] = reporting.calls;
  const definition = {
    ...reporting,
    calls: [{ ...call!, lines: [{ ...lineFrom('site', 'site'), source: { from: 'constant' as const, value } }] }],
  };
  const change: FormChange = { change: 'replaced', question: 'site', was: 'site', now: 'q_7' };
  expect(repairForForm(change, definition, { schema, samples: reports, operationOf: () => registering })).toBeNull();
});
