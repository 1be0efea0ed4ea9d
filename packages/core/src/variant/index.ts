import type { FieldSchema, FormSchema } from '../schema';
import type { Json, Submission } from '../submission';

/** A submission that people try by hand before they trust a mapping. */
export interface VariantIdea {
  id: string;
  name: string;
  /** What it is good for, in a sentence. */
  why: string;
  /** Made out of a recorded one. */
  submission: Submission;
}

/** Letters of several scripts, with marks that combine and a pair of surrogates. */
const FOREIGN = 'Ζωή 文秀 Нина مريم 👩‍🔬 é';
/** Characters of a long text, where none longer was ever given. */
const LONG = 1000;
const MOST_FILES = 3;

interface Idea {
  id: string;
  name: string;
  why: string;
  /** The variant, or null where the form has nothing for it. `fresh` is a word that was in no submission yet. */
  make(base: Submission, schema: FormSchema, fresh: string): Submission | null;
}

const textKinds = ['text', 'multiline', 'name', 'address'];

const withField = (base: Submission, { key, label, kind }: FieldSchema, value: Json): Submission => {
  const pointer = base.questions.find(each => each.key === key)?.pointer ?? '';
  const before = base.fields.find(each => each.key === key);
  const field = { key, label, kind: before?.kind ?? kind, pointer: before?.pointer ?? pointer, value };
  const fields = before ? base.fields.map(each => (each === before ? field : each)) : [...base.fields, field];
  return { ...base, fields };
};
const without = (base: Submission, keys: Set<string>): Submission => ({
  ...base,
  fields: base.fields.filter(field => !keys.has(field.key)),
  files: base.files.filter(file => !keys.has(file.field)),
});
const ofKind = (schema: FormSchema, ...kinds: string[]) => schema.fields.filter(field => kinds.includes(field.kind));
/** Questions that are answered in words: what holds a measure, a code or a number is written in a way of its own. */
const worded = (schema: FormSchema) =>
  ofKind(schema, ...textKinds).filter(
    ({ examples }) => examples.length === 0 || examples.some(each => !/\d/.test(each)),
  );
const keysOf = (fields: FieldSchema[]) => new Set(fields.map(field => field.key));

/** The most common options of a choose-many question. */
const optionsOf = ({ options }: FieldSchema): string[] =>
  options.toSorted((a, b) => b.times - a.times).map(each => each.value);

function withChoices(base: Submission, schema: FormSchema, count: number): Submission | null {
  const least = count === Infinity ? 1 : count;
  const many = ofKind(schema, 'choices').filter(field => optionsOf(field).length >= least);
  return many.length === 0
    ? null
    : many.reduce((made, field) => withField(made, field, optionsOf(field).slice(0, count)), base);
}

function withFiles(base: Submission, schema: FormSchema, count: number): Submission | null {
  const questions = ofKind(schema, 'files');
  if (questions.length === 0) return null;
  const files = questions.flatMap(({ key }) => {
    const known = base.files.find(file => file.field === key);
    return Array.from({ length: count }, (_, index) => ({
      field: key,
      name: `${index + 1}-${known?.name ?? 'photo.jpg'}`,
      type: known?.type ?? 'image/jpeg',
      size: known?.size ?? 120_000,
      url: known?.url ?? null,
    }));
  });
  return { ...without(base, keysOf(questions)), files };
}

/** Ideas in the order people try them. */
const ideas: Idea[] = [
  {
    id: 'choices.one',
    name: 'One option',
    why: 'A list of one often comes as a plain text.',
    make: (base, schema) => withChoices(base, schema, 1),
  },
  {
    id: 'choices.two',
    name: 'Two options',
    why: 'Several have to be joined, or sent as a list.',
    make: (base, schema) => withChoices(base, schema, 2),
  },
  {
    id: 'choices.all',
    name: 'All options',
    why: 'Each that people can choose has to be known to the target.',
    make: (base, schema) => withChoices(base, schema, Infinity),
  },
  {
    id: 'choices.none',
    name: 'No option',
    why: 'Nothing chosen must not fail.',
    make: (base, schema) => {
      const many = ofKind(schema, 'choices');
      return many.length === 0 ? null : without(base, keysOf(many));
    },
  },
  {
    id: 'files.none',
    name: 'No file',
    why: 'A loop over nothing must not fail the run.',
    make: (base, schema) => withFiles(base, schema, 0),
  },
  { id: 'files.one', name: 'One file', why: 'The usual case.', make: (base, schema) => withFiles(base, schema, 1) },
  {
    id: 'files.several',
    name: 'Several files',
    why: 'Each has to arrive.',
    make: (base, schema) => withFiles(base, schema, MOST_FILES),
  },
  {
    id: 'text.longest',
    name: 'Longest texts',
    why: 'The target may cut or refuse them.',
    make: (base, schema) => {
      const texts = worded(schema);
      const long = ({ longest, examples }: FieldSchema) => {
        const words = `${examples[0] || 'Water very low'} `;
        return words.repeat(Math.ceil(Math.max(LONG, longest) / words.length)).slice(0, Math.max(LONG, longest));
      };
      return texts.length === 0 ? null : texts.reduce((made, field) => withField(made, field, long(field)), base);
    },
  },
  {
    id: 'text.foreign',
    name: 'Letters of other scripts',
    why: 'Accents and other scripts must come through unharmed.',
    make: (base, schema) => {
      const texts = worded(schema);
      return texts.length === 0 ? null : texts.reduce((made, field) => withField(made, field, FOREIGN), base);
    },
  },
  {
    id: 'person.new',
    name: 'A person who is not known yet',
    why: 'Who is not found has to be made, or left out, as was decided.',
    make: (base, schema, fresh) => {
      const addresses = ofKind(schema, 'email');
      return addresses.length === 0
        ? null
        : addresses.reduce((made, field) => withField(made, field, `${fresh}@new.example.org`), base);
    },
  },
  {
    id: 'person.known',
    name: 'The same person again',
    why: 'Who is known already must not be made twice.',
    make: (base, schema) => (ofKind(schema, 'email').length === 0 ? null : base),
  },
  {
    id: 'blank',
    name: 'Only what everybody answers',
    why: 'An empty answer must not overwrite a good value.',
    make: (base, schema) => {
      const optional = schema.fields.filter(field => field.filled < schema.count);
      return optional.length === 0 ? null : without(base, keysOf(optional));
    },
  },
];

/**
 * The variants of a recorded submission that are worth trying, as far as its form has what they are about.
 * @param fresh a word in small letters that was in no submission yet: who is called so is not known
 */
export const variantIdeas = (base: Submission, schema: FormSchema, fresh = 'somebody'): VariantIdea[] =>
  ideas.flatMap(({ id, name, why, make }) => {
    const submission = make({ ...base, id: null }, schema, fresh);
    return submission ? [{ id, name, why, submission }] : [];
  });
