import fc from 'fast-check';
import { decode } from '../decode';
import type { Submission } from '../submission';
import { emptySchema, inferSchema, mergeSchema, type FormSchema } from '.';

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
      options: [
        { value: 'AB-07', times: 2 },
        { value: 'AB-02', times: 1 },
      ],
      examples: ['AB-7?', 'AB-07', 'AB-02'],
    },
  ]);
});

test('a question that nobody has answered is known all the same', () => {
  expect(inferSchema([submission([], [], [{ key: 'why', label: 'Why?', pointer: '/why' }])]).fields).toMatchObject([
    { key: 'why', label: 'Why?', filled: 0 },
  ]);
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
  expect(schema.fields[0]!.options).toHaveLength(60);
});

test('what is merged changes nothing of what was before, and leaves alone what it says nothing of', () => {
  const other: Submission = submission([{ key: 'why', label: 'Why?', kind: 'text', value: 'Foam', pointer: '/why' }]);
  const before = inferSchema([choice('a'), other], 3);
  const kept = structuredClone(before);
  const after = mergeSchema(before, [
    { submission: choice('a'), receivedAt: 5 },
    { submission: choice('b'), receivedAt: 6 },
  ]);
  expect(before).toEqual(kept);
  expect(after.fields[1]).toBe(before.fields[1]);
  expect(after.fields[0]).not.toBe(before.fields[0]);
});

test('merging one by one equals inferring at once', () => {
  const all = [choice('a'), choice('b'), choice('a')];
  expect(all.reduce((schema, each) => mergeSchema(schema, [{ submission: each, receivedAt: 7 }]), emptySchema)).toEqual(
    inferSchema(all, 7),
  );
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

test('fields of which a submission says nothing stay the same objects', () => {
  const before = inferSchema([
    choice('a'),
    submission([{ key: 'n', label: 'N', kind: 'number', value: 1, pointer: '/n' }]),
  ]);
  const after = mergeSchema(before, [{ submission: choice('b'), receivedAt: 5 }]);
  expect(after.fields.map((field, at) => field === before.fields[at])).toEqual([false, true]);
  expect(after.fields[0]!.options[0]).toBe(before.fields[0]!.options[0]);
});

test('in whatever order submissions are read, first and last times and counts come out the same', () => {
  const samples = fc.array(fc.record({ at: fc.nat(1000), site: fc.constantFrom('a', 'b', 'c', null) }), {
    minLength: 1,
  });
  fc.assert(
    fc.property(samples, fc.nat(), (list, turn) => {
      const read = (each: { at: number; site: string | null }[]) =>
        mergeSchema(
          emptySchema,
          each.map(({ at, site }) => ({
            submission: site === null ? submission([], [], [{ key: 'site', label: 'S', pointer: '' }]) : choice(site),
            receivedAt: at,
          })),
        );
      const told = (schema: FormSchema) =>
        schema.fields.map(({ key, filled, firstAt, lastAt, options }) => ({
          key,
          filled,
          firstAt,
          lastAt,
          options: options.toSorted((a, b) => a.value.localeCompare(b.value)),
        }));
      const turned = [...list.slice(turn % list.length), ...list.slice(0, turn % list.length)];
      expect(told(read(turned))).toEqual(told(read(list)));
      const [site] = read(list).fields;
      expect([site!.firstAt, site!.lastAt]).toEqual([
        Math.min(...list.map(each => each.at)),
        Math.max(...list.map(each => each.at)),
      ]);
      const b = list.filter(each => each.site === 'b');
      expect(site!.options.find(each => each.value === 'b')).toEqual(
        b.length === 0
          ? undefined
          : {
              value: 'b',
              times: b.length,
              firstAt: Math.min(...b.map(each => each.at)),
              lastAt: Math.max(...b.map(each => each.at)),
            },
      );
    }),
  );
});
