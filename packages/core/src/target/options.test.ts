import type { Json } from '../submission';
import { targetField } from '../testing';
import { optionFor, optionsIn, readOpenApi, takingNames } from '.';

describe('options, however they are given', () => {
  test.each<[string, Json, string[] | null, Record<string, string> | undefined]>([
    ['values', ['Foam', 3, true], ['Foam', '3', 'true'], undefined],
    [
      'identifier and name',
      [
        { id: 's1', name: 'Grafting' },
        { id: 's2', name: 'Pruning' },
      ],
      ['s1', 's2'],
      { s1: 'Grafting', s2: 'Pruning' },
    ],
    ['value and label', [{ value: 7, label: 'Low' }], ['7'], { 7: 'Low' }],
    ['a name alone', [{ name: 'Foam' }], ['Foam'], undefined],
    ['an identifier alone', [{ id: 4 }], ['4'], undefined],
    ['names by value', { s1: 'Grafting', s2: 's2' }, ['s1', 's2'], { s1: 'Grafting' }],
    ['nothing in them', [{}, { colour: 'red' }], [], undefined],
    ['none', null, null, undefined],
    ['words', 'Foam, Litter', null, undefined],
  ])('%s', (_, given, options, optionNames) =>
    expect(optionsIn(given)).toEqual({ options, ...(optionNames && { optionNames }) }),
  );

  const field = targetField('skill', {
    type: 'choice',
    ...optionsIn([
      { id: 's1', name: 'Grafting' },
      { id: 's2', name: 'Bank walks' },
    ]),
  });
  test.each([
    ['s1', 's1'],
    ['grafting', 's1'],
    ['BANK WALKS', 's2'],
    ['Pruning', undefined],
  ])('%s is the option %s', (said, option) => expect(optionFor(field, said)).toBe(option));
});

// JSON Schema 2020-12, “annotated enumerations” as its learning pages (json-schema.org) show them; the other is how generators write.
test.each<[string, Json]>([
  [
    'a title at each constant',
    {
      oneOf: [
        { const: 's1', title: 'Grafting' },
        { const: 's2', title: 'Pruning' },
      ],
    },
  ],
  ['names beside them', { type: 'string', enum: ['s1', 's2'], 'x-enumNames': ['Grafting', 'Pruning'] }],
])('a document names its options: %s', (_, skill) => {
  const found = readOpenApi({
    openapi: '3.1.0',
    paths: {
      '/a': {
        post: {
          requestBody: {
            content: {
              'application/json': { schema: { properties: { skill, many: { type: 'array', items: skill } } } },
            },
          },
        },
      },
    },
  });
  if ('fault' in found) throw new Error(found.fault);
  const names = { options: ['s1', 's2'], optionNames: { s1: 'Grafting', s2: 'Pruning' } };
  expect(found.operations[0]!.fields).toMatchObject([
    { key: 'skill', type: 'choice', label: 'Skill', ...names },
    { key: 'many', type: 'choices', ...names },
  ]);
});

test('a field of a target that takes names takes those, unless two options are called alike', () => {
  const field = (optionNames?: Record<string, string>) =>
    targetField('stage', { options: ['s1', 's2'], ...(optionNames && { optionNames }) });
  expect(takingNames(field({ s1: 'New', s2: 'Old' }))).toEqual(targetField('stage', { options: ['New', 'Old'] }));
  expect(takingNames(field({ s1: 'New' })).options).toEqual(['New', 's2']);
  for (const each of [field({ s1: 'New', s2: 'New' }), field(), targetField('stage')])
    expect(takingNames(each)).toBe(each);
});
