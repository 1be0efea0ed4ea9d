import {
  formSuppositions,
  repairWays,
  targetSuppositions,
  wholeSuppositions,
  type AnswerChange,
  type DocumentChangeKind,
  type FormChangeKind,
  type FormSupposition,
  type RepairWay,
  type TargetSupposition,
  type WholeSupposition,
} from '@grammata/core/drift';
import type { LinePlace, LineResult } from '@grammata/core/drift';
import type { RouteDefinition, Use } from '@grammata/core/route';
import type { Json } from '@grammata/core/submission';
import { IsIn, IsString, MaxLength } from 'class-validator';
import { MayBeLeftOut } from './mayBeLeftOut';

export const changeStates = ['open', 'settled', 'declined'] as const;

/** What somebody decided about a change. */
export class ChangeInput {
  @IsIn(changeStates) state: (typeof changeStates)[number] = 'open';
}

/** The route that a repair is for. */
export class RepairInput {
  @IsString() @MaxLength(60) routeId: string = '';
  /** The mark of the repair that was shown; left out to be shown one. */
  @MayBeLeftOut() @IsString() @MaxLength(60) mark?: string;
  /** Which of the ways; left out for the first. */
  @MayBeLeftOut() @IsIn(repairWays) way?: RepairWay['way'];
  /** What a person says for a way that asks for a value. */
  @MayBeLeftOut() @IsString() @MaxLength(2000) value?: string;
}

export const holdDecisions = ['hold', 'deliver'] as const;

/** What somebody decided for one route while a change is open. */
export class HoldInput {
  @IsString() @MaxLength(60) routeId: string = '';
  /** hold: what it touches waits. deliver: what comes goes, and what waits for it. */
  @IsIn(holdDecisions) decision: (typeof holdDecisions)[number] = 'hold';
}

/** A delivery that went without an answer. */
export interface LackingDelivery {
  id: string;
  about: string;
}

/** What a change does to one route. */
export interface ChangeTouch {
  routeId: string;
  name: string;
  state: 'draft' | 'live' | 'paused';
  /** Of what is live; null for a draft. */
  version: number | null;
  touch: 'breaks' | 'risks' | 'harmless';
  uses: (Use & { /** The target's field, for a line. */ to: string | null })[];
  /** Of the newest submissions that pass the filter, those that can't be sent because of it. */
  held: number;
  looked: number;
  /** Deliveries held because of it since it was seen, the newest MOST_HELD at most. */
  deliveries: string[];
  /** Deliveries that the target rejected because of it, the newest MOST_HELD at most. */
  failed: string[];
  /** True where what comes is held while the change is open. */
  holds: boolean;
  /** For how many hours at most; null until somebody decides. */
  holdHours: number | null;
  /** Deliveries that went without an answer that the route uses, the first MOST_HELD at most. */
  lacking: LackingDelivery[];
  /** Submissions that the filter left out since it asks for what changed, the first MOST_HELD at most. */
  leftOut: LeftOut[];
  /** True where sending one again updates the records that it made before. */
  completes: boolean;
  proofs: number;
}

/** A submission of which a route made no delivery, and whether what is live by now lets it through. */
export interface LeftOut {
  sampleId: string;
  arrivalId: string;
  about: string;
  goes: boolean;
}

/** Most deliveries of a kind that are told for one change and route. */
export const MOST_HELD = 100;

/** A change that was seen in a form or a target. */
export interface ChangeView {
  id: string;
  /** The same for changes that are one: they are listed as one entry, and counted once. */
  cause: string;
  subject: 'form' | 'target';
  subjectId: string;
  subjectName: string;
  /** Where a form's submissions arrive. */
  place: string | null;
  change: FormChangeKind | DocumentChangeKind | AnswerChange['change'] | 'silent' | 'flood' | 'another-form';
  /** The question’s key as it was stated; null where it is about no single one. */
  key: string | null;
  /** What people call the question. */
  question: string | null;
  operation: string | null;
  field: string | null;
  was: Json;
  now: Json;
  /** An answer before and one since. */
  before: Json;
  after: Json;
  /** The last message before and the first since, by the arrivals' identifiers; null where they are not both there. */
  messages: { before: string; after: string } | null;
  /** When it was seen first, and last; ISO 8601. */
  firstAt: string;
  lastAt: string;
  /** Submissions since then; null for a target. */
  since: number | null;
  state: (typeof changeStates)[number];
  by: string | null;
  settledAt: string | null;
  /** The worst that it does to any route. */
  touch: ChangeTouch['touch'];
  touches: ChangeTouch[];
}

export interface ChangesView {
  changes: ChangeView[];
  open: number;
}

/** What is to be done about a change in one route's draft. */
export interface RepairedView {
  /** The ways to mend it, the likeliest first; none where there is nothing to mend, or nothing that mends it. */
  ways: (Omit<RepairWay, 'repair'> & { /** Why what was said for it is not taken. */ fault: string | null })[];
  /** The one that is shown. */
  way: RepairWay['way'] | null;
  /** Null where there is none, or it needs to be told a value first. */
  repair: RepairView | null;
  /** True where the draft does already what mends what is live. */
  isDrafted: boolean;
}

/** A repair of one route, and how it fares. */
export interface RepairView {
  words: string[];
  /** What people call the questions, by their keys. */
  labels: Record<string, string>;
  definition: RouteDefinition;
  /** The draft as it stands. */
  draft: RouteDefinition;
  /** Another as soon as the draft or the repair is. */
  mark: string;
  /** Over the newest submissions, as it stands and repaired: those that the filter lets through, and of them those that can't be sent. */
  samples: { looked: number; held: number; lookedThen: number; heldThen: number };
  /** The lines that it changes, with the target's field of each. */
  lines: (LinePlace & { to: string })[];
  /** What they give for these submissions, the newest first; null for a submission that makes no such request. */
  tried: { receivedAt: string; stands: (LineResult | null)[]; then: (LineResult | null)[] }[];
  /** Proofs that differ, as it stands and repaired; and of the latter those that differ only by the repair, and are accepted with it. */
  proofs: { total: number; differing: number; differingThen: number; accepted: number };
}

const supposed = [formSuppositions, wholeSuppositions, targetSuppositions].flatMap(each => Object.keys(each));
/** Longest message that may be supposed, in characters. */
export const LONGEST_SUPPOSED = 200_000;

/** A change that nobody made yet. */
export class SupposeInput {
  @IsIn(['form', 'target']) subject: 'form' | 'target' = 'form';
  @IsString() @MaxLength(60) subjectId: string = '';
  /** Of a target: its operation. */
  @IsString() @MaxLength(200) operationId: string = '';
  /** The key of a question, or of a target's field. */
  @IsString() @MaxLength(300) key: string = '';
  @IsIn(supposed) what: FormSupposition | WholeSupposition | TargetSupposition = 'gone';
  @IsString() @MaxLength(300) option: string = '';
  /** The message in which a form would send. */
  @IsString() @MaxLength(LONGEST_SUPPOSED) message: string = '';
}

/** What would become of a route: over its newest submissions, and its proofs. */
export interface SupposedView {
  routeId: string;
  name: string;
  state: 'draft' | 'live' | 'paused';
  /** In how many places it uses what would be otherwise; of a whole message, how many of the questions that it uses are not in it. */
  uses: number;
  looked: number;
  held: number;
  heldThen: number;
  reasons: string[];
  proofs: number;
  differing: number;
}
