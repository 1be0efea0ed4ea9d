import type { Condition } from '../condition';
import type { Line } from './line';

export const noneChoices = ['create', 'leave', 'hold'] as const;
export const severalChoices = ['first', 'every', 'hold'] as const;

/** Looking somebody up before writing. */
export interface Find {
  operationId: string;
  /** What is looked for, and the field of that operation that takes it. */
  line: Line;
  /** What else is sent. */
  lines?: Line[];
  /** True where it only reads whatever its method: a dry run may ask it too. */
  readsOnly?: boolean;
  /** Where the records stand in the answer (JSON Pointer): a list, or one record. */
  list: string;
  /** What of a record must be exactly what was looked for (JSON Pointer); empty where nobody said so yet. */
  equals: string;
  /** True where whatever is answered is what was looked for: it was asked for by its address. */
  takesAny?: boolean;
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

/** What identifies the record of a call for those behind it, whether it was found or made (JSON Pointers). */
export interface Identity {
  /** In a record as it is found; not asked where nothing is looked for. */
  found: string;
  /** In the answer to making one. */
  made: string;
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

/**
 * Statuses after which the same request may succeed later (RFC 9110 §15, RFC 6585 §4, RFC 8470 §5.2). That no answer came is
 * always such a case.
 */
export const usualRetries: readonly number[] = [408, 425, 429, 500, 502, 503, 504];

/** Which refusals pass, and how often a request is made. */
export interface Retry {
  /** Most tries of one request; null for as many as there is time for. */
  tries: number | null;
  /** Statuses after which it is tried again. */
  statuses: number[];
}

/** What a success with a web page where data was expected counts as: a page to sign in or of an error, or a success. */
export const pageChoices = ['refused', 'taken'] as const;

export const successKinds = ['status', 'member'] as const;

/** How a response says that a request succeeded: by its status alone, or by a member of it beside that. */
export interface Success {
  by: (typeof successKinds)[number];
  /** JSON Pointer of the member; empty where the status alone counts. */
  pointer: string;
  /** What the member is then, whatever its case; null where being there is enough. */
  values: string[] | null;
}

/** One operation inside a route, with its mapping. */
export interface Call {
  id: string;
  /** What people call it: two calls of one operation are told apart by it. */
  name?: string;
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
  identity?: Identity | null;
  readBack?: ReadBack | null;
  /** What is tried again; the usual unless it says otherwise. */
  retry?: Retry | null;
  /** What a web page counts as; by what the operation says it answers, unless it says otherwise. */
  pages?: (typeof pageChoices)[number] | null;
  /** What tells a success; unless it says otherwise the status, and a response that does not say no in so many words. */
  success?: Success | null;
}

/** What a call is called: by people, else by its operation. */
export const callName = ({ name, operationId }: Call, operation: { label: string } | null | undefined): string =>
  name?.trim() || (operation?.label ?? operationId);
