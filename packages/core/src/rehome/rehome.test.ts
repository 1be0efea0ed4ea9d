import fc from 'fast-check';
import { rekeyed, usesOf, type RouteDefinition } from '../route';
import type { FieldSchema, FormSchema } from '../schema';
import type { FieldKind } from '../submission';
import { inferSchema } from '../schema';
import type { Operation } from '../target';
import { lineFrom, register, registering, reporting, reports, targetField } from '../testing';
import { ontoForm, ontoTarget } from '.';

const before = inferSchema(reports);
const named = (label: string, kind: FieldKind, ...options: string[]) => ({ label, kind, options });
const asks = (questions: Record<string, ReturnType<typeof named>>): FormSchema => ({
  count: 9,
  fields: Object.entries(questions).map(([key, { label, kind, options }]): FieldSchema => ({
    ...before.fields[0]!,
    key,
    label,
    kind,
    options: options.map(value => ({ value, times: 3, firstAt: 0, lastAt: 0 })),
  })),
});
const said: FormSchema = {
  ...before,
  fields: before.fields.map(each => ({
    ...each,
    label: { site: 'Sampling site', ph: 'pH', note: 'Notes', weather: 'Weather' }[each.key] ?? each.key,
  })),
};

test.each<[string, FormSchema, Record<string, string | null>]>([
  ['the same form', said, { weather: 'weather', site: 'site', ph: 'ph', note: 'note' }],
  [
    'other keys, the same words',
    asks({
      q1: named('Weather', 'choice', 'Wet', 'Dry'),
      q2: named('Sampling site', 'choice', 'AB-07'),
      q3: named('pH', 'number'),
      q4: named('Notes', 'multiline'),
    }),
    { weather: 'q1', site: 'q2', ph: 'q3', note: 'q4' },
  ],
  [
    'one that does not ask all of it',
    asks({ q2: named('Sampling site', 'choice', 'AB-07'), q9: named('Shoe size', 'number') }),
    { weather: null, site: 'q2', ph: null, note: null },
  ],
  [
    'a key that means something else there',
    asks({ site: named('Web address', 'url'), place: named('Sampling site', 'choice', 'AB-07') }),
    { weather: null, site: 'place', ph: null, note: null },
  ],
  [
    'two that changed places',
    asks({ note: named('pH', 'number'), ph: named('Notes', 'multiline') }),
    { weather: null, site: null, ph: 'note', note: 'ph' },
  ],
])('onto %s', (_, after, homes) => {
  const { definition, moves } = ontoForm(reporting, said, after);
  expect(Object.fromEntries(moves.map(each => [each.was, each.now]))).toEqual(homes);
  // Nothing is dropped, and a loose end means nothing that the other form asks.
  expect(definition.calls[0]!.lines.map(each => each.to)).toEqual(['site', 'ph', 'note']);
  for (const { was, now } of moves)
    if (now === null)
      for (const field of after.fields)
        expect(usesOf(definition, field.key).length).toBe(
          moves
            .filter(each => each.now === field.key)
            .reduce((sum, each) => sum + usesOf(reporting, each.was).length, 0),
        );
    else expect(usesOf(definition, now)).toEqual(usesOf(reporting, was));
});

test('what somebody chose counts, a loose end too', () => {
  const after = asks({ a: named('Sampling site', 'choice', 'AB-07'), b: named('Where', 'text') });
  const chosen = new Map<string, string | null>([
    ['site', 'b'],
    ['note', null],
  ]);
  const { definition, moves } = ontoForm(reporting, said, after, chosen);
  expect(moves.map(each => [each.was, each.now])).toEqual([
    ['weather', null],
    ['site', 'b'],
    ['ph', null],
    ['note', null],
  ]);
  expect(definition.calls[0]!.lines[0]!.source).toEqual({ from: 'field', field: 'b' });
});

test('whatever the other form asks, it is undone by the same in reverse', () =>
  fc.assert(
    fc.property(fc.uniqueArray(fc.constantFrom('site', 'ph', 'note', 'weather', 'q1', 'q2', 'q3')), keys => {
      const after = asks(Object.fromEntries(keys.map((key, at) => [key, named(`Question ${at}`, 'text')])));
      const { definition, moves } = ontoForm(reporting, said, after);
      const sources = definition.calls[0]!.lines.flatMap(each =>
        each.source?.from === 'field' ? [each.source.field] : [],
      );
      expect(new Set(sources).size).toBe(3);
      const back = new Map(['site', 'ph', 'note'].map((key, at) => [sources[at]!, key] as const));
      expect(rekeyed(definition, back).calls).toEqual(reporting.calls);
      expect(moves).toHaveLength(4);
    }),
  ));

const ledger: Operation[] = [
  { id: 'list', label: 'List entries', method: 'GET', path: '/entries', fields: [] },
  {
    id: 'add-person',
    label: 'Add a person',
    method: 'POST',
    path: '/people',
    fields: [targetField('email', { required: true }), targetField('name')],
  },
  {
    id: 'add-entry',
    label: 'Add an entry',
    method: 'POST',
    path: '/entries',
    fields: [
      targetField('location', { label: 'Sampling site', options: ['AB-07', 'AB-02'] }),
      targetField('acidity', { label: 'pH', type: 'number' }),
      targetField('recordedBy', { label: 'Recorded by', required: true }),
    ],
  },
];
const worded: Operation = {
  ...registering,
  fields: registering.fields.map(each => ({
    ...each,
    label: { site: 'Sampling site', ph: 'pH', note: 'Notes' }[each.key]!,
  })),
};
const exchange = { from: { id: 't', operations: [worded] }, to: { id: 'u', operations: ledger } };

test('onto another target: the operation that takes most, its fields by what they mean, and what has none is kept', () => {
  const { definition, moves } = ontoTarget(reporting, exchange);
  const [call] = definition.calls;
  expect([call!.targetId, call!.operationId]).toEqual(['u', 'add-entry']);
  expect(moves.map(({ what, was, now }) => [what, was, now])).toEqual([
    ['operation', 'create', 'add-entry'],
    ['field', 'site', 'location'],
    ['field', 'ph', 'acidity'],
    ['field', 'note', null],
  ]);
  expect(call!.lines.map(each => [each.to, each.source])).toEqual([
    ['location', { from: 'field', field: 'site' }],
    ['acidity', { from: 'field', field: 'ph' }],
    ['note', { from: 'field', field: 'note' }],
    ['recordedBy', null],
  ]);
});

test('an operation that was chosen counts; without a like of it the call stays a loose end', () => {
  const chosen = ontoTarget(reporting, exchange, new Map([['a', 'add-person']]));
  expect(chosen.definition.calls[0]!.operationId).toBe('add-person');
  const none = ontoTarget(reporting, { ...exchange, to: { id: 'u', operations: ledger.slice(0, 1) } });
  expect(none.moves).toEqual([{ what: 'operation', callId: 'a', was: 'create', label: 'Create', now: null }]);
  expect(none.definition.calls[0]).toEqual({ ...reporting.calls[0], targetId: 'u' });
});

test('look-ups and reading back go along, and calls to others stay', () => {
  const searching: Operation = {
    id: 'search',
    label: 'Search',
    method: 'GET',
    path: '/r',
    fields: [targetField('key', { in: 'query' })],
  };
  const [call] = reporting.calls;
  const wide: RouteDefinition = {
    ...reporting,
    calls: [
      { ...call!, id: 'other', targetId: 'x' },
      {
        ...call!,
        find: {
          operationId: 'search',
          line: lineFrom('key', 'site'),
          list: '/items',
          equals: '/site',
          whenNone: 'create',
          whenSeveral: 'hold',
          update: null,
        },
        readBack: { operationId: 'search', to: 'key', from: '/id' },
      },
    ],
  };
  const offered: Operation[] = [
    ...ledger.slice(1),
    { ...searching, id: 'find-entries', fields: [targetField('key', { in: 'query' })] },
  ];
  const { definition } = ontoTarget(wide, {
    from: { id: 't', operations: [worded, searching] },
    to: { id: 'u', operations: offered },
  });
  expect(definition.calls[0]).toEqual(wide.calls[0]);
  expect(definition.calls[1]).toMatchObject({
    targetId: 'u',
    find: { operationId: 'find-entries', line: { to: 'key' }, equals: '/site' },
    readBack: { operationId: 'find-entries' },
  });
});

test('a target that offers the same under the same names changes nothing but where it goes', () => {
  const same = ontoTarget(reporting, { from: register, to: { id: 'u', operations: register.operations } });
  expect(same.definition).toEqual({ ...reporting, calls: [{ ...reporting.calls[0]!, targetId: 'u' }] });
});
