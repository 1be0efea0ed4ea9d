import type { Columns, RawAnswer } from './reader';

/** Answers found in one submission's part of a document, before it is told what stands around them. */
export interface Place {
  reader: string;
  label: string;
  /** Where they stand. */
  at: string;
  answers: RawAnswer[];
  /** Pointers of all that belongs to the answers: nothing in there stands around them. */
  covers: string[];
  /** How plainly the structure says that these are answers, 0 to 1. */
  trust: number;
  /** True where each answer words its question itself. */
  isWorded: boolean;
  why: string;
  /** True where some members of an object are answers and others stand around. */
  isPart?: boolean;
  /** The names of the members that each item has; what is built alike is another answer, and defines none. */
  shape?: string;
  /** In records: the names that say what was asked. */
  columns?: Columns;
  /** What was told of the submission itself among the answers. */
  said?: Record<string, string>;
}
