import { isOfItem, referenceOf } from '../scope';
import type { Json } from '../submission';
import type { Step } from '../transform';

/** Part of a text template: plain text, or the answer to a question. */
export type PlainSegment = { text: string } | { field: string };
/** A part stands only where all of its answers do. */
export type Segment = PlainSegment | { part: PlainSegment[] };

/** Segments without the bounds of their parts. */
export const flatSegments = (segments: readonly Segment[]): PlainSegment[] =>
  segments.flatMap(each => ('part' in each ? each.part : [each]));

/** Segments with other fields, in parts too. */
export function withFields(segments: readonly Segment[], of: (field: string) => string): Segment[] {
  const plain = (each: PlainSegment): PlainSegment => ('field' in each ? { field: of(each.field) } : each);
  return segments.map(each => ('part' in each ? { part: each.part.map(plain) } : plain(each)));
}

/**
 * Where a line's value comes from. Fields are questions by their key, or references to what is said about the
 * submission. `first` takes the first that is filled; `rest` writes every answer that no other line uses as
 * `Question: answer` lines.
 */
export type Source =
  | { from: 'field'; field: string }
  | { from: 'first'; fields: string[] }
  /** As HTML, the text around answers is HTML already; answers are escaped, their line breaks kept. */
  | { from: 'text'; segments: Segment[]; html?: boolean }
  | { from: 'constant'; value: Json }
  /** What no other line of the call uses: a line of text each, or a list of `{ label, value }`. */
  | { from: 'rest'; as?: 'pairs' }
  /** A list that is written part by part: objects, rows by position, or single values. */
  | { from: 'list'; entries: ListEntry[] };

export const entryShapes = ['object', 'row', 'value'] as const;

/** One entry of a list, or one for each item of an answer. Where nobody answered anything of it, it is left out. */
export interface ListEntry {
  id: string;
  /** The answer for whose items it is written, one each. */
  each?: string;
  /** An object of its parts by their names, a row of them, or the one value. */
  as: (typeof entryShapes)[number];
  parts: ListPart[];
}

/** What a part of an entry comes from. */
export type PartSource = Extract<Source, { from: 'field' | 'text' | 'constant' }>;

export interface ListPart {
  /** Its name in an object. */
  name: string;
  source: PartSource | null;
  cleaning: Step[];
}

/** The fields that a source draws on. */
export function fieldsOf(source: Source | null): string[] {
  switch (source?.from) {
    case 'field':
      return [source.field];
    case 'first':
      return source.fields;
    case 'text':
      return flatSegments(source.segments).flatMap(each => ('field' in each ? [each.field] : []));
    case 'list':
      return source.entries.flatMap(entry => [
        ...(entry.each ? [entry.each] : []),
        ...sourcesOfEntry(entry, part => fieldsOf(part.source)),
      ]);
    default:
      return [];
  }
}

/** What the parts of an entry draw on, but for the items that it is written for: those are its own, and stand nowhere else. */
export function sourcesOfEntry({ each, parts }: ListEntry, keysOf: (part: ListPart) => string[]): string[] {
  const keys = parts.flatMap(keysOf);
  return each ? keys.filter(key => !isOfItem(referenceOf(key))) : keys;
}

export const blankPolicies = ['leaveOut', 'null', 'empty', 'fallback', 'stop'] as const;
export type BlankPolicy = (typeof blankPolicies)[number];
export const problemPolicies = ['stop', 'leaveOut', 'fallback'] as const;
export type ProblemPolicy = (typeof problemPolicies)[number];

/** When a line writes over what the target has: each time, where that is blank, not at all, or beside it (lists). */
export const writings = ['always', 'whereBlank', 'onCreate', 'add'] as const;
export type Writing = (typeof writings)[number];

/** What a line may do to a record that was found, in words. */
export const writingWords: Record<Writing, string> = {
  always: 'writes over what is there',
  whereBlank: 'only where it is blank',
  onCreate: 'only when it is made',
  add: 'beside what is there',
};

/** One row of a mapping: what goes into one field of the request. */
export interface Line {
  id: string;
  /** Key of the target's field. */
  to: string;
  /** null for a line that nobody has filled in yet. */
  source: Source | null;
  cleaning: Step[];
  whenBlank: BlankPolicy;
  whenProblem: ProblemPolicy;
  /** What `fallback` puts in. */
  fallback: Json;
  /** Of a record that was found; always unless it says otherwise. */
  writes?: Writing;
  /** Links to files become links to copies that are kept here, signed and good for a while. */
  copies?: boolean;
  /** True where somebody wanted nothing of what is proposed for it. */
  declined?: boolean;
}

export const newLine = (id: string, to: string): Line => ({
  id,
  to,
  source: null,
  cleaning: [],
  whenBlank: 'leaveOut',
  whenProblem: 'stop',
  fallback: '',
});
