import { patterns, type Loose, type Pattern, type Proof } from '@grammata/core/proof';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO8601,
  IsObject,
  IsString,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsPointer } from './isPointer';
import { MayBeLeftOut } from './mayBeLeftOut';
import { ShownDraftInput } from './routeInputs';

/** Most proofs of one route. */
export const MOST_PROOFS = 2000;
/** Most places of one proof that are not held to the letter. */
const MOST_LOOSE = 200;

/** A place whose value is not held to the letter. */
export class LooseInput implements Loose {
  @IsString() @MaxLength(60) callId: string = '';
  @IsPointer() pointer: string = '';
  @IsIn(patterns) pattern: Pattern = 'text';
}

/** Samples whose rehearsal is approved as the draft gives it now. */
export class ApproveInput extends ShownDraftInput {
  @IsArray()
  @ArrayMinSize(1, { message: 'Choose a sample.' })
  @ArrayMaxSize(MOST_PROOFS, { message: `A route has at most ${MOST_PROOFS} proofs.` })
  @IsString({ each: true })
  sampleIds: string[] = [];
}

/** Some proofs of a route. */
export class ProofsInput {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST_PROOFS) @IsString({ each: true }) ids: string[] = [];
}

/** Proofs that are accepted as the draft gives them now. */
export class AcceptInput extends ProofsInput implements ShownDraftInput {
  /** The revision of the draft that they were shown for: another is refused. Left out by who was shown none. */
  @MayBeLeftOut() @IsInt() @Min(0) revision?: number;
  /** Their marks as they were shown, by their identifiers: one with another is refused. Left out by who was shown none. */
  @MayBeLeftOut() @IsObject() marks?: Record<string, string>;
}

/** Has a proof hold what was answered in a batch. */
export class TakeAnswersInput {
  /** When the batch began whose answers were shown, ISO 8601: another is refused. Left out by who was shown none. */
  @MayBeLeftOut() @IsISO8601({ strict: true }) at?: string;
}

/** Places of a proof whose values are not held to the letter. */
export class LoosenInput {
  @IsArray()
  @ArrayMaxSize(MOST_LOOSE, { message: `A proof can accept any value in at most ${MOST_LOOSE} places.` })
  @ValidateNested({ each: true })
  @Type(() => LooseInput)
  loose: LooseInput[] = [];
}

/** An approved rehearsal, to be held against every edit. */
export interface ProofView extends Proof {
  sampleId: string;
  /** A few answers that tell it from others. */
  name: string;
  /** ISO 8601. */
  at: string;
  by: string;
  /** Another as soon as anything of it is. */
  mark: string;
}

/** Samples that are worth proving: the smallest set that shows whatever any of them does. */
export interface ProposedProofs {
  /** How many were looked at. */
  looked: number;
  samples: { sampleId: string; name: string; shows: string[]; isProved: boolean }[];
  /** What no sample shows. */
  uncovered: string[];
}
