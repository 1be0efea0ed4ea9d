import { isJsonObject, type Json } from './json';

export const fieldKinds = [
  'text',
  'multiline',
  'name',
  'email',
  'phone',
  'url',
  'number',
  'boolean',
  'date',
  'time',
  'datetime',
  'choice',
  'choices',
  'address',
  'files',
  'table',
  'json',
] as const;
export type FieldKind = (typeof fieldKinds)[number];

/** One answered question. */
export interface Field {
  /** The identifier the payload states for the question. */
  key: string;
  /** Its human wording; made from the key when the payload has none. */
  label: string;
  kind: FieldKind;
  value: Json;
  /** Where it stood: a JSON Pointer (RFC 6901) into the decoded document. */
  pointer: string;
}

/** One file of an answer: a link to it, or its content that came along. */
export interface FileRef {
  /** The key of the question it answers. */
  field: string;
  name: string;
  /** Media type as stated by the sender. */
  type: string | null;
  /** Bytes. */
  size: number | null;
  /** Where it can be had: an address, or a path in the builder's own store. */
  url: string | null;
  /** The builder's own identifier of it; left out where none is told. */
  id?: string;
}

/** A question the payload shows, answered or not. */
export interface Question {
  key: string;
  label: string;
  /** Where its answer stands, as a JSON Pointer into the decoded document. */
  pointer: string;
  /** What can be chosen, where the payload itself says so. */
  options?: StatedOption[];
}

/** An option as a payload states it; with its identifier, where it has one beside its wording. */
export interface StatedOption {
  label: string;
  id?: string;
}

/** Under what name a submission's `meta` says when its message arrived (RFC 3339). */
export const ARRIVED_AT = 'arrival.time';

export interface Submission {
  form: { key: string; name: string | null } | null;
  /** The builder's own identifier for this submission. */
  id: string | null;
  /** As the builder wrote it. */
  submittedAt: string | null;
  fields: Field[];
  files: FileRef[];
  questions: Question[];
  meta: Record<string, Json>;
}

/** The value of a question: its field's, or the list of its files as `{ name, url, type, size }`. */
export function answerOf(submission: Submission, key: string): Json | undefined {
  const field = submission.fields.find(each => each.key === key);
  if (field) return field.value;
  const files = submission.files.filter(each => each.field === key);
  if (files.length === 0) return undefined;
  return files.map(({ name, url, type, size, id }) => ({ name, url, type, size, ...(id !== undefined && { id }) }));
}

/** A file inside an answer. */
export type FileValue = { name: string; url: string | null; type: string | null; size: number | null; id?: string };

/** True for a file as answers hold it. */
export const isFile = (value: Json | undefined): value is FileValue =>
  isJsonObject(value) && typeof value.name === 'string' && ('url' in value || 'size' in value);

/** An address of the web whose content can be had. */
export const isHttpAddress = (text: string): boolean => /^https?:\/\/[^/]/i.test(text) && URL.canParse(text);

/** Stands in place of an address for content that is had from a target or the form builder, by a path below its own address. */
export const viaAddress = (from: string, path: string): string => `via:${from}${path}`;

/** From whom such content is had, and where there; null for any other address. */
export function viaIn(url: string | null): { from: string; path: string } | null {
  const [, from, path] = /^via:([^/]+)(\/.*)?$/.exec(url ?? '') ?? [];
  return from === undefined ? null : { from, path: path ?? '' };
}

/** The place among a submission's files of one that an answer holds, or -1. */
export const fileIndex = ({ files }: Pick<Submission, 'files'>, { name, url, size, id }: FileValue): number =>
  files.findIndex(file => file.name === name && file.url === url && file.size === size && file.id === id);

const isListOf = (value: unknown, has: (item: Record<string, unknown>) => boolean): boolean =>
  Array.isArray(value) &&
  value.every(item => typeof item === 'object' && item !== null && has(item as Record<string, unknown>));
const areTexts = (item: Record<string, unknown>, ...names: string[]) =>
  names.every(name => typeof item[name] === 'string');

/** True for a value that has the shape of a submission. */
export function isSubmission(value: unknown): value is Submission {
  if (typeof value !== 'object' || value === null) return false;
  const { form, id, submittedAt, fields, files, questions, meta } = value as Record<keyof Submission, unknown>;
  const isTextOrNull = (each: unknown) => each === null || typeof each === 'string';
  return (
    (form === null || (typeof form === 'object' && typeof (form as { key?: unknown }).key === 'string')) &&
    isTextOrNull(id) &&
    isTextOrNull(submittedAt) &&
    isListOf(
      fields,
      item =>
        areTexts(item, 'key', 'label', 'pointer') &&
        fieldKinds.includes(item.kind as FieldKind) &&
        item.value !== undefined,
    ) &&
    isListOf(files, item => areTexts(item, 'field', 'name')) &&
    isListOf(questions, item => areTexts(item, 'key', 'label', 'pointer')) &&
    typeof meta === 'object' &&
    meta !== null
  );
}
