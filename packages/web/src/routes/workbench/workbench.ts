import type { CallInput, RouteTarget, RouteView } from '@grammata/contract';
import type { LineProposal } from '@grammata/core/match';
import type { RehearsalSummary, RouteRehearsal, Sample } from '@grammata/core/rehearse';
import type { CompiledCall } from '@grammata/core/request';
import type { Scope } from '@grammata/core/scope';
import type { Operation } from '@grammata/core/target';
import type { Editing } from '../draft';
import type { Offered } from './references';

/** A recorded submission as a call sees it: with the item it repeats for, and answers as they may look. */
export interface Seen extends Sample {
  /** By it the rehearsal is asked about this sample. */
  place: number;
  /** Of a variant, and of a sample that was named. */
  name: string | null;
  isVariant: boolean;
  scope: Scope;
}

/** What is known of the samples as a whole. */
export interface Stock {
  /** Recorded submissions that are here, variants apart; and all that there are. */
  recorded: number;
  total: number;
  /** How the route fares over those that are here; null until they are rehearsed. */
  fares: { going: number; sendable: number } | null;
  /** True while the draft was edited since it was rehearsed: a newer rehearsal is under way. */
  isOlder: boolean;
  /** loading: more are to come. failed: they could not be had; `fault` says why. */
  state: 'loading' | 'all' | 'failed';
  fault: string | null;
  again(): void;
}

/** The call that is looked at, its place among all, and where it goes. */
export interface CallAtHand {
  call: CallInput;
  callAt: number;
  target: RouteTarget | null;
  operation: Operation | null;
  compiled: CompiledCall | null;
  /** Shows another call. */
  showCall(id: string): void;
  operationOf(call: CallInput): Operation | null;
  targetOf(call: CallInput): RouteTarget | null;
}

/** The sample that is looked at, and the ways to others. */
export interface Walk {
  /** All that are here, each as the call sees it first: the newest first, variants last. */
  samples: Seen[];
  sample: Seen | null;
  /** True where the address names a sample that is not here. */
  absent: boolean;
  /** Place of the sample among all, from 0; -1 where it is not here. */
  at: number;
  /** For a call that repeats: which item of the sample is looked at, of how many. Zero: the call is not made for it. */
  items: { at: number; count: number; show(at: number): void };
  show(index: number): void;
  showSample(id: string): void;
  /** Shows the sample that the rehearsal knows by its place. */
  showPlace(place: number): void;
  /** The next sample in trouble, on one line or any. */
  nextInTrouble(lineIndex?: number): void;
  /** The next sample that answers otherwise: for one line, or in any question that a line draws on. */
  nextThatDiffers(lineIndex?: number): void;
}

/** What can be referred to, and what is proposed. */
export interface Offers {
  references: Offered[];
  labelOf(key: string): string;
  /** What could fill the target's fields, by their keys, whether anything fills them or not. */
  proposals: Map<string, LineProposal>;
}

/** What is known of a route that is open, by parts: each is read by those that need it. */
export interface Parts {
  route: { route: RouteView };
  /** The draft, under the hands. */
  editing: { editing: Editing };
  call: CallAtHand & {
    /** Changes the call that is looked at. */
    editCall(change: (call: CallInput) => CallInput): void;
  };
  walk: Walk;
  offers: Offers & {
    /** Questions that the newest submissions do not ask any more. */
    gone: Set<string>;
  };
  rehearsed: {
    stock: Stock;
    /** How the call fares, and the route with all its calls: over the samples by their `place`. */
    rehearsal: RehearsalSummary | null;
    run: RouteRehearsal | null;
  };
}

export type Part = keyof Parts;
