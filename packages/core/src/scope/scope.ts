import type { Json, Submission } from '../submission';

/** What lines and conditions are evaluated in: a submission, and what its delivery knows by then. */
export interface Scope {
  submission: Submission;
  /** What earlier calls answered, by the calls' ids. */
  answers: Readonly<Record<string, Json>>;
  /** What a repeated call is about this time (a file, a choice, a row), and its place among them, from 1. */
  item: { value: Json; number: number } | null;
  /** The record that the target has already; undefined until one is found. */
  record: Json | undefined;
}

/** The scope of a submission before, or between, its calls. */
export const scopeOf = (submission: Submission, answers: Scope['answers'] = {}): Scope => ({
  submission,
  answers,
  item: null,
  record: undefined,
});
