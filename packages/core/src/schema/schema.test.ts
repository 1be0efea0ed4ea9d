import { decode } from '../decode';
import type { Submission } from '../submission';
import { emptySchema, inferSchema, mergeSchema } from '.';

const submission = (
  fields: Submission['fields'],
  files: Submission['files'] = [],
  questions: Submission['questions'] = [],
): Submission => ({ form: null, id: null, submittedAt: null, meta: {}, fields, files, questions });
const choice = (value: string) =>
  submission([{ key: 'site', label: 'Which site?', kind: 'choice', value, pointer: '/site' }]);

test('counts, options, examples and kinds over submissions', () => {
  const schema = inferSchema([
    choice('AB-07'),
    choice('AB-02'),
    choice('AB-07'),
    submission([{ key: 'site', label: 'Site', kind: 'text', value: 'AB-7?', pointer: '/site' }]),
  ]);
  expect(schema.count).toBe(4);
  expect(schema.fields).toMatchObject([
    {
      key: 'site',
      label: 'Site',
      kind: 'choice',
      kinds: { choice: 3, text: 1 },
      filled: 4,
      options: { 'AB-07': 2, 'AB-02': 1 },
      examples: ['AB-7?', 'AB-07', 'AB-02'],
    },
  ]);
});

test('a question that nobody has answered is known all the same', () => {
  expect(
    mergeSchema(emptySchema, submission([], [], [{ key: 'why', label: 'Why?', pointer: '/why' }])).fields,
  ).toMatchObject([{ key: 'why', label: 'Why?', filled: 0 }]);
});

test('files are a question too, under its label', () => {
  const file = { field: 'pics', name: 'a.jpg', type: null, size: null, url: null };
  expect(
    inferSchema([
      submission([], [file, { ...file, name: 'b.jpg' }], [{ key: 'pics', label: 'Photos', pointer: '/pics' }]),
    ]).fields,
  ).toMatchObject([{ key: 'pics', label: 'Photos', kind: 'files', filled: 1, examples: ['a.jpg, b.jpg'] }]);
});

test('options are bounded, so that free text can’t fill the memory', () => {
  const schema = inferSchema(Array.from({ length: 200 }, (_, index) => choice(`option ${index}`)));
  expect(Object.keys(schema.fields[0]!.options)).toHaveLength(60);
});

test('merging one by one equals inferring at once', () => {
  const all = [choice('a'), choice('b'), choice('a')];
  expect(all.reduce(mergeSchema, emptySchema)).toEqual(inferSchema(all));
});

test('lengths and ways of writing are learned: 9 for digits, a for letters', () => {
  const of = (when: string) =>
    decode(new TextEncoder().encode(JSON.stringify({ id: when, when, n: 1 })), 'application/json').submissions[0]!;
  const [field] = inferSchema(['4/11/2026', '14/11/2026', '5/12/2026', 'noon'].map(of)).fields;
  expect(field).toMatchObject({
    longest: 10,
    shortest: 4,
    shapes: { '9/99/9999': 2, '99/99/9999': 1, aaaa: 1 },
  });
});
