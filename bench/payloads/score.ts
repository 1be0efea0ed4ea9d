import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { decode } from '@grammata/core/decode';
import type { Field, FileRef, Json, JsonObject, Submission } from '@grammata/core/submission';

/** A message as a builder sends it, with what must be read from it. What is left out is not judged. */
export interface Payload {
  name: string;
  family: string;
  contentType: string | null;
  query: string;
  note: string;
  text?: string;
  base64?: string;
  expect: { submissions: Expected[] };
}

interface ExpectedField {
  key?: string;
  /** Null in a table without a header: found by its value alone. */
  label: string | null;
  labels?: string[];
  value: Json;
  accept?: Json[];
  kind?: string;
  optional?: boolean;
}

interface ExpectedFile {
  field: string | null;
  name: string | null;
  type?: string | null;
  size?: number | null;
  url?: string | null;
}

interface Expected {
  form?: { key?: string; name?: string } | null;
  id?: string | null;
  submittedAt?: string | null;
  fields: ExpectedField[];
  files: ExpectedFile[];
}

export const payloads = JSON.parse(readFileSync(join(process.cwd(), 'bench/payloads/cases.json'), 'utf8')) as Payload[];

const text = (value: string): string => value.replace(/\r\n?/g, '\n').trim().normalize('NFC');
const isEmpty = (value: Json | undefined): boolean => value === null || value === undefined || value === '';

/** Values as they are compared: text trimmed; members without a value count as left out. */
function plain(value: Json | undefined): Json {
  if (Array.isArray(value)) return value.map(each => (isEmpty(plain(each)) ? null : plain(each)));
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(
      Object.entries(value)
        .map(([name, each]): [string, Json] => [text(name), plain(each)])
        .filter(([, each]) => !isEmpty(each))
        .sort(([a], [b]) => (a < b ? -1 : 1)),
    ) as JsonObject;
  return typeof value === 'string' ? text(value) : (value ?? null);
}

const same = (a: Json | undefined, b: Json | undefined) => isDeepStrictEqual(plain(a), plain(b));

/** The words of a wording or an identifier: letters and digits, whatever their case. */
const wordsOf = (label: string | null | undefined): string[] =>
  String(label ?? '')
    .normalize('NFKC')
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
const spelled = (label: string | null | undefined) => wordsOf(label).join(' ') || String(label ?? '').trim();
const bareKey = (key: string | undefined) =>
  String(key ?? '')
    .replace(/\[\]$/, '')
    .normalize('NFC');
const segments = (key: string | undefined) =>
  bareKey(key)
    .split(/[.[\]/]+/)
    .filter(Boolean);

/** Of a key that is nested, the last part alone is as good as the whole. */
function sameKey(a: string, b: string): boolean {
  if (bareKey(a) === bareKey(b)) return true;
  const [left, right] = [segments(a), segments(b)];
  const length = Math.min(left.length, right.length);
  return length > 0 && left.slice(-length).join('.') === right.slice(-length).join('.');
}

function sameLabel(expected: ExpectedField, actual: string): boolean {
  if ([expected.label, ...(expected.labels ?? [])].some(each => spelled(each) === spelled(actual))) return true;
  // A label that is made from a key may be made from all of it or from its last part.
  const isMade = expected.key !== undefined && wordsOf(expected.key).join(' ') === wordsOf(expected.label).join(' ');
  if (!isMade) return false;
  const [left, right] = [wordsOf(expected.label), wordsOf(actual)];
  const length = Math.min(left.length, right.length);
  const last = wordsOf(segments(expected.key).at(-1));
  return length > 0 && length >= last.length && left.slice(-length).join(' ') === right.slice(-length).join(' ');
}

const asText = (value: Json | undefined) => (isEmpty(value) ? null : text(String(value)));
const essence = (type: string | null | undefined) =>
  typeof type === 'string' ? type.split(';')[0]!.trim().toLowerCase() : null;

/** Facts: how many there are, how many are right, and what is wrong with the others. */
export class Tally {
  facts = 0;
  right = 0;
  readonly faults: string[] = [];

  check(isRight: boolean, message: string): void {
    this.facts += 1;
    if (isRight) this.right += 1;
    else this.faults.push(message);
  }
}

/** Pairs what is expected with what was read, the surest pairs first. Gives the partner of each, or -1, and what is left over. */
function paired<E, A>(expected: E[], actual: A[], tests: ((expected: E, actual: A) => boolean)[]) {
  const partner = new Array<number>(expected.length).fill(-1);
  const taken = new Set<number>();
  for (const test of tests)
    expected.forEach((each, at) => {
      if (partner[at]! >= 0) return;
      const found = actual.findIndex((other, index) => !taken.has(index) && test(each, other));
      if (found < 0) return;
      partner[at] = found;
      taken.add(found);
    });
  return { partner, rest: actual.filter((_, index) => !taken.has(index)) };
}

const accepts = (expected: ExpectedField, value: Json | undefined) =>
  [expected.value, ...(expected.accept ?? [])].some(each => same(each, value));
const keyFits = (expected: ExpectedField, actual: Field) =>
  expected.key !== undefined && sameKey(expected.key, actual.key);
const labelFits = (expected: ExpectedField, actual: Field) =>
  expected.label !== null &&
  (sameLabel(expected, actual.label) || (expected.key === undefined && sameLabel(expected, actual.key)));

function judgeFields(tally: Tally, expected: ExpectedField[], actual: Field[]): void {
  const { partner, rest } = paired(expected, actual, [
    (e, a) => keyFits(e, a) && labelFits(e, a) && accepts(e, a.value),
    (e, a) => (keyFits(e, a) || labelFits(e, a)) && accepts(e, a.value),
    (e, a) => keyFits(e, a) && labelFits(e, a),
    (e, a) => keyFits(e, a),
    (e, a) => labelFits(e, a),
    (e, a) => e.label === null && accepts(e, a.value),
  ]);
  expected.forEach((field, at) => {
    if (field.optional) return;
    const found = actual[partner[at]!];
    const name = field.label ?? JSON.stringify(field.value);
    if (field.label !== null) tally.check(found !== undefined && sameLabel(field, found.label), `label of ${name}`);
    if (field.key !== undefined) tally.check(found !== undefined && sameKey(field.key, found.key), `key of ${name}`);
    tally.check(found !== undefined && accepts(field, found.value), `value of ${name}`);
    if (field.kind !== undefined) tally.check(found?.kind === field.kind, `kind of ${name}`);
  });
  for (const each of rest) tally.check(false, `${each.label} is no answer`);
  const places = partner.filter((at, index) => at >= 0 && !expected[index]!.optional);
  if (expected.filter(each => !each.optional).length > 1)
    tally.check(places.length > 1 && places.every((at, index) => index === 0 || at > places[index - 1]!), 'order');
}

function judgeFiles(tally: Tally, { files: expected, fields }: Expected, actual: FileRef[]): void {
  const fieldFits = (e: ExpectedFile, a: FileRef) => {
    if (e.field === null) return true;
    const question = fields.find(each => each.key === e.field || (each.key === undefined && each.label === e.field));
    return (
      sameKey(e.field, a.field) ||
      spelled(e.field) === spelled(a.field) ||
      spelled(question?.label ?? e.field) === spelled(a.field)
    );
  };
  const nameFits = (e: ExpectedFile, a: FileRef) => e.name === null || asText(a.name) === asText(e.name);
  const urlFits = (e: ExpectedFile, a: FileRef) => e.url === undefined || asText(a.url) === asText(e.url);
  const { partner, rest } = paired(expected, actual, [
    (e, a) => fieldFits(e, a) && nameFits(e, a) && urlFits(e, a),
    (e, a) => fieldFits(e, a) && (nameFits(e, a) || urlFits(e, a)),
    (e, a) => e.field !== null && fieldFits(e, a),
    (e, a) => (e.name !== null && nameFits(e, a)) || (typeof e.url === 'string' && urlFits(e, a)),
  ]);
  expected.forEach((file, at) => {
    const found = actual[partner[at]!];
    const name = file.name ?? 'a file';
    if (file.field !== null) tally.check(found !== undefined && fieldFits(file, found), `question of ${name}`);
    if (file.name !== null) tally.check(found !== undefined && nameFits(file, found), `name of ${name}`);
    if (file.type !== undefined)
      tally.check(found !== undefined && essence(found.type) === essence(file.type), `type of ${name}`);
    if (file.size !== undefined) tally.check(found?.size === file.size, `size of ${name}`);
    if (file.url !== undefined) tally.check(found !== undefined && urlFits(file, found), `address of ${name}`);
  });
  for (const each of rest) tally.check(false, `${each.name} is no file`);
}

function judgeEnvelope(tally: Tally, { form, id, submittedAt }: Expected, actual: Submission | undefined): void {
  if (form === null) tally.check(actual !== undefined && actual.form === null, 'form');
  else if (form !== undefined) {
    const [key, name] = [asText(actual?.form?.key), asText(actual?.form?.name)];
    if (form.key !== undefined) tally.check(key === asText(form.key), 'key of the form');
    // A form that has a name alone has it for its key as well.
    if (form.name !== undefined)
      tally.check(
        name === asText(form.name) || (form.key === undefined && key === asText(form.name)),
        'name of the form',
      );
  }
  if (id !== undefined) tally.check(actual !== undefined && actual.id === id, 'id');
  if (submittedAt !== undefined)
    tally.check(actual !== undefined && asText(actual.submittedAt) === asText(submittedAt), 'time');
}

/** What is read of a payload, against what must be. */
export function scorePayload({ contentType, query, text: body, base64, expect }: Payload): Tally {
  const bytes = body === undefined ? Buffer.from(base64!, 'base64') : new TextEncoder().encode(body);
  const { submissions } = decode(bytes, contentType, query);
  const tally = new Tally();
  tally.check(submissions.length === expect.submissions.length, 'submissions');
  const { partner, rest } = paired(expect.submissions, submissions, [
    (e, a) => typeof e.id === 'string' && a.id === e.id,
    () => true,
  ]);
  expect.submissions.forEach((wanted, at) => {
    const found = submissions[partner[at]!];
    judgeEnvelope(tally, wanted, found);
    judgeFields(tally, wanted.fields, found?.fields ?? []);
    judgeFiles(tally, wanted, found?.files ?? []);
  });
  for (const each of rest) {
    tally.check(false, 'a submission that is none');
    for (const field of each.fields) tally.check(false, field.label);
    for (const file of each.files) tally.check(false, file.name);
  }
  return tally;
}
