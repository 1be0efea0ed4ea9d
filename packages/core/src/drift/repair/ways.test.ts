import { lineFrom, register, registering, reporting, reports, targetField } from '../../testing';
import type { RouteDefinition } from '../../route';
import { inferSchema } from '../../schema';
import type { Operation } from '../../target';
import { fareOf, operationChanges, repairsForForm, repairsForTarget, supposedOfForm, supposedOfTarget } from '..';

const held = (definition: RouteDefinition, operations: Operation[], samples = reports) =>
  fareOf(definition, [{ ...register, operations }], samples).held;

describe('what was one answer is several', () => {
  const waysTo = (question: string, definition = reporting, operation = registering) => {
    const now = supposedOfForm(reports, question, 'single-to-list');
    const parts = { schema: inferSchema(now), samples: now, operationOf: () => operation };
    const ways = repairsForForm({ change: 'single-to-list', question }, definition, parts);
    return {
      now,
      ways,
      again: (of: RouteDefinition) => repairsForForm({ change: 'single-to-list', question }, of, parts),
    };
  };

  test.each(['joined', 'first', 'each'])('a text takes it %s, and what comes as before goes as before', way => {
    const { now, ways, again } = waysTo('note');
    const { repair } = ways.find(each => each.way === way)!;
    expect(held(reporting, [registering], now)).toBe(4);
    expect(held(repair!.definition, [registering], [...now, ...reports])).toBe(0);
    // Mended is not mended again.
    expect(again(repair!.definition)).toEqual([]);
  });

  test('one of a list of options is not joined with others', () => {
    const { now, ways } = waysTo('site');
    expect(ways.map(each => each.way).slice(0, 2)).toEqual(['first', 'each']);
    expect(held(ways[0]!.repair!.definition, [registering], now)).toBe(0);
  });

  test('a call that is made for each of something already is not made for each of this', () => {
    const [call] = reporting.calls;
    const { ways } = waysTo('note', { ...reporting, calls: [{ ...call!, repeat: 'weather' }] });
    expect(ways.map(each => each.way)).toEqual(expect.arrayContaining(['joined', 'first']));
    expect(ways.map(each => each.way)).not.toContain('each');
  });

  test('there is no request for each where somebody leaves it blank: that one would have none', () => {
    const [one, ...others] = supposedOfForm(reports, 'note', 'single-to-list');
    const samples = [{ ...one!, fields: one!.fields.filter(each => each.key !== 'note') }, ...others];
    const ways = repairsForForm({ change: 'single-to-list', question: 'note' }, reporting, {
      schema: inferSchema(samples),
      samples,
      operationOf: () => registering,
    });
    expect(ways.map(each => each.way)).toEqual(['joined', 'first']);
  });

  test('a field that takes a list needs nothing', () => {
    const fields = registering.fields.map(each =>
      each.key === 'note' ? targetField('note', { type: 'choices' }) : each,
    );
    const now = supposedOfForm(reports, 'note', 'single-to-list');
    const parts = { schema: inferSchema(now), samples: now, operationOf: () => ({ ...registering, fields }) };
    expect(repairsForForm({ change: 'single-to-list', question: 'note' }, reporting, parts)).toEqual([]);
  });
});

describe('a field that has to be filled', () => {
  const river = targetField('river', { required: true, options: ['Alder', 'Teal'], default: 'Teal' });
  const now = { ...registering, fields: [...registering.fields, river] };
  const [change] = operationChanges([registering], [now]).filter(each => each.field === '/river');
  const waysWith = (value?: string, definition = reporting) =>
    repairsForTarget(change!, register.id, definition, {
      schema: inferSchema(reports),
      samples: reports,
      operationOf: () => now,
      before: [registering],
      after: [now],
      ...(value !== undefined && { value }),
    });

  test('takes what the target says that it assumes, or what a person says', () => {
    const ways = waysWith();
    expect(ways.map(({ way, label, asks, repair }) => [way, label, asks, repair === null])).toEqual([
      ['default', 'The target’s default, “Teal”', null, false],
      ['value', 'Always the same value', { to: 'river', options: ['Alder', 'Teal'] }, true],
    ]);
    expect(held(reporting, [now])).toBe(4);
    expect(held(ways[0]!.repair!.definition, [now])).toBe(0);
    const said = waysWith('Alder').find(each => each.way === 'value')!;
    expect(said.repair!.words).toEqual(['river: always “Alder”.']);
    expect(held(said.repair!.definition, [now])).toBe(0);
    expect(waysWith(undefined, said.repair!.definition)).toEqual([]);
  });

  test('of two calls that need it each takes a value of its own, one after the other', () => {
    const [call] = reporting.calls;
    const twice = { ...reporting, calls: [call!, { ...call!, id: 'b' }] };
    const valueIn = ({ calls }: RouteDefinition) =>
      calls.map(({ lines }) => lines.find(each => each.to === 'river')?.source ?? null);
    const once = waysWith('Alder', twice).filter(each => each.way === 'value');
    expect(once).toHaveLength(1);
    const both = waysWith('Teal', once[0]!.repair!.definition).find(each => each.way === 'value')!;
    expect(valueIn(both.repair!.definition)).toEqual([
      { from: 'constant', value: 'Alder' },
      { from: 'constant', value: 'Teal' },
    ]);
    expect(waysWith('Teal', both.repair!.definition)).toEqual([]);
  });

  test.each([
    ['number' as const, '7.5', 7.5],
    ['integer' as const, '7', 7],
    ['boolean' as const, 'true', true],
    ['text' as const, '7', '7'],
  ])('a %s is sent as one', (type, value, sent) => {
    const wanted = { ...registering, fields: [...registering.fields, targetField('river', { required: true, type })] };
    const ways = repairsForTarget(change!, register.id, reporting, {
      schema: inferSchema([]),
      samples: [],
      operationOf: () => wanted,
      before: [registering],
      after: [wanted],
      value,
    });
    const { repair } = ways.find(each => each.way === 'value')!;
    expect(repair!.definition.calls[0]!.lines.at(-1)!.source).toEqual({ from: 'constant', value: sent });
    expect(held(repair!.definition, [wanted])).toBe(0);
  });

  test('where a line leaves it blank now and then, that is filled and nothing else', () => {
    const [first, ...others] = reports;
    const gappy = [{ ...first!, fields: first!.fields.filter(each => each.key !== 'note') }, ...others];
    const required = supposedOfTarget([registering], 'create', 'note', 'required');
    const [one] = operationChanges([registering], required).filter(each => each.field === '/note');
    const parts = {
      schema: inferSchema(gappy),
      operationOf: () => required[0]!,
      before: [registering],
      after: required,
    };
    expect(held(reporting, required, gappy)).toBe(1);
    const [way] = repairsForTarget(one!, register.id, reporting, { ...parts, samples: gappy, value: 'none' });
    expect(way!.repair!.words).toEqual(['note: “none” where it would be blank.']);
    expect(held(way!.repair!.definition, required, gappy)).toBe(0);
    // Nobody leaves it blank: there is nothing to do.
    expect(repairsForTarget(one!, register.id, reporting, { ...parts, samples: others, value: 'none' })).toEqual([]);
  });

  test('what a question that is gone filled gets one value where it is not answered', () => {
    const gone = supposedOfForm(reports, 'site', 'gone');
    const parts = { schema: inferSchema(gone), samples: gone, operationOf: () => registering };
    const change = { change: 'gone' as const, question: 'site' };
    const [asking] = repairsForForm(change, reporting, parts);
    expect(asking).toMatchObject({ way: 'value', asks: { to: 'site', options: ['AB-07', 'AB-02'] }, repair: null });
    const [said] = repairsForForm(change, reporting, { ...parts, value: 'AB-02' });
    expect([held(reporting, [registering], gone), held(said!.repair!.definition, [registering], gone)]).toEqual([4, 0]);
    // What is not required may be missing.
    expect(repairsForForm({ change: 'gone', question: 'note' }, reporting, parts)).toEqual([]);
  });
});

describe('one line that makes a record and updates the one that is found', () => {
  const updating: Operation = { ...registering, id: 'update', method: 'PATCH', path: '/r/{no}' };
  const finding: Operation = {
    ...registering,
    id: 'list',
    method: 'GET',
    fields: [targetField('site', { in: 'query', pointer: 'site' })],
  };
  const [call] = reporting.calls;
  const definition: RouteDefinition = {
    ...reporting,
    calls: [
      {
        ...call!,
        find: {
          operationId: 'list',
          line: lineFrom('site', 'site'),
          list: '',
          equals: '/site',
          whenNone: 'create',
          whenSeveral: 'first',
          update: { operationId: 'update', to: 'no', from: '/no' },
        },
      },
    ],
  };
  const before = [registering, updating, finding];
  const renamed = (ids: string[]) => ids.reduce((all, id) => supposedOfTarget(all, id, 'site', 'renamed'), before);
  const repairsOf = (after: Operation[], operationId: string, of = definition) => {
    const is = (all: Operation[]) => all.filter(each => each.id === operationId);
    const [change] = operationChanges(is(before), is(after)).filter(each => each.change === 'field-renamed');
    return repairsForTarget(change!, register.id, of, {
      schema: inferSchema(reports),
      samples: reports,
      operationOf: asked => after.find(each => each.id === asked.operationId) ?? null,
      before: is(before),
      after,
    });
  };

  test.each(['create', 'update'])('is mended for both by the change of either: %s', id => {
    const after = renamed(['create', 'update']);
    const [way] = repairsOf(after, id);
    expect(way!.repair!.words).toEqual(['The line for “site” fills “site (new)”.']);
    expect(way!.repair!.definition.calls[0]!.lines[0]!.to).toBe('site (new)');
    expect(held(way!.repair!.definition, after)).toBe(0);
    // The change of the other is mended with it.
    for (const other of ['create', 'update']) expect(repairsOf(after, other, way!.repair!.definition)).toEqual([]);
  });

  test('stays as it is while one of them has the field under the name it had', () =>
    expect(repairsOf(renamed(['update']), 'update')).toEqual([]));

  test('what is looked for is asked under its other name', () => {
    const [way] = repairsOf(renamed(['list']), 'list');
    const [mended] = way!.repair!.definition.calls;
    expect([mended!.find!.line.to, mended!.lines[0]!.to]).toEqual(['site (new)', 'site']);
  });
});

describe('one of two words that is true or false now', () => {
  const words = (yes: string, no: string) => {
    const operation = {
      ...registering,
      fields: registering.fields.map(each =>
        each.key === 'note' ? targetField('note', { options: [yes, no] }) : each,
      ),
    };
    const asked = {
      ...reporting,
      condition: { all: [{ field: 'note', is: 'equals' as const, values: [yes], not: false }] },
    };
    const now = reports.map((each, at) => ({
      ...each,
      fields: each.fields.map(field =>
        field.key === 'note' ? { ...field, kind: 'boolean' as const, value: at % 2 === 0 } : field,
      ),
    }));
    const change = { change: 'notation' as const, question: 'note', was: [yes, no].sort(), now: ['true', 'false'] };
    const parts = { schema: inferSchema(now), samples: now, operationOf: () => operation };
    return { operation, now, ways: repairsForForm(change, asked, parts) };
  };

  test.each([
    ['Yes', 'No'],
    ['Ja', 'Nein'],
  ])('gives %s or %s again, to the filter too', (yes, no) => {
    const { operation, now, ways } = words(yes, no);
    expect(ways.map(each => each.label)).toEqual([`true is “${yes}”`]);
    const { definition } = ways[0]!.repair!;
    const fare = fareOf(definition, [{ ...register, operations: [operation] }], now);
    expect(fare).toMatchObject({ looked: 2, held: 0 });
    expect(definition.calls[0]!.lines[2]!.cleaning[0]!.params).toMatchObject({
      table: expect.stringContaining(`true,${yes}`) as string,
    });
  });

  test('where nobody knows which word says yes, both are offered', () =>
    expect(words('Märg', 'Kuiv').ways.map(({ way, label }) => [way, label])).toEqual([
      ['yesFirst', 'true is “Kuiv”'],
      ['yesSecond', 'true is “Märg”'],
    ]));
});
