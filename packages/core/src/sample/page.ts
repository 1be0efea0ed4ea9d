import type { Field, FieldKind, FileRef, Json, Submission } from '../submission';

/** A question as many submissions of one form answer it. */
export interface Column {
  key: string;
  label: string;
  kind: FieldKind;
}

/** A submission by the columns of its page: what is the same for all is said once. Blank answers are null. */
export interface PackedSubmission {
  /** What was answered, by column; shorter where the last columns are blank. */
  values: Json[];
  /** Where it is otherwise than the columns say, by the column's place. */
  kinds?: Record<number, FieldKind>;
  labels?: Record<number, string>;
  /** The places of its columns in its own order, where that is another. */
  order?: number[];
  form?: Submission['form'];
  id?: string;
  submittedAt?: string;
  meta?: Submission['meta'];
  files?: FileRef[];
}

export interface Packed {
  columns: Column[];
  rows: PackedSubmission[];
}

/**
 * Puts submissions of one form into columns, for the wire and for thousands at once: labels, kinds and the list of questions are
 * most of a submission, and the same in all. Where answers stood in their messages is left out: lines do not ask that.
 */
export function pack(submissions: readonly Submission[]): Packed {
  const places = new Map<string, number>();
  const columns: Column[] = [];
  const placeOf = (key: string, label: string, kind: FieldKind): number => {
    const known = places.get(key);
    if (known !== undefined) return known;
    places.set(key, columns.length);
    return columns.push({ key, label, kind }) - 1;
  };
  const rows = submissions.map((submission): PackedSubmission => {
    const { form, id, submittedAt, meta, files, fields, questions } = submission;
    for (const { field } of files) placeOf(field, questions.find(each => each.key === field)?.label ?? field, 'files');
    return {
      ...packFields(fields, placeOf, columns),
      ...(form && { form }),
      ...(id !== null && { id }),
      ...(submittedAt !== null && { submittedAt }),
      ...(Object.keys(meta).length > 0 && { meta }),
      ...(files.length > 0 && { files }),
    };
  });
  return { columns, rows };
}

function packFields(
  fields: readonly Field[],
  placeOf: (key: string, label: string, kind: FieldKind) => number,
  columns: readonly Column[],
): PackedSubmission {
  const row: PackedSubmission = { values: [] };
  const order = fields.map(({ key, label, kind, value }) => {
    const place = placeOf(key, label, kind);
    const column = columns[place]!;
    if (column.kind !== kind) (row.kinds ??= {})[place] = kind;
    if (column.label !== label) (row.labels ??= {})[place] = label;
    while (row.values.length < place) row.values.push(null);
    row.values[place] = value;
    return place;
  });
  if (order.some((place, at) => at > 0 && place < order[at - 1]!)) row.order = order;
  return row;
}

/** The submission that was packed, without its places in its message. Columns are asked of each: they say what there is to ask. */
export function unpack({ columns }: Pick<Packed, 'columns'>, row: PackedSubmission): Submission {
  const { values, kinds, labels, order, form = null, id = null, submittedAt = null, meta = {}, files = [] } = row;
  const fields: Field[] = [];
  const add = (place: number) => {
    const value = values[place];
    if (value === null || value === undefined) return;
    const { key, label, kind } = columns[place]!;
    fields.push({ key, label: labels?.[place] ?? label, kind: kinds?.[place] ?? kind, value, pointer: '' });
  };
  if (order) order.forEach(add);
  else for (let place = 0; place < values.length; place++) add(place);
  return { form, id, submittedAt, meta, fields, files, questions: questionsOf(columns) };
}

const known = new WeakMap<readonly Column[], Submission['questions']>();

/** One list for all submissions of a page. */
function questionsOf(columns: readonly Column[]): Submission['questions'] {
  const before = known.get(columns);
  if (before) return before;
  const questions = columns.map(({ key, label }) => ({ key, label, pointer: '' }));
  known.set(columns, questions);
  return questions;
}
