import { asText, type FieldKind, type Submission } from '../submission';

/** An option that was chosen. Times are ms since the epoch. */
export interface OptionSeen {
  value: string;
  times: number;
  firstAt: number;
  lastAt: number;
}

/** What is known of one question from all submissions of its form. Times are ms since the epoch. */
export interface FieldSchema {
  key: string;
  label: string;
  /** How the form words it, where people gave it another name: `label`. */
  asked?: string;
  /** The kind most submissions show. */
  kind: FieldKind;
  kinds: Partial<Record<FieldKind, number>>;
  /** In how many submissions it was answered. */
  filled: number;
  /** Up to three values as text, newest first. */
  examples: string[];
  /** When it was first and last asked, answered or not. */
  firstAt: number;
  lastAt: number;
  /** Options seen, for choose-one and choose-many questions, in the order they were first chosen; at most 60. */
  options: OptionSeen[];
  /** Characters of the longest and shortest value as text. */
  longest: number;
  shortest: number;
  /** How short values are written, with `9` for digits and `a` for letters: `99/99/9999`; with their counts, at most 12. */
  shapes: Record<string, number>;
}

/** What is known of a form. */
export interface FormSchema {
  /** How many submissions it was learned from. */
  count: number;
  fields: FieldSchema[];
}

export const emptySchema: FormSchema = { count: 0, fields: [] };

/** Questions of one form that are kept; and characters of a key, a label and an option. Nobody's form has as many. */
const MOST_QUESTIONS = 1000;
const LONGEST_NAME = 300;
const MOST_OPTIONS = 60;
const MOST_EXAMPLES = 3;
const LONGEST_EXAMPLE = 120;

/**
 * The schema with one submission more, received at a time in ms since the epoch. Fields that it says nothing of stay the same
 * objects.
 */
export function mergeSchema(schema: FormSchema, submission: Submission, at: number): FormSchema {
  const seen = new Map(schema.fields.map(field => [field.key, field]));
  const isKept = (key: string) => seen.has(key) || (seen.size < MOST_QUESTIONS && key.length <= LONGEST_NAME);
  for (const { key, label } of submission.questions)
    if (isKept(key)) seen.set(key, asked(seen.get(key) ?? blankField(key, label.slice(0, LONGEST_NAME), at), at));
  for (const field of submission.fields) {
    if (!isKept(field.key)) continue;
    const before = asked(seen.get(field.key) ?? blankField(field.key, field.label, at), at);
    const text = asText(field.value);
    const after = withWriting(
      withExample(withKind({ ...before, label: field.label.slice(0, LONGEST_NAME) }, field.kind), text),
      text,
    );
    const options =
      field.kind === 'choice'
        ? [asText(field.value)]
        : field.kind === 'choices' && Array.isArray(field.value)
          ? field.value.map(asText)
          : [];
    seen.set(field.key, {
      ...after,
      options: chosen(
        before.options,
        options.filter(each => each.length <= LONGEST_NAME),
        at,
      ),
    });
  }
  for (const key of new Set(submission.files.map(file => file.field))) {
    if (!isKept(key)) continue;
    const names = submission.files.filter(file => file.field === key).map(file => file.name);
    const label = submission.questions.find(question => question.key === key)?.label ?? key;
    const before = asked(seen.get(key) ?? blankField(key, label, at), at);
    seen.set(key, withExample(withKind(before, 'files'), names.join(', ')));
  }
  return { count: schema.count + 1, fields: [...seen.values()] };
}

/** The schema of a number of submissions, as if all had come at one time. */
export const inferSchema = (submissions: Iterable<Submission>, at = 0): FormSchema => {
  let schema = emptySchema;
  for (const submission of submissions) schema = mergeSchema(schema, submission, at);
  return schema;
};

/** Recorded submissions are not always read in the order in which they came. */
const asked = <T extends { firstAt: number; lastAt: number }>(seen: T, at: number): T => ({
  ...seen,
  firstAt: Math.min(seen.firstAt, at),
  lastAt: Math.max(seen.lastAt, at),
});

/** The options with some chosen once more. */
function chosen(before: OptionSeen[], values: string[], at: number): OptionSeen[] {
  if (values.length === 0) return before;
  const after = [...before];
  for (const value of values) {
    const place = after.findIndex(each => each.value === value);
    const known = after[place];
    if (known) after[place] = { ...asked(known, at), times: known.times + 1 };
    else if (after.length < MOST_OPTIONS) after.push({ value, times: 1, firstAt: at, lastAt: at });
  }
  return after;
}

const blankField = (key: string, label: string, at: number): FieldSchema => ({
  key,
  label,
  kind: 'text',
  kinds: {},
  filled: 0,
  examples: [],
  firstAt: at,
  lastAt: at,
  options: [],
  longest: 0,
  shortest: 0,
  shapes: {},
});

function withKind(field: FieldSchema, kind: FieldKind): FieldSchema {
  const kinds = { ...field.kinds, [kind]: (field.kinds[kind] ?? 0) + 1 };
  // Only the one that grew can have overtaken the commonest.
  const commonest = kinds[kind]! > (kinds[field.kind] ?? 0) ? kind : field.kind;
  return { ...field, kinds, kind: commonest, filled: field.filled + 1 };
}

function withExample(field: FieldSchema, text: string): FieldSchema {
  const example = text.slice(0, LONGEST_EXAMPLE);
  return { ...field, examples: [example, ...field.examples.filter(each => each !== example)].slice(0, MOST_EXAMPLES) };
}

const MOST_SHAPES = 12;
/** Longer values are prose: how they are written says nothing. */
const LONGEST_SHAPED = 32;

/** How a text is written: `4/11/2026` as `9/99/9999`, `AB-07` as `aa-99`. */
export const shapeOf = (text: string): string => text.replace(/\d/g, '9').replace(/\p{L}/gu, 'a');

function withWriting(field: FieldSchema, text: string): FieldSchema {
  const { longest, shortest, shapes: before } = field;
  const shapes =
    text.length > LONGEST_SHAPED || field.kind === 'choice' || field.kind === 'choices'
      ? before
      : counted(before, [shapeOf(text)], MOST_SHAPES);
  return {
    ...field,
    longest: Math.max(longest, text.length),
    shortest: longest === 0 ? text.length : Math.min(shortest, text.length),
    shapes,
  };
}

function counted(before: Record<string, number>, seen: string[], most: number): Record<string, number> {
  let room = most - Object.keys(before).length;
  let after = before;
  for (const each of seen) {
    const times = Object.hasOwn(after, each) ? after[each]! : 0;
    if (times === 0 && room <= 0) continue;
    if (times === 0) room -= 1;
    if (after === before) after = { ...before };
    Object.defineProperty(after, each, { value: times + 1, enumerable: true, configurable: true, writable: true });
  }
  return after;
}
