import {
  bodyKinds,
  methods,
  targetTypes,
  type AnswerField,
  type BodyKind,
  type Operation,
  type OwnOperation,
  type TargetField,
  type TargetType,
} from '@grammata/core/target';
import type { Json } from '@grammata/core/submission';
import { Type } from 'class-transformer';
import {
  Allow,
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { MayBeLeftOut } from './mayBeLeftOut';
import { readingKinds, type ReadingKind } from './readingKinds';

const places = ['path', 'query', 'header'] as const;
const formats = ['email', 'addresses', 'uri', 'line'] as const;
const itemKinds = ['number', 'integer', 'boolean'] as const;

/** A field of an operation, as people set it. */
export class OperationFieldInput implements TargetField {
  @IsString() @Length(1, 200, { message: 'Enter a field name.' }) key: string = '';
  @MayBeLeftOut() @IsIn(places) in?: (typeof places)[number];
  @IsString() @MaxLength(1000) pointer: string = '';
  @IsString() @MaxLength(200) label: string = '';
  @IsIn(targetTypes) type: TargetType = 'text';
  @IsBoolean() required: boolean = false;
  @IsBoolean() readOnly: boolean = false;
  @IsOptional() @IsArray() @ArrayMaxSize(2000) @IsString({ each: true }) options: string[] | null = null;
  @MayBeLeftOut() @IsObject() optionNames?: Record<string, string>;
  @MayBeLeftOut() @Allow() fixed?: Json;
  @IsOptional() @IsInt({ message: 'Enter a whole number.' }) @Min(1) @Max(10000000) maxLength: number | null = null;
  @IsOptional() @IsString() @MaxLength(2000) description: string | null = null;
  @MayBeLeftOut() @IsIn(itemKinds) items?: (typeof itemKinds)[number];
  @MayBeLeftOut() @IsIn(formats) format?: (typeof formats)[number];
  @MayBeLeftOut() @IsNumber() minimum?: number;
  @MayBeLeftOut() @IsNumber() maximum?: number;
  @MayBeLeftOut() @IsString() @MaxLength(500) pattern?: string;
}

export class AnswerFieldInput implements AnswerField {
  @IsString() @MaxLength(1000) pointer: string = '';
  @IsString() @MaxLength(200) label: string = '';
  @IsIn(targetTypes) type: TargetType = 'text';
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => AnswerFieldInput)
  items?: AnswerFieldInput[];
}

/** An operation as people set it. Its identifier is given to it when it is new, and stays. */
export class OperationInput implements Operation {
  @IsString() @MaxLength(300) id: string = '';
  @IsString() @Length(1, 200, { message: 'Enter a name.' }) label: string = '';
  @IsIn(methods) method: Operation['method'] = 'POST';
  @IsString() @MaxLength(1000) @Matches(/^\//, { message: 'Start the path with “/”.' }) path: string = '/';
  @MayBeLeftOut() @IsIn(bodyKinds) body?: BodyKind;
  @MayBeLeftOut() @IsBoolean() grows?: boolean;
  @MayBeLeftOut() @IsString() @MaxLength(100) root?: string;
  @IsArray()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => OperationFieldInput)
  fields: OperationFieldInput[] = [];
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(300)
  @ValidateNested({ each: true })
  @Type(() => AnswerFieldInput)
  answer?: AnswerFieldInput[];
  @MayBeLeftOut() @IsBoolean() answersPage?: boolean;
  /** True where it only reads, though it is a POST. */
  @MayBeLeftOut() @IsBoolean() reads?: boolean;
  /** The GraphQL document that is sent. */
  @MayBeLeftOut() @IsString() @MaxLength(100_000) graphql?: string;
}

/** Examples that operations are made from: curl lines, a HAR file, a record. */
export class ExamplesInput {
  @IsString()
  @Length(1, 20_000_000, { message: 'Paste curl commands, a HAR file, or a record in JSON.' })
  text: string = '';
}

/** A document or example to be looked at before a target is made of it. */
export class DocumentInput {
  @IsIn(readingKinds) reads: ReadingKind = 'openapi';
  @IsString() @MaxLength(20_000_000, { message: 'Use at most 20 MB.' }) document: string = '';
}

/** A request to be really made by an operation, with values for its fields. */
export class TryOperationInput {
  @IsString() @MaxLength(300) operationId: string = '';
  @IsObject() values: Record<string, Json> = {};
}

/** An operation in a list of many: what it is found by. */
export interface OperationHead extends Pick<Operation, 'id' | 'label' | 'method' | 'path' | 'body' | 'reads'> {
  /** How many fields it has. */
  fields: number;
  /** Whether people set it otherwise than the source says, or added it. */
  own?: 'changed' | 'added';
}

/** What a target can be asked to do, to be picked from. */
export interface OfferedView {
  id: string;
  name: string;
  reads: ReadingKind;
  operations: OperationHead[];
}

/** One operation of a target. */
export interface OperationView {
  operation: Operation;
  /** What the source says of it, where people set it otherwise. */
  was: OwnOperation['was'];
  own: 'changed' | 'added' | null;
  /** Names of the routes whose calls use it. */
  usedBy: string[];
}

/** What a document or an example says before it is taken. */
export interface DocumentView {
  /** Set where it can’t be read. */
  fault: string | null;
  says: string;
  /** The address it names. */
  baseUrl: string | null;
  /** How it says that is shown who asks, and the secret where it shows one. */
  auth: { kind: string; user?: string; name?: string; tokenUrl?: string } | null;
  secret: string | null;
  /** The text without secrets in it. */
  text: string;
}

/** What a target answers where it lists its tables, to be pointed at. */
export interface ListingView {
  answer: Json;
  /** What it went wrong with; null where it answered with JSON. */
  fault: string | null;
}

/** How a real request of an operation went. */
export interface TestResultView {
  /** As it went out, secrets masked; empty where none was made. */
  request: string;
  status: number | null;
  message: string;
  answer: Json;
}
