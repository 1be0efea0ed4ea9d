import { decode } from '@grammata/core/decode';
import type { FieldKind, Json } from '@grammata/core/submission';

/** A payload with all facts that are in it. */
export interface Labelled {
  name: string;
  type: string | null;
  query?: string;
  body: string;
  submissions: {
    form?: [key: string, name: string | null];
    id?: string;
    submittedAt?: string;
    fields: [key: string, label: string, kind: FieldKind, value: Json][];
    files?: [field: string, name: string, type: string | null, size: number | null, url: string | null][];
  }[];
}

export interface Score {
  right: number;
  facts: number;
  wrong: string[];
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** How many of a payload's facts the decoder gets right; what it makes up counts against it. */
export function score({ name, type, query = '', body, submissions }: Labelled): Score {
  const read = decode(new TextEncoder().encode(body), type, query).submissions;
  const result: Score = { right: 0, facts: 0, wrong: [] };
  const fact = (what: string, got: unknown, wanted: unknown) => {
    result.facts += 1;
    if (same(got, wanted)) result.right += 1;
    else result.wrong.push(`${name}: ${what}: ${JSON.stringify(got)} for ${JSON.stringify(wanted)}`);
  };
  fact('submissions', read.length, submissions.length);
  submissions.forEach((wanted, index) => {
    const got = read[index];
    if (wanted.form) fact('form key', got?.form?.key, wanted.form[0]);
    if (wanted.form) fact('form name', got?.form?.name ?? null, wanted.form[1]);
    if (wanted.id) fact('id', got?.id, wanted.id);
    if (wanted.submittedAt) fact('time', got?.submittedAt, wanted.submittedAt);
    for (const [key, label, kind, value] of wanted.fields) {
      const field = got?.fields.find(each => each.key === key);
      fact(`${key} is there`, field !== undefined, true);
      fact(`${key} label`, field?.label, label);
      fact(`${key} kind`, field?.kind, kind);
      fact(`${key} value`, field?.value, value);
    }
    for (const [field, ...facts] of wanted.files ?? []) {
      const file = got?.files.find(each => each.field === field && each.name === facts[0]);
      fact(`file of ${field}`, file && [file.name, file.type, file.size, file.url], facts);
    }
    const extras = (got?.fields ?? []).filter(field => !wanted.fields.some(([key]) => key === field.key));
    for (const extra of extras) fact(`extra ${extra.key}`, extra.value, undefined);
    const extraFiles = (got?.files.length ?? 0) - (wanted.files?.length ?? 0);
    if (extraFiles > 0) fact('extra files', extraFiles, 0);
  });
  return result;
}
