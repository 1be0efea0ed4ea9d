import type { CallInput } from '@grammata/contract';
import type { Sample } from '@grammata/core/rehearse';
import { inferSchema } from '@grammata/core/schema';
import type { Submission } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { answerReferences, itemReferences, referencesOf } from './references';

const submission: Submission = {
  form: null,
  id: 's1',
  submittedAt: '2026-11-04T08:12:06Z',
  meta: { utm_source: 'leaflet' },
  files: [],
  questions: [
    { key: 'site', label: 'Which site?', pointer: '/site' },
    { key: 'catch', label: 'What was caught', pointer: '/catch' },
  ],
  fields: [
    { key: 'site', label: 'Which site?', kind: 'text', value: 'AB-07', pointer: '/site' },
    { key: 'catch', label: 'What was caught', kind: 'table', value: [{ fish: 'roach', count: 3 }], pointer: '/catch' },
  ],
};
const samples: Sample[] = [{ id: 's1', receivedAt: '2026-11-04T08:12:07Z', submission }];
const schema = inferSchema([submission]);

test('questions are offered with an answer, and what stands beside the answers', () => {
  const all = referencesOf(schema, samples);
  expect(all.filter(each => each.isQuestion).map(({ key, label, example }) => [key, label, example])).toEqual([
    ['site', 'Which site?', 'AB-07'],
    ['catch', 'What was caught', expect.anything()],
  ]);
  expect(all.filter(each => each.group === 'about').map(each => each.example)).toContain('leaflet');
});

test('without a sample nothing is made up', () =>
  expect(
    referencesOf(schema, [])
      .filter(each => each.group === 'about')
      .every(each => each.example === null),
  ).toBe(true));

test('an item of a table is offered whole, by its parts and with its number', () =>
  expect(itemReferences('catch', schema, samples).map(each => each.label)).toEqual([
    'one of “What was caught”',
    'fish of one of “What was caught”',
    'count of one of “What was caught”',
    'number of one of “What was caught”',
  ]));

describe('what an earlier call answers', () => {
  const call = { id: 'c', targetId: 't', operationId: 'o', lines: [] } as CallInput;
  const operation = {
    id: 'o',
    label: 'Add a record',
    method: 'POST',
    path: '/r',
    fields: [],
    answer: [
      { pointer: '', label: '', type: 'json' },
      { pointer: '/id', label: 'Its number', type: 'integer' },
      { pointer: '/rows', label: 'Rows', type: 'json', items: [{ pointer: '/name', label: 'Name', type: 'text' }] },
    ],
  } as unknown as Operation;
  const labels = (of: CallInput, offered: Operation | null) => answerReferences(of, offered).map(each => each.label);

  test('is offered by its parts; of a list the first, the last or each', () => {
    const all = labels(call, operation);
    expect(all[0]).toBe('Its number from “Add a record”');
    expect(all.slice(1)).toEqual([
      'name of the first of rows from “Add a record”',
      'name of the last of rows from “Add a record”',
      'name of each of rows from “Add a record”',
      'list rows from “Add a record”',
    ]);
  });
  test('of its list the whole can be repeated over, with what one of its records has', () => {
    const answered = answerReferences(call, operation);
    const list = answered.find(each => each.items)!;
    expect([list.key, list.kind, list.items]).toEqual(['@answer/c/rows', 'table', [{ pointer: '/name', label: null }]]);
    expect(itemReferences(list.key, schema, samples, answered).map(each => [each.key, each.label])).toEqual([
      ['@item', 'one of list rows from “Add a record”'],
      ['@item/name', 'name of one of list rows from “Add a record”'],
      ['@itemNumber', 'number of one of list rows from “Add a record”'],
    ]);
  });
  test('under the name that somebody gave it', () => {
    const items = [{ pointer: '/name', label: 'Name of the site', type: 'text' as const }];
    const named = { ...operation, answer: [{ pointer: '/rows', label: 'Rows', type: 'json' as const, items }] };
    expect(labels(call, named)[0]).toBe('Name of the site of the first of rows from “Add a record”');
  });
  test('its record, where it has one', () =>
    expect(labels({ ...call, identity: { made: '/id' } } as CallInput, operation)[0]).toBe(
      'Record, found or created, from “Add a record”',
    ));
  test('nothing, where the target does not offer it any more', () => expect(labels(call, null)).toEqual([]));
});
