import 'reflect-metadata';
import { everything, type Condition } from '@grammata/core/condition';
import {
  changedChoices,
  ROUTE_FORMAT,
  usualTerms,
  type RouteDefinition,
  type Terms,
  blankPolicies,
  failureChoices,
  noneChoices,
  pageChoices,
  successKinds,
  usualRetries,
  type Retry,
  type Success,
  problemPolicies,
  severalChoices,
  writings,
  type BlankPolicy,
  type Call,
  type Find,
  type Identity,
  type Line,
  type ProblemPolicy,
  type ReadBack,
  type Source,
  type Update,
  type Writing,
} from '@grammata/core/route';
import type { Json } from '@grammata/core/submission';
import type { Step } from '@grammata/core/transform';
import { Type } from 'class-transformer';
import {
  Allow,
  ArrayMaxSize,
  ArrayMinSize,
  Equals,
  IsArray,
  IsBoolean,
  IsIn,
  IsISO8601,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsTimeZone,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { IsCondition } from './isCondition';
import { IsPointer } from './isPointer';
import { IsSource } from './isSource';
import { MayBeLeftOut } from './mayBeLeftOut';

export class StepInput implements Step {
  @IsString() @MaxLength(60) id: string = '';
  @IsObject() params: Record<string, unknown> = {};
  @MayBeLeftOut() @IsBoolean() off?: boolean;
}

export class LineInput implements Line {
  @IsString() @MaxLength(60) id: string = '';
  @IsString() @MaxLength(200) to: string = '';
  @IsSource() source: Source | null = null;
  @IsArray()
  @ArrayMaxSize(40)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => StepInput)
  cleaning: StepInput[] = [];
  @IsIn(blankPolicies) whenBlank: BlankPolicy = 'leaveOut';
  @IsIn(problemPolicies) whenProblem: ProblemPolicy = 'stop';
  @Allow() fallback: Json = '';
  /** What it does to a record that was found. */
  @MayBeLeftOut() @IsIn(writings) writes?: Writing;
  /** Files go as links to copies that Grammata keeps. */
  @MayBeLeftOut() @IsBoolean() copies?: boolean;
  /** Nothing is proposed for it any more. */
  @MayBeLeftOut() @IsBoolean() declined?: boolean;
}

/** Which record an operation is about. */
export class RecordInput implements Update, ReadBack {
  @IsString() @MaxLength(200) operationId: string = '';
  @IsString() @MaxLength(200) to: string = '';
  @IsPointer() from: string = '';
}

export class FindInput implements Find {
  @IsString() @MaxLength(200) operationId: string = '';
  @ValidateNested() @Type(() => LineInput) line: LineInput = new LineInput();
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(100)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => LineInput)
  lines?: LineInput[];
  @MayBeLeftOut() @IsBoolean() readsOnly?: boolean;
  @IsPointer() list: string = '';
  @IsPointer() equals: string = '';
  @MayBeLeftOut() @IsBoolean() takesAny?: boolean;
  @IsIn(noneChoices) whenNone: Find['whenNone'] = 'create';
  @IsIn(severalChoices) whenSeveral: Find['whenSeveral'] = 'hold';
  @IsOptional() @ValidateNested() @Type(() => RecordInput) update: RecordInput | null = null;
}

/** What identifies a call's record, found or made. */
export class IdentityInput implements Identity {
  @IsPointer() found: string = '';
  @IsPointer() made: string = '';
}

/** Which refusals pass, and how often a request is made. */
export class RetryInput implements Retry {
  @ValidateIf((_, value) => value !== null) @IsInt() @Min(1) @Max(1000) tries: number | null = null;
  @IsArray()
  @ArrayMaxSize(50)
  @IsInt({ each: true })
  @Min(400, { each: true, message: 'Use statuses from 400 to 599.' })
  @Max(599, { each: true, message: 'Use statuses from 400 to 599.' })
  statuses: number[] = [...usualRetries];
}

/** How a response says that a request succeeded. */
export class SuccessInput implements Success {
  @IsIn(successKinds) by: Success['by'] = 'status';
  @IsPointer() pointer: string = '';
  @ValidateIf((_, value) => value !== null)
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  values: string[] | null = null;
}

export class CallInput implements Call {
  /** Stands in keys that refer to its answer. */
  @IsString() @Matches(/^[\w-]{1,60}$/) id: string = '';
  @MayBeLeftOut() @IsString() @MaxLength(80, { message: 'Enter a name of up to 80 characters.' }) name?: string;
  @IsString() @MaxLength(60) targetId: string = '';
  @IsString() @MaxLength(200) operationId: string = '';
  @IsArray()
  @ArrayMaxSize(500)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => LineInput)
  lines: LineInput[] = [];
  @IsOptional() @IsCondition() condition?: Condition | null;
  @IsOptional() @IsString() @MaxLength(500) repeat?: string | null;
  @MayBeLeftOut() @IsIn(failureChoices) whenFailed?: 'stop' | 'passOver';
  @IsOptional() @ValidateNested() @Type(() => FindInput) find?: FindInput | null;
  @IsOptional() @ValidateNested() @Type(() => IdentityInput) identity?: IdentityInput | null;
  @IsOptional() @ValidateNested() @Type(() => RecordInput) readBack?: RecordInput | null;
  @IsOptional() @ValidateNested() @Type(() => RetryInput) retry?: RetryInput | null;
  @IsOptional() @IsIn(pageChoices) pages?: (typeof pageChoices)[number] | null;
  @IsOptional() @ValidateNested() @Type(() => SuccessInput) success?: SuccessInput | null;
}

/** The terms of delivery. */
export class TermsInput implements Terms {
  /** For how many hours a call that fails in passing is tried again; 0 tries it once. */
  @IsNumber({ allowNaN: false, allowInfinity: false }) @Min(0) @Max(720) hours: number = usualTerms.hours;
  /** True when the draft has to be tried for real, and read back without loss, before it goes live. */
  @MayBeLeftOut() @IsBoolean() needsTrial?: boolean;
  /** What is done with what comes while a change of the form is open. */
  @MayBeLeftOut() @IsIn(changedChoices) whenChanged?: (typeof changedChoices)[number];
  /** For how many hours it is held at most. */
  @MayBeLeftOut() @IsNumber({ allowNaN: false, allowInfinity: false }) @Min(1) @Max(2160) holdHours?: number;
  /** IANA name of the zone in which the form's people write their times. */
  @IsTimeZone() timeZone: string = usualTerms.timeZone;
}

/** What a route does, as it is edited, frozen and handed on. */
export class DefinitionInput implements RouteDefinition {
  @Equals(ROUTE_FORMAT, { message: `Only format ${ROUTE_FORMAT} is supported.` }) format: typeof ROUTE_FORMAT =
    ROUTE_FORMAT;
  @IsString() @Length(1, 120) name: string = '';
  @IsCondition() condition: Condition = everything;
  /** In the order in which they are made. */
  @IsArray()
  @ArrayMinSize(1, { message: 'A route needs at least one call.' })
  @ArrayMaxSize(20)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => CallInput)
  calls: CallInput[] = [];
  @ValidateNested() @Type(() => TermsInput) terms: TermsInput = new TermsInput();
}

/** An edit of a route. */
export class DraftInput {
  @IsObject() @ValidateNested() @Type(() => DefinitionInput) definition: DefinitionInput = new DefinitionInput();
  /** The revision this edit was made on; a newer one on the server refuses it. */
  @IsInt() @Min(0) revision: number = 0;
}

/** Which recorded submissions of a route's form are meant: all that fit everything that is said. */
export class SelectionInput {
  /** These, and no others. */
  @MayBeLeftOut() @IsArray() @ArrayMaxSize(5000) @IsString({ each: true }) sampleIds?: string[];
  /** Those of one arrival, such as an uploaded file. */
  @MayBeLeftOut() @IsString() @MaxLength(60) arrivalId?: string;
  /** Those that hold this text. */
  @MayBeLeftOut() @IsString() @MaxLength(200) search?: string;
  /** Those that arrived from one time on, and before another; ISO 8601. */
  @MayBeLeftOut() @IsISO8601({ strict: true }) since?: string;
  @MayBeLeftOut() @IsISO8601({ strict: true }) until?: string;
}

/** Sends what is recorded through a live route. */
export class SendRecordedInput {
  @IsObject() @ValidateNested() @Type(() => SelectionInput) selection: SelectionInput = new SelectionInput();
  /** True sends those once more that were delivered already: a person insists. */
  @IsBoolean() again: boolean = false;
  /** The live version that this was shown for: another is refused. Left out by who was shown none. */
  @MayBeLeftOut() @IsInt() @Min(1) version?: number;
  /** When it was shown, ISO 8601: what arrived later is not meant. */
  @MayBeLeftOut() @IsISO8601({ strict: true }) asOf?: string;
}

/** A look-up that is asked on the spot, as it is being composed. */
export class LookInput {
  @IsString() @MaxLength(60) sampleId: string = '';
  @IsString() @Matches(/^[\w-]{1,60}$/) callId: string = '';
  @IsOptional() @ValidateNested() @Type(() => FindInput) find: FindInput | null = null;
}

/** What is done with a draft as it was shown. */
export class ShownDraftInput {
  /** The revision of the draft that it was shown for: another is refused. Left out by who was shown none. */
  @MayBeLeftOut() @IsInt() @Min(0) revision?: number;
}

/** Which sample a draft is run for; really sent, or only looked up. */
export class RunInput extends ShownDraftInput {
  @IsString() @MaxLength(60) sampleId: string = '';
  @IsBoolean() send: boolean = false;
}
