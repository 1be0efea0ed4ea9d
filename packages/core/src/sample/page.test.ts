import fc from 'fast-check';
import { fieldKinds, type Field, type FieldKind, type Json, type Submission } from '../submission';
import { submissions as roster } from '../testing';
import { pack, unpack } from '.';

/** As much of a submission as a page keeps. */
const plain = ({ fields, questions: _, ...rest }: Submission) => ({
  ...rest,
  fields: fields.map(field => ({ ...field, pointer: '' })),
});

const json = fc.jsonValue().filter(value => value !== null) as fc.Arbitrary<Json>;
const field: fc.Arbitrary<Field> = fc.record({
  key: fc.oneof(fc.constantFrom('site', 'ph', 'note', '__proto__', 'constructor'), fc.string()),
  label: fc.constantFrom('Site', 'Which site?', 'pH'),
  kind: fc.constantFrom<FieldKind>(...fieldKinds),
  value: json,
  pointer: fc.constantFrom('/a', '/b/0'),
});
const submission: fc.Arbitrary<Submission> = fc.record({
  form: fc.option(fc.record({ key: fc.string(), name: fc.option(fc.string()) })),
  id: fc.option(fc.string()),
  submittedAt: fc.option(fc.string()),
  meta: fc.dictionary(fc.string(), json),
  fields: fc.uniqueArray(field, { selector: each => each.key }),
  files: fc.array(
    fc.record({
      field: fc.constantFrom('photos', 'plan'),
      name: fc.string(),
      type: fc.option(fc.string()),
      size: fc.option(fc.nat()),
      url: fc.option(fc.webUrl()),
    }),
    { maxLength: 2 },
  ),
  questions: fc.constant([{ key: 'photos', label: 'Photos', pointer: '/photos' }]),
});

test('what is packed is unpacked as it was, over the wire too, but for its places in its message', () => {
  fc.assert(
    fc.property(fc.array(fc.oneof(submission, roster), { maxLength: 8 }), all => {
      const wire = JSON.parse(JSON.stringify(pack(all))) as ReturnType<typeof pack>;
      expect(wire.rows.map(row => plain(unpack(wire, row)))).toEqual(
        (JSON.parse(JSON.stringify(all)) as Submission[]).map(plain),
      );
    }),
  );
});

test('labels of questions that hold files are known', () => {
  const file = { field: 'photos', name: 'a.jpg', type: null, size: 3, url: null };
  const one: Submission = {
    form: null,
    id: null,
    submittedAt: null,
    meta: {},
    fields: [],
    files: [file],
    questions: [{ key: 'photos', label: 'Your photos', pointer: '/photos' }],
  };
  const packed = pack([one]);
  expect(unpack(packed, packed.rows[0]!).questions).toEqual([{ key: 'photos', label: 'Your photos', pointer: '' }]);
});

test('a page is a small part of what its submissions are', () => {
  const words = ['clear water', 'a little foam', 'no smell at all', 'as last week'];
  const many = Array.from({ length: 300 }, (_, n): Submission => ({
    form: { key: 'f', name: 'Sampling report' },
    id: `s${n}`,
    submittedAt: '2026-11-04T08:00:00Z',
    meta: {},
    files: [],
    questions: Array.from({ length: 60 }, (_q, at) => ({
      key: `question_${at}`,
      label: `What did you see at place number ${at}, and how sure are you of it?`,
      pointer: `/answers/${at}`,
    })),
    fields: Array.from({ length: 60 }, (_q, at) => ({
      key: `question_${at}`,
      label: `What did you see at place number ${at}, and how sure are you of it?`,
      kind: 'text',
      value: words[(n + at) % 4]!,
      pointer: `/answers/${at}/value`,
    })),
  }));
  expect(JSON.stringify(pack(many)).length / JSON.stringify(many).length).toBeLessThan(0.1);
});
