import type { ArrivalView } from '@grammata/contract';
import { decode } from '@grammata/core/decode';
import type { Json } from '@grammata/core/submission';
import { tagsOf } from './tags';

const told = (document: Json) => {
  const { submissions, ...read } = decode(new TextEncoder().encode(JSON.stringify(document)), 'application/json');
  const decoded = submissions.map((each, at) => ({ ...each, sampleId: String(at) }));
  const { tags } = tagsOf({ ...read, decoded } as unknown as ArrivalView);
  return Object.fromEntries([...tags].map(([at, { says, is, with: other }]) => [at, [says, is, other ?? null]]));
};

test('records show what their columns are, and which answer they go with', () => {
  expect(
    told({
      entry: 'e-77',
      sent: '2026-11-04T08:12:06Z',
      answers: [
        { ref: 'who', ask: 'Who is asking?', type: 'text', value: 'Ada Reed' },
        { ref: 'why', ask: 'What do you need it for?', type: 'text', value: '' },
      ],
    }),
  ).toEqual({
    '/entry': ['submission ID', 'found', null],
    '/sent': ['time', 'found', null],
    '/answers': ['one answer each', 'found', null],
    '/answers/0/ref': ['question key', 'part', '/answers/0/value'],
    '/answers/0/ask': ['question text', 'part', '/answers/0/value'],
    '/answers/0/type': ['question type', 'part', '/answers/0/value'],
    '/answers/0/value': ['Who is asking?', 'found', null],
    '/answers/1/ref': ['', 'part', '/answers/1/value'],
    '/answers/1/ask': ['', 'part', '/answers/1/value'],
    '/answers/1/type': ['', 'part', '/answers/1/value'],
    '/answers/1/value': ['not answered', 'blank', null],
  });
});

test('definitions that stand elsewhere show questions, and of which answer', () => {
  expect(
    told({
      entry: { id: 'e-77', sent: '2026-11-04T08:12:06Z' },
      fields: [
        { id: 'a', title: 'Which site is it?' },
        { id: 'b', title: 'How deep is the water?' },
      ],
      given: { a: 'Mill Race', b: 'Two metres' },
    }),
  ).toMatchObject({
    '/entry/id': ['submission ID', 'found', null],
    '/entry/sent': ['time', 'found', null],
    '/fields': ['questions', 'part', null],
    '/fields/0': ['question: Which site is it?', 'part', '/given/a'],
    '/fields/1': ['question: How deep is the water?', 'part', '/given/b'],
    '/given': ['the answers', 'found', null],
    '/given/a': ['Which site is it?', 'found', null],
  });
});

test('a list of submissions tells each item’s own identifier and time', () => {
  const one = (id: string) => ({
    id,
    submitted_at: '2026-11-04T08:12:06Z',
    answers: { name: 'Ada Reed', why: 'Two nights' },
  });
  expect(told([one('e-1'), one('e-2')])).toMatchObject({
    '': ['one submission each', 'found', null],
    '/1/id': ['submission ID', 'found', null],
    '/1/submitted_at': ['time', 'found', null],
    '/1/answers/why': ['Why', 'found', null],
  });
});
