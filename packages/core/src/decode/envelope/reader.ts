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
  /** The generation whose pins it was read by, from 0; left out where it was read without. */
  generation?: number;
  submissions: RawSubmission[];
}
