import type { Json, Submission } from '../../submission';

/** Option identifiers with the labels that the payload defines for them. */
export type OptionLabels = Map<string, string>;

/** An answer as the payload holds it, before its value is read. */
export interface RawAnswer {
  key: string;
  label: string;
  /** What the payload calls the kind of question, or null. */
  stated: string | null;
  value: Json;
  pointer: string;
  options: OptionLabels | null;
  /** What was written beside an option such as “Other”, or null. */
  other: string | null;
}

export interface RawSubmission extends Pick<Submission, 'form' | 'id' | 'submittedAt' | 'meta'> {
  answers: RawAnswer[];
}

/** The names that say, in each record of an answer, what words the question, what identifies it, and of what kind it is. */
export interface Columns {
  wording: string | null;
  key: string | null;
  kind: string | null;
}

/** How a document was understood: the score says how sure the reader is, 0 to 1. */
export interface EnvelopeReading {
  reader: string;
  label: string;
  score: number;
  why: string;
  /** Where the answers stand, as a JSON Pointer. */
  answersAt: string;
  /** Where the list stands whose every item is a submission; left out where the document is one. */
  splitAt?: string;
  /** Where the answers are records, their columns. */
  columns?: Columns;
  /** Places that say what is asked, where the answers do not say it themselves. */
  definedAt?: string[];
  /** The generation whose pins it was read by, from 0; left out where it was read without. */
  generation?: number;
  submissions: RawSubmission[];
  /** True where more submissions stand there than are read. */
  isCut?: boolean;
}
