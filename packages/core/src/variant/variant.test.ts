import { decode } from '../decode';
import { inferSchema, jsonSchemaOf } from '../schema';
import { isSubmission } from '../submission';
import { variantIdeas } from '.';

const read = (body: object) => decode(Buffer.from(JSON.stringify(body)), 'application/json').submissions[0]!;
const photo = (n: number) => ({ name: `${n}.jpg`, url: `https://files.example.org/${n}.jpg`, size: 5 });
const recorded = [
  { id: 'a', site: 'Ford', signs: ['Foam', 'Litter'], note: 'low water', photos: [photo(1)] },
  { id: 'b', site: 'Weir', signs: ['Foam', 'Oil sheen'], note: '', photos: [] },
].map(read);
const schema = inferSchema(recorded);
const ideas = variantIdeas(recorded[0]!, schema);
const made = (id: string) => ideas.find(each => each.id === id)!.submission;
const value = (id: string, key: string) => made(id).fields.find(each => each.key === key)?.value;

test.each<[string, unknown]>([
  ['choices.one', ['Foam']],
  ['choices.two', ['Foam', 'Litter']],
  ['choices.all', ['Foam', 'Litter', 'Oil sheen']],
  ['choices.none', undefined],
])('%s', (id, signs) => expect(value(id, 'signs')).toEqual(signs));

test.each([
  ['files.none', 0],
  ['files.one', 1],
  ['files.several', 3],
])('%s', (id, count) => expect(made(id).files).toHaveLength(count));

test('texts as long as any, and at least 1,000 characters', () =>
  expect(String(value('text.longest', 'note')).length).toBe(1000));
test('letters of other scripts', () =>
  expect(value('text.foreign', 'note')).toMatch(/[\u0370-\u03ff].*[\u4e00-\u9fff]/));
test('only what everybody answered stays', () =>
  expect(made('blank').fields.map(each => each.key)).toEqual(['site', 'signs']));

test('each is a submission that its form’s schema knows, and none is taken for the one it was made of', () => {
  const known = Object.keys(jsonSchemaOf(schema, 'x').properties as object);
  for (const { submission } of ideas) {
    expect(isSubmission(submission)).toBe(true);
    expect(submission.id).toBeNull();
    expect(known).toEqual(expect.arrayContaining(submission.fields.map(each => each.key)));
  }
});

test('a form without choices, texts or files has nothing to vary but blanks', () =>
  expect(variantIdeas(read({ id: 'x', n: 5, m: 6 }), inferSchema([read({ id: 'x', n: 5, m: 6 })]))).toEqual([]));

test('what is no wording is left as it is', () => {
  const asked = [{ id: 'x', temperature: '12,6 °C', note: 'clear' }].map(read);
  const of = variantIdeas(asked[0]!, inferSchema(asked)).find(each => each.id === 'text.foreign')!.submission;
  expect(of.fields.find(each => each.key === 'temperature')!.value).toBe('12,6 °C');
  expect(of.fields.find(each => each.key === 'note')!.value).not.toBe('clear');
});

test('a person who is not known, and one who is', () => {
  const asked = [{ id: 'x', mail: 'zoe@example.org', n: 5 }].map(read);
  const of = variantIdeas(asked[0]!, inferSchema(asked), 'k3f9');
  const mail = (id: string) =>
    of.find(each => each.id === id)?.submission.fields.find(each => each.key === 'mail')?.value;
  expect([mail('person.new'), mail('person.known')]).toEqual(['k3f9@new.example.org', 'zoe@example.org']);
  expect(ideas.some(each => each.id.startsWith('person.'))).toBe(false);
});
