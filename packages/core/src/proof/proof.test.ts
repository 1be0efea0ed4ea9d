import fc from 'fast-check';
import { newLine, type Line } from '../route';
import { scopeOf } from '../scope';
import type { Json, Submission } from '../submission';
import { conditions, delivered, described, routes, stagesOf, submissions } from '../testing';
import {
  answerKey,
  coverOf,
  differences,
  enact,
  exercised,
  faultOf,
  patternOf,
  type Enacted,
  type Play,
  type RecordedAnswers,
} from '.';

const context = { timeZone: 'UTC' };
const playOf = (calls: Parameters<typeof stagesOf>[0], condition: Play['condition'] = { all: [] }): Play => ({
  stages: stagesOf(calls),
  condition,
  context,
});

describe('a route played through with recorded answers', () => {
  test('does what delivery did that they were recorded from, and differs from itself in nothing', () => {
    fc.assert(
      fc.property(routes, conditions, submissions, (calls, condition, submission) => {
        const play = playOf(calls, condition);
        const answer = described();
        const recorded: RecordedAnswers = {};
        const { asks } = delivered(play.stages, submission, ask => {
          const told = answer(ask);
          if ('answer' in told) recorded[answerKey(ask)] = told.answer;
          return told;
        });
        const enacted = enact(play, submission, recorded);
        if (enacted.goes)
          expect(enacted.requests.map(each => [each.callId, each.item, each.purpose, each.url, each.body])).toEqual(
            asks.map(each => [each.callId, each.item, each.purpose, each.request.url, each.request.body]),
          );
        else expect(enacted.requests).toEqual([]);
        expect(differences(enacted, enact(play, submission, recorded))).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
});

const request = (more: Partial<Enacted['requests'][number]> = {}): Enacted['requests'][number] => ({
  callId: 'a',
  item: '0',
  purpose: 'create',
  method: 'POST',
  url: 'https://t.example.org/r',
  headers: [['accept', 'application/json']],
  encoding: 'json',
  body: { site: 'AB-07', at: '2026-11-04T08:00:00Z' },
  origins: { '/site': 'l1', '/at': 'l2' },
  files: [],
  ...more,
});
const enacted = (more: Partial<Enacted> = {}): Enacted => ({ goes: true, requests: [request()], held: [], ...more });

describe('what is otherwise than approved is told, with the line it comes from', () => {
  test.each<[string, Enacted, object[]]>([
    [
      'it does not go any more',
      enacted({ goes: false, requests: [] }),
      [{ kind: 'goes', was: true, now: false, callId: null }],
    ],
    [
      'it is held',
      enacted({ requests: [], held: [{ code: 'x', message: 'No site.' }] }),
      [
        { kind: 'held', now: 'No site.' },
        { kind: 'request-gone', was: 'POST https://t.example.org/r' },
      ],
    ],
    [
      'another value',
      enacted({ requests: [request({ body: { site: 'AB-02', at: '2026-11-04T08:00:00Z' } })] }),
      [{ kind: 'value', place: '/site', was: 'AB-07', now: 'AB-02', lineId: 'l1' }],
    ],
    [
      'a field that is left out',
      enacted({ requests: [request({ body: { at: '2026-11-04T08:00:00Z' }, origins: { '/at': 'l2' } })] }),
      [{ kind: 'gone', place: '/site', lineId: 'l1' }],
    ],
    [
      'another field',
      enacted({
        requests: [
          request({ body: { ...(request().body as object), ph: 7 }, origins: { ...request().origins, '/ph': 'l3' } }),
        ],
      }),
      [{ kind: 'new', place: '/ph', now: 7, lineId: 'l3' }],
    ],
    ['another address', enacted({ requests: [request({ url: 'https://t.example.org/s' })] }), [{ kind: 'address' }]],
    [
      'another header',
      enacted({
        requests: [
          request({
            headers: [
              ['accept', 'application/json'],
              ['x-run', '2'],
            ],
          }),
        ],
      }),
      [{ kind: 'header', place: 'x-run', was: '', now: '2' }],
    ],
    [
      'a file that is not there any more',
      enacted({ requests: [request({ files: [{ pointer: '/f', name: 'a.jpg' }] })] }),
      [{ kind: 'files', was: [], now: ['/f a.jpg'] }],
    ],
    [
      'one request more',
      enacted({ requests: [request(), request({ item: '1' })] }),
      [{ kind: 'request-new', item: '1' }],
    ],
  ])('%s', (_, now, told) => expect(differences(enacted(), now)).toMatchObject(told));

  test('what is loose is held against its shape, and no more', () => {
    const later = enacted({ requests: [request({ body: { site: 'AB-07', at: '2027-01-01T09:30:00Z' } })] });
    const loose = [{ callId: 'a', pointer: '/at', pattern: 'time' as const }];
    expect(differences(enacted(), later, loose)).toEqual([]);
    const broken = enacted({ requests: [request({ body: { site: 'AB-07', at: 'yesterday' } })] });
    expect(differences(enacted(), broken, loose)).toMatchObject([{ kind: 'value', place: '/at', now: 'yesterday' }]);
  });
  test.each<[Json, string | null]>([
    ['2026-11-04T08:00:00Z', 'time'],
    ['2026-11-04', 'date'],
    ['0b1d1f3e-8f5c-4a8e-9c3b-2f6a1d7e9b10', 'uuid'],
    ['77', 'number'],
    [7.4, 'number'],
    ['Foam', 'text'],
    ['', null],
    [true, null],
    [{}, null],
  ])('%j looks like a %s', (value, pattern) => expect(patternOf(value)).toBe(pattern));
});

describe('the step at fault', () => {
  const submission = {
    form: null,
    id: null,
    submittedAt: null,
    files: [],
    questions: [],
    meta: {},
    fields: [
      { key: 'q', label: 'q', kind: 'text', value: ' foam ', pointer: '/q' },
      { key: 'r', label: 'r', kind: 'text', value: 'oil', pointer: '/r' },
    ],
  } as Submission;
  const line = (more: Partial<Line> = {}): Line => ({
    ...newLine('l', 'f'),
    source: { from: 'field', field: 'q' },
    cleaning: [
      { id: 'text.trim', params: {} },
      { id: 'text.case', params: { to: 'upper' } },
    ],
    ...more,
  });
  const steps = line().cleaning;
  test.each<[string, Partial<Line>, object | null]>([
    ['none', {}, null],
    ['where it comes from', { source: { from: 'field', field: 'r' } }, { at: 'source', was: ' foam ', now: 'oil' }],
    [
      'a step with other parameters',
      { cleaning: [steps[0]!, { id: 'text.case', params: { to: 'lower' } }] },
      { at: 'step', number: 2, was: 'FOAM', now: 'foam' },
    ],
    ['a step that is gone', { cleaning: [steps[0]!] }, { at: 'step-gone', number: 2 }],
    [
      'a step more',
      { cleaning: [...steps, { id: 'text.surround', params: { before: '(', after: ')' } }] },
      { at: 'step-new', number: 3 },
    ],
    ['what is done about blanks', { whenBlank: 'stop' }, { at: 'policy' }],
    [
      'a step that makes no difference here',
      { cleaning: [{ id: 'text.trim', params: { collapse: true } }, steps[1]!] },
      null,
    ],
  ])('%s', (_, more, fault) => {
    const found = faultOf(line(), line(more), scopeOf(submission));
    if (fault === null) expect(found).toBeNull();
    else expect(found).toMatchObject(fault);
  });
});

describe('the samples that are worth proving', () => {
  /** The size of the smallest cover, by looking at all of them. */
  function smallest(sets: string[][]): number {
    const whole = new Set(sets.flat()).size;
    for (let size = 0; size <= sets.length; size++)
      if (subsets(sets.length, size).some(places => new Set(places.flatMap(place => sets[place]!)).size === whole))
        return size;
    return sets.length;
  }
  const subsets = (count: number, size: number, from = 0): number[][] =>
    size === 0
      ? [[]]
      : Array.from({ length: count - from }, (_, at) => from + at).flatMap(first =>
          subsets(count, size - 1, first + 1).map(rest => [first, ...rest]),
        );

  test('cover whatever any sample does, with at most one more than the smallest set that does', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.constantFrom(...'abcdefghij'), { maxLength: 5 }), { maxLength: 9 }), sets => {
        const { chosen } = coverOf(sets);
        expect(new Set(chosen.flatMap(each => sets[each.place]!))).toEqual(new Set(sets.flat()));
        expect(chosen.length).toBeLessThanOrEqual(smallest(sets) + 1);
        expect(chosen.every(each => each.shows.length > 0)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });
  test('each option, blank, number of files and branch of a condition is shown by one of them', () => {
    const texts = (place: number, all: Submission[], play: Play) => exercised(play, all[place]!);
    fc.assert(
      fc.property(
        routes,
        conditions,
        fc.array(submissions, { minLength: 1, maxLength: 8 }),
        (calls, condition, all) => {
          const play = playOf(calls, condition);
          const sets = all.map((_, place) => texts(place, all, play));
          const { chosen } = coverOf(sets);
          const shown = new Set(chosen.flatMap(each => sets[each.place]!));
          for (const feature of sets.flat()) if (!/ is “/.test(feature)) expect(shown).toContain(feature);
        },
      ),
      { numRuns: 100 },
    );
  });
  test('what no sample shows is said', () =>
    expect(coverOf([['A, site: fine', 'condition 1, site: met'], ['A, site: fine']]).uncovered).toEqual([
      'A, site: blank',
      'condition 1, site: not met',
    ]));
  test('what nearly everybody says otherwise is no choice', () => {
    const sets = Array.from({ length: 60 }, (_, n) => [`A, name is “person ${n}”`, `A, kind is “${n % 2}”`]);
    expect(coverOf(sets).chosen).toHaveLength(2);
  });
});
