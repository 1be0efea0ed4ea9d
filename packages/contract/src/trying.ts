import { ArrayMaxSize, IsArray, IsBoolean, IsString, MaxLength } from 'class-validator';
import type { Done } from '@grammata/core/perform';
import type { Difference, RecordedAnswers } from '@grammata/core/proof';
import { ShownDraftInput } from './routeInputs';
import type { AskView, RunView } from './routeViews';

/** Most samples that are tried in one batch. */
export const MOST_TRIED = 60;

/** The sample that is tried a request at a time. */
export class WalkInput extends ShownDraftInput {
  @IsString() @MaxLength(60) sampleId: string = '';
}

/** A draft under way for one sample: what was asked, and what would be asked next. */
export interface WalkView extends RunView {
  id: string;
  /** Not made yet; null where none is left, or one was refused. */
  next: AskView | null;
}

/** What is tried on the side to try things on, one after the other. */
export class BatchInput extends ShownDraftInput {
  /** The sample that variants are made of. */
  @IsString() @MaxLength(60) sampleId: string = '';
  /** Identifiers of ideas; `recorded` is the sample as it is. */
  @IsArray() @ArrayMaxSize(40) @IsString({ each: true }) ideas: string[] = [];
  /** Whether the samples of the route’s proofs are tried, too. */
  @IsBoolean() proofs: boolean = false;
}

/** How one sample of a batch fared. */
export interface BatchItem {
  name: string;
  why: string;
  /** fine: all was taken, and is stored as it was sent, where that was looked at. otherwise: taken, but something else is stored. */
  fate: 'fine' | 'otherwise' | 'refused' | 'held' | 'leftOut';
  words: string;
  asks: AskView[];
  done: Done[];
  /** Of a proof: what the targets really answered, and what would be sent otherwise than approved with that. */
  proof?: { id: string; answers: RecordedAnswers; differences: Difference[] };
}

/** One report over a batch. */
export interface BatchView {
  /** ISO 8601. */
  at: string;
  by: string;
  /** The revision of the draft that was tried. */
  revision: number;
  /** How many were to be tried: it may have been stopped. */
  wanted: number;
  items: BatchItem[];
}

/** A recorded sample, sent once more to its intake. */
export class AsBuilderInput {
  /** True to give it an identifier of its own: it is delivered like any other. */
  @IsBoolean() fresh: boolean = true;
}

/** What an intake answered to a sample that was sent to it as its builder does. */
export interface AsBuilderView {
  method: string;
  /** The head that was sent, secrets masked. */
  head: string;
  status: number;
  body: string;
  /** The identifier that it was given; null where it was sent as it came. */
  identifier: string | null;
}
