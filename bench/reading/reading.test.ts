import fc from 'fast-check';
import { decode } from '@grammata/core/decode';
import type { Json, JsonObject } from '@grammata/core/submission';
import { payloads, scorePayload } from '../payloads/score';
import { sixty, thirty } from '../corpus';
import { scoreWritten } from '../corpus/written';
import type { Half } from './draw';
import { judged } from './generator';

const sum = (all: { right: number; facts: number }[]) =>
  all.reduce((total, { right, facts }) => ({ right: total.right + right, facts: total.facts + facts }), {
    right: 0,
    facts: 0,
  });
const shareOf = (all: { right: number; facts: number }[]) => {
  const { right, facts } = sum(all);
  return right / facts;
};

test('hard payloads of every family are read as before', () => {
  const all = payloads.map(scorePayload);
  expect(all).toHaveLength(150);
  expect(shareOf(all)).toBeGreaterThan(0.99);
});
test('so are those written by hand', () =>
  expect(shareOf([...sixty, ...thirty].map(scoreWritten))).toBeGreaterThan(0.99));

test.each<Half>(['fitted', 'held', 'unread'])('drawn messages come back, %s', half => {
  const all = Array.from({ length: 400 }, (_, index) => judged(index + 1, half));
  expect(shareOf(all)).toBeGreaterThan(0.985);
  const sure = all.filter(each => each.isSure);
  expect(sure.length).toBeGreaterThan(100);
  expect(sure.filter(each => each.right === each.facts).length / sure.length).toBeGreaterThan(0.98);
});

// Whatever is done to a message that says the same, it says the same.
describe('what is read stays, however it is written', () => {
  const word = fc.string({ unit: fc.constantFrom(...'bcdfgklmnprstvwz'), minLength: 3, maxLength: 8 });
  const question = fc.tuple(word, word, word).map(([a, b, c]) => `${a[0]!.toUpperCase()}${a.slice(1)} ${b} ${c}?`);
  const answer = fc.oneof(
    fc.tuple(word, word, word, word).map(words => words.join(' ')),
    fc.integer({ min: 1, max: 999 }),
    fc.boolean(),
    fc.uniqueArray(word, { minLength: 2, maxLength: 3 }),
  );
  const asked = fc
    .uniqueArray(question, { minLength: 4, maxLength: 8 })
    .chain(labels =>
      fc.tuple(fc.constant(labels), fc.array(answer, { minLength: labels.length, maxLength: labels.length })),
    )
    // Of one sort alone, answers could be the column of a table.
    .filter(([, answers]) => new Set(answers.map(each => (Array.isArray(each) ? 'list' : typeof each))).size > 1);
  const parts = fc.uniqueArray(word, { minLength: 6, maxLength: 6 });
  const said = (document: Json): [string, Json][][] =>
    decode(new TextEncoder().encode(JSON.stringify(document)), 'application/json').submissions.map(({ fields }) =>
      fields.map(({ label, value }) => [label, value]),
    );
  const messageOf = (labels: string[], answers: Json[], [label, value, key, list, id, time]: string[]): JsonObject => ({
    [id!]: 'r-1204',
    [time!]: '2026-03-04T08:12:00Z',
    [list!]: labels.map((each, index) => ({ [key!]: `k${index}x`, [label!]: each, [value!]: answers[index]! })),
  });

  test('its parts are called otherwise', () =>
    fc.assert(
      fc.property(asked, parts, ([labels, answers], names) => {
        expect(said(messageOf(labels, answers, names))).toEqual([labels.map((each, index) => [each, answers[index]])]);
      }),
      { numRuns: 300 },
    ));
  test.each<[string, (message: JsonObject) => Json]>([
    ['in a wrapper', message => ({ attempt: 1, kept: message })],
    ['in two wrappers', message => ({ a: { b: message } })],
    ['as a text in a wrapper', message => ({ attempt: 1, kept: JSON.stringify(message) })],
    ['as a text', message => JSON.stringify(message)],
    ['in a list of one', message => [message]],
    ['with something beside it', message => ({ ...message, status: 'new', ip_address: '192.0.2.7' })],
  ])('%s', (_, wrapped) =>
    fc.assert(
      fc.property(asked, ([labels, answers]) => {
        const names = ['label', 'value', 'ref', 'answers', 'id', 'submitted_at'];
        const message = messageOf(labels, answers, names);
        expect(said(wrapped(message))).toEqual([labels.map((each, index) => [each, answers[index]])]);
      }),
      { numRuns: 150 },
    ),
  );
  test('its definitions stand apart, before or behind, as a list or as a map', () =>
    fc.assert(
      fc.property(asked, fc.boolean(), fc.boolean(), ([labels, answers], isBefore, isMap) => {
        const keyOf = (index: number) => `q${index}_x`;
        const definitions = isMap
          ? Object.fromEntries(labels.map((title, index) => [keyOf(index), { title }]))
          : labels.map((title, index) => ({ ref: keyOf(index), title }));
        const response = {
          id: 'r-1',
          submitted_at: '2026-03-04T08:12:00Z',
          answers: Object.fromEntries(answers.map((each, index) => [keyOf(index), each])),
        };
        const form = { id: 'f1', name: 'Walk', questions: definitions };
        expect(said(isBefore ? { form, response } : { response, form })).toEqual([
          labels.map((each, index) => [each, answers[index]]),
        ]);
      }),
      { numRuns: 200 },
    ));
});
