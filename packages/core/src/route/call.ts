import type { Condition } from '../condition';
import type { Line } from './line';

export const noneChoices = ['create', 'leave', 'hold'] as const;
export const severalChoices = ['first', 'every', 'hold'] as const;

/** Looking somebody up before writing. */
export interface Find {
  operationId: string;
  /** What is looked for, and the field of that operation that takes it. */
  line: Line;
  /** Where the records stand in the answer (JSON Pointer): a list, or one record. */
  list: string;
  /** What of a record must be exactly what was looked for (JSON Pointer). */
  equals: string;
  whenNone: (typeof noneChoices)[number];
  whenSeveral: (typeof severalChoices)[number];
  /** How the one found is updated; null leaves it as it is. */
  update: Update | null;
}

export interface Update {
  operationId: string;
  /** The field of that operation that says which record is meant. */
  to: string;
  /** What of the record goes there (JSON Pointer). */
  from: string;
}

/** Fetching what was stored, to hold it against what was sent. */
export interface ReadBack {
  operationId: string;
  /** The field of that operation that says which record is meant. */
  to: string;
  /** What of the call's answer goes there (JSON Pointer). */
  from: string;
}

export const failureChoices = ['stop', 'passOver'] as const;

/** One operation inside a route, with its mapping. */
export interface Call {
  id: string;
  targetId: string;
  operationId: string;
  lines: Line[];
  /** Of which submissions, or items, it is made; of all unless it says otherwise. */
  condition?: Condition | null;
  /** Made once for each item of this answer; a question's key. */
  repeat?: string | null;
  /** What a call that failed does to those behind it. */
  whenFailed?: (typeof failureChoices)[number];
  find?: Find | null;
  readBack?: ReadBack | null;
}
