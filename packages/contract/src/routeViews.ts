import type { Ask, Change, Done } from '@grammata/core/perform';
import type { Json } from '@grammata/core/submission';
import type { RouteDefinition } from '@grammata/core/route';
import type { FormView, RouteTarget } from './views';

// What the server answers about routes. All times are ISO 8601 in UTC.

export type RouteState = 'draft' | 'live' | 'paused';

export interface RouteSummary {
  id: string;
  name: string;
  state: RouteState;
  formId: string;
  formName: string;
  intakeName: string;
  targetName: string;
  operationLabel: string;
  /** Number of the version that is live or paused; null before the first. */
  version: number | null;
  /** True when the draft differs from that version, or is made for other operations than it was. */
  changed: boolean;
  /** Names of targets that offer something else than when that version went live. */
  targetsChanged: string[];
  liveSince: string | null;
  delivered: number;
  waiting: number;
  dead: number;
}

export interface RouteView extends RouteSummary {
  draft: RouteDefinition;
  /** Counts the edits of the draft; the next one names it. */
  revision: number;
  form: FormView;
  /** Those that its calls go to. */
  targets: RouteTarget[];
  /** How the last real try of the draft went; null before the first. */
  trial: TrialView | null;
}

/** A request as it was or would be made for one sample. */
export interface AskView {
  callId: string;
  item: string;
  purpose: Ask['purpose'];
  /** As it goes over the wire, secrets masked. */
  request: string;
  /** Undefined for one that is not made. */
  status?: number | null;
  message?: string;
  /** What the target answered, the beginning of it. */
  response?: string | null;
  changes: Change[];
  found: Json;
}

/** Samples that an overview looks at, the newest that the condition lets through. */
export const OVERVIEWED = 60;

/** What a route that looks records up would do over many samples; nothing but look-ups is sent. */
export interface FoundOverview {
  /** Samples that were looked at, at most {@link OVERVIEWED}. */
  looked: number;
  /** Calls by what would come of them. */
  made: number;
  changed: number;
  unchanged: number;
  left: number;
  /** What kept samples from going on, each in a sentence, with how many. */
  problems: { message: string; samples: number }[];
  /** What would be written over, line by line, those that change most first. */
  lines: {
    callId: string;
    lineId: string;
    /** The target's field. */
    field: string;
    /** Records in which it would change something that is there, and in which it would fill what is blank. */
    overwrites: number;
    fills: number;
    examples: { sampleId: string; before: Json | null; after: Json }[];
  }[];
}

/** What a target answered to a look-up that was asked on the spot. */
export interface LookView {
  /** As it was sent, secrets masked; empty where it could not be asked. */
  request: string;
  status: number | null;
  message: string;
  /** Its answer; null where there is none, or no JSON. */
  answer: Json;
  /** Records in it that are what was looked for, as it is composed. */
  found: number;
  /** What was looked for. */
  wanted: Json;
}

/** What one sample sends, call by call: looked up only, or really sent. */
export interface RunView {
  asks: AskView[];
  done: Done[];
  /** What keeps it from going on. */
  problems: { code: string; message: string }[];
}

/** A real try of a draft with one sample. */
export interface TrialView extends RunView {
  sampleId: string;
  at: string;
  /** The revision of the draft that was tried. */
  revision: number;
}

/** What sending recorded submissions would do. */
export interface RecordedPreview {
  /** The live version that this is about, and when it was looked at, ISO 8601. */
  version: number;
  asOf: string;
  /** Submissions that are meant, and those of them that were looked at. */
  total: number;
  looked: number;
  /** Of those looked at: left out by the condition; delivered before; on their way; held or dead letters. */
  leftOut: number;
  delivered: number;
  underWay: number;
  troubled: number;
  /** Of those looked at that would be sent for the first time: all, and those that would be held as the mapping stands. */
  fresh: number;
  held: number;
  /** Why, the commonest first. */
  reasons: { message: string; count: number }[];
}

/** What a target had against a value, beside the line it is about. */
export interface RefusalView {
  deliveryId: string;
  sampleId: string;
  callId: string;
  lineId: string;
  message: string;
  at: string;
}

/** A draft that was made live, as it was then. */
export interface VersionView {
  number: number;
  /** Who made it live; null where that is not known. */
  by: string | null;
  /** ISO 8601. */
  at: string;
  /** The form that it took, and its name. */
  formId: string;
  formName: string;
  definition: RouteDefinition;
}
