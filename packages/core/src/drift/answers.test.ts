import fc from 'fast-check';
import type { Comparison } from '../perform';
import type { Json } from '../submission';
import { answerChanges, type AnswerChange, type Answered } from '.';

// Common practice, no source: how targets refuse and what they answer.

const start = Date.parse('2026-11-04T08:00:00Z');
const fine: Omit<Answered, 'at' | 'deliveryId'> = {
  operation: 'POST /records',
  outcome: 'delivered',
  status: 201,
  message: 'Accepted with 201.',
  complaints: [],
  answer: { id: 7, record: { no: 'R-7', at: '2026-11-04' } },
  compared: null,
};
const refused = (message: string, field = 'site', more: Partial<Answered> = {}): Partial<Answered> => ({
  outcome: 'final',
  status: 422,
  message: 'The target refused the request (422).',
  complaints: field === '' ? [] : [{ field, message }],
  answer: undefined,
  ...more,
});
const unknown: Partial<Answered> = {
  outcome: 'retry',
  status: 401,
  message: 'Credentials rejected (401).',
};
const kept = (verdict: Comparison['verdict'], stored: Json): Partial<Answered> => ({
  compared: [{ field: 'note', lineId: 'l', verdict, sent: 'Foam', stored }],
});
const answering = (record: Json): Partial<Answered> => ({ answer: { id: 8, record } });

/** Told as they came, the oldest first; each an hour after the one before, of a delivery of its own. */
const told = (...all: Partial<Answered>[]): Answered[] =>
  all.map((each, at) => ({ ...fine, at: start + at * 3600_000, deliveryId: `d${at}`, ...each })).toReversed();
const times = <T>(count: number, each: T): T[] => Array.from({ length: count }, () => each);
const usual = times(6, {});

test.each<[string, Partial<Answered>[], AnswerChange[]]>([
  ['all as before', times(12, {}), []],
  [
    'credentials that are not known any more',
    [...usual, unknown],
    [{ change: 'credentials', operation: null, was: '2026-11-04T13:00:00.000Z', now: 401 }],
  ],
  ['credentials that never were', times(8, unknown), []],
  ['credentials that are known again', [...usual, unknown, unknown, {}], []],
  ['one that may not, once', [...usual, { ...unknown, status: 403 }], []],
  [
    'one that may not, again and again',
    [...usual, ...times(2, { ...unknown, status: 403 })],
    [{ change: 'credentials', operation: null, was: '2026-11-04T13:00:00.000Z', now: 403 }],
  ],
  [
    'a 403 that says that it is about the request',
    [...usual, ...times(2, { outcome: 'final', status: 403, message: 'Rejected (403). Response: duplicate content' })],
    [{ change: 'refused', operation: 'POST /records', now: 'Rejected (403). Response: duplicate content' }],
  ],
  [
    'what is delivered while the response may say no',
    [...usual, ...times(2, { answer: { status: 'ERROR', message: 'List 7 is closed.' } })],
    [
      { change: 'refused', operation: 'POST /records', now: 'List 7 is closed.' },
      { change: 'answer', operation: 'POST /records', field: '/id', was: 'number', now: null },
      { change: 'answer', operation: 'POST /records', field: '/record', was: 'object', now: null },
    ],
  ],
  ['what may say no once', [...usual, { answer: { status: 'ERROR', message: 'List 7 is closed.' } }], []],
  [
    'a reason that it never gave before',
    [
      ...usual,
      refused('“Mill Weir” is not one of the options'),
      {},
      ...times(4, refused('“Elden” is not one of the options')),
    ],
    [{ change: 'refused', operation: 'POST /records', field: 'site', now: '“Mill Weir” is not one of the options' }],
  ],
  ['a reason that is given once', [...usual, refused('must be given'), {}, {}], []],
  [
    'a reason that is given twice to the same delivery',
    [...usual, ...times(2, refused('must be given', 'site', { deliveryId: 'x' }))],
    [],
  ],
  [
    'a reason that is given now and then',
    [refused('must be given'), ...usual, refused('must be given'), refused('must be given')],
    [],
  ],
  ['a reason of one in ten', [...usual, refused('must be given'), ...times(18, {}), refused('must be given')], []],
  [
    'a reason without a field',
    [
      ...usual,
      ...times(2, refused('', '', { message: 'The target refused the request (422). It said: no more than 12 a day' })),
    ],
    [
      {
        change: 'refused',
        operation: 'POST /records',
        now: 'The target refused the request (422). It said: no more than 12 a day',
      },
    ],
  ],
  [
    'trouble that passes',
    [
      ...usual,
      ...times(4, { outcome: 'retry' as const, status: 503, message: 'The target has trouble of its own (503).' }),
    ],
    [],
  ],
  ['too few before to say', [{}, {}, ...times(4, refused('must be given'))], []],
  [
    'what it stores is cut off',
    [...times(6, kept('same', 'Foam')), kept('shortened', 'Fo'), kept('shortened', 'Fo')],
    [{ change: 'stored', operation: 'POST /records', field: 'note', was: 'Foam', now: 'Fo' }],
  ],
  [
    'what it stores is written otherwise',
    [...times(6, kept('same', 'Foam')), ...times(3, kept('reformatted', 'FOAM'))],
    [],
  ],
  [
    'two that update one record at once: what is stored is the other’s',
    [
      ...times(6, kept('same', 'Foam')),
      { ...kept('other', 'Oil'), at: start + 90 * 3600_000 },
      {
        compared: [{ field: 'note', lineId: 'l', verdict: 'same', sent: 'Oil', stored: 'Oil' }],
        at: start + 90 * 3600_000,
      },
      { ...kept('other', 'Oil'), at: start + 90 * 3600_000 },
    ],
    [],
  ],
  [
    'what another sent hours before is no reason',
    [
      { compared: [{ field: 'note', lineId: 'l', verdict: 'same', sent: 'Oil', stored: 'Oil' }] },
      ...times(6, kept('same', 'Foam')),
      ...times(2, kept('other', 'Oil')),
    ],
    [{ change: 'stored', operation: 'POST /records', field: 'note', was: 'Foam', now: 'Oil' }],
  ],
  [
    'a refusal now and then among what is taken is a matter of the values',
    [...times(60, {}), refused('is not listed'), ...times(8, {}), refused('is not listed')],
    [],
  ],
  [
    'a refusal of most of what comes',
    [...times(60, {}), refused('is not listed'), {}, ...times(3, refused('is not listed'))],
    [{ change: 'refused', operation: 'POST /records', field: 'site', now: 'is not listed' }],
  ],
  ['what it stores was never the same', times(9, kept('lost', null)), []],
  [
    'a place that is gone from all answers',
    [...usual, ...times(2, answering({ at: '2026-11-04' }))],
    [{ change: 'answer', operation: 'POST /records', field: '/record/no', was: 'string', now: null }],
  ],
  [
    'a part that is gone as a whole is told once',
    [...usual, ...times(2, { answer: { id: 8 } })],
    [{ change: 'answer', operation: 'POST /records', field: '/record', was: 'object', now: null }],
  ],
  [
    'a place of another type',
    [...usual, ...times(3, { answer: { id: 'r8', record: { no: 'R-8', at: '' } } })],
    [{ change: 'answer', operation: 'POST /records', field: '/id', was: 'number', now: 'string' }],
  ],
  ['a place that is blank', [...usual, ...times(3, answering({ no: null, at: '2026-11-04' }))], []],
  ['a place that is there now and then', [...usual, answering({ no: 'R-8' }), {}, answering({ no: 'R-9' })], []],
  ['a place that is gone once', [...usual, answering({ no: 'R-8' })], []],
])('%s', (_, all, expected) => expect(answerChanges(told(...all)).map(each => each.what)).toEqual(expected));

test('where somebody counts on places, only those are told', () => {
  const all = told(...usual, ...times(2, answering({ no: 'R-8' })));
  const counting = (place: string) =>
    answerChanges(all, new Map([['POST /records', [{ place, isUsed: true }]]])).map(each => each.what.field);
  expect([counting('/record/at'), counting('/id')]).toEqual([['/record/at'], []]);
});

test('what is only said to be there takes more to be missed', () => {
  const missed = (before: number, after: number, isUsed: boolean) => {
    const all = told(...times(before, {}), ...times(after, answering({ no: 'R-8' })));
    return answerChanges(all, new Map([['POST /records', [{ place: '/record/at', isUsed }]]])).length;
  };
  expect([missed(6, 2, true), missed(6, 2, false), missed(30, 2, false), missed(30, 4, false)]).toEqual([1, 0, 0, 1]);
});

test('it is said since when', () =>
  expect(
    answerChanges(told(...usual, refused('must be given'), {}, ...times(4, refused('must be given'))))[0]!.since,
  ).toBe(start + 6 * 3600_000));

test('each operation is looked at by itself', () => {
  const other = { operation: 'PUT /records/{no}' };
  const all = told(...usual, ...times(3, { ...refused('must be given'), ...other }));
  expect(answerChanges(all)).toEqual([]);
});

test('whatever is answered, what went before alone tells nothing', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.constantFrom<Partial<Answered>>({}, unknown, refused('must be given'), kept('lost', null), answering(null)),
        {
          maxLength: 20,
        },
      ),
      all => {
        for (const { what, since } of answerChanges(told(...all))) {
          expect(since).toBeGreaterThan(start);
          // Of answers of which each is the same, none is a change.
          expect(answerChanges(told(...times(all.length, all.at(-1)!)))).not.toContainEqual(
            expect.objectContaining({ what }),
          );
        }
      },
    ),
  ));
