import { asText, setOwn, type FieldKind, type Submission } from '../submission';

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

/** A submission that a form is learned from. */
export interface Learned {
  submission: Submission;
  /** ms since the epoch. */
  receivedAt: number;
}

/** The schema with some submissions more. Fields that they say nothing of stay the same objects. */
export function mergeSchema(schema: FormSchema, learned: readonly Learned[]): FormSchema {
  const seen = new Map(schema.fields.map(field => [field.key, field]));
  /** Fields that are copies already, and may be written to. */
  const copies = new Set<FieldSchema>();
  /** A question that was asked, to be written to; null for one that there is no room for. */
  const asked = (key: string, label: string, at: number): FieldSchema | null => {
    let field = seen.get(key);
    if (!field || !copies.has(field)) {
      if (!field && (seen.size >= MOST_QUESTIONS || key.length > LONGEST_NAME)) return null;
      field = field ? copyOf(field) : blankField(key, label.slice(0, LONGEST_NAME), at);
      copies.add(field);
      seen.set(key, field);
    }
    // Recorded submissions are not always read in the order in which they came.
    field.firstAt = Math.min(field.firstAt, at);
    field.lastAt = Math.max(field.lastAt, at);
    return field;
  };
  for (const { submission, receivedAt: at } of learned) {
    for (const { key, label } of submission.questions) asked(key, label, at);
    for (const { key, label, kind, value } of submission.fields) {
      const field = asked(key, label, at);
      if (!field) continue;
      const text = asText(value);
      field.label = label.slice(0, LONGEST_NAME);
      countKind(field, kind);
      keepExample(field, text);
      noteWriting(field, text);
      if (kind === 'choice') choose(field, text, at);
      if (kind === 'choices' && Array.isArray(value)) for (const each of value) choose(field, asText(each), at);
    }
    for (const [key, names] of filesByField(submission)) {
      const field = asked(key, seen.get(key)?.label ?? key, at);
      if (!field) continue;
      countKind(field, 'files');
      keepExample(field, names.join(', '));
    }
  }
  return { count: schema.count + learned.length, fields: [...seen.values()] };
}

/** The schema of a number of submissions, as if all had come at one time. */
export const inferSchema = (submissions: Iterable<Submission>, receivedAt = 0): FormSchema =>
  mergeSchema(
    emptySchema,
    Array.from(submissions, submission => ({ submission, receivedAt })),
  );

const copyOf = (field: FieldSchema): FieldSchema => ({
  ...field,
  kinds: { ...field.kinds },
  examples: [...field.examples],
  options: [...field.options],
  shapes: { ...field.shapes },
});

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

function countKind(field: FieldSchema, kind: FieldKind): void {
  field.filled += 1;
  const times = (field.kinds[kind] ?? 0) + 1;
  field.kinds[kind] = times;
  // Only the one that grew can have overtaken the commonest.
  if (times > (field.kinds[field.kind] ?? 0)) field.kind = kind;
}

function keepExample(field: FieldSchema, text: string): void {
  const example = text.slice(0, LONGEST_EXAMPLE);
  field.examples = [example, ...field.examples.filter(each => each !== example)].slice(0, MOST_EXAMPLES);
}

/** One option that was chosen. Those that were not stay the same objects. */
function choose(field: FieldSchema, value: string, at: number): void {
  if (value.length > LONGEST_NAME) return;
  const place = field.options.findIndex(each => each.value === value);
  const known = field.options[place];
  if (known)
    field.options[place] = {
      value,
      times: known.times + 1,
      firstAt: Math.min(known.firstAt, at),
      lastAt: Math.max(known.lastAt, at),
    };
  else if (field.options.length < MOST_OPTIONS) field.options.push({ value, times: 1, firstAt: at, lastAt: at });
}

function filesByField({ files }: Submission): Map<string, string[]> {
  const byField = new Map<string, string[]>();
  for (const { field, name } of files) {
    const names = byField.get(field);
    if (names) names.push(name);
    else byField.set(field, [name]);
  }
  return byField;
}

const MOST_SHAPES = 12;
/** Longer values are prose: how they are written says nothing. */
const LONGEST_SHAPED = 32;

/** How a text is written: `4/11/2026` as `9/99/9999`, `AB-07` as `aa-99`. */
export const shapeOf = (text: string): string => text.replace(/\d/g, '9').replace(/\p{L}/gu, 'a');

function noteWriting(field: FieldSchema, text: string): void {
  field.shortest = field.longest === 0 ? text.length : Math.min(field.shortest, text.length);
  field.longest = Math.max(field.longest, text.length);
  if (text.length > LONGEST_SHAPED || field.kind === 'choice' || field.kind === 'choices') return;
  const shape = shapeOf(text);
  const times = Object.hasOwn(field.shapes, shape) ? field.shapes[shape]! : 0;
  if (times > 0 || Object.keys(field.shapes).length < MOST_SHAPES) setOwn(field.shapes, shape, times + 1);
}
