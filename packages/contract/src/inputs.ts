import 'reflect-metadata';
import { usualPace, usualPatience, type Pace, type Patience } from '@grammata/core/perform';
import { authKinds, type Auth } from '@grammata/core/target';
import { Transform, Type } from 'class-transformer';
import {
  IsBoolean,
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO8601,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsTimeZone,
  IsUrl,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { IsAddressRange } from './isAddressRange';
import { FeedInput } from './feed';
import { MayBeLeftOut } from './mayBeLeftOut';
import { readingKinds, type ReadingKind } from './readingKinds';
import { IsTargetAddress } from './isTargetAddress';
import { RecipeInput } from './recipe';
import { VerificationInput } from './verification';
import { Whole } from './whole';

/** The owner's account, made at the first start. */
export class SetupInput {
  @IsString() @Length(1, 80, { message: 'Enter a name of up to 80 characters.' }) name: string = '';
  @IsString() @MinLength(10, { message: 'Use at least 10 characters.' }) @MaxLength(200) password: string = '';
  /** What the server printed at its first start: whoever can read its console may make the account. */
  @IsString() @Length(1, 100, { message: 'Enter the setup token that the server printed.' }) token: string = '';
}

export class SignInInput {
  @IsString() @MaxLength(200) password: string = '';
}

export const replyKinds = ['accepted', 'ok', 'page', 'redirect', 'answer'] as const;
export type ReplyKind = (typeof replyKinds)[number];

const sizes = 'Enter a size from 0.002 to 1,073 MB.';

const headerName = /^[!#$%&'*+.^_`|~0-9A-Za-z-]+$/;

const isOAuth = ({ kind }: { kind: string }) => kind === 'oauth' || kind === 'consent';
const isConsent = ({ kind }: { kind: string }) => kind === 'consent';
const isHmac = ({ kind }: { kind: string }) => kind === 'hmac';

/** How a target is shown who asks; the secret goes beside it. */
export class AuthInput {
  @IsIn(authKinds) kind: Auth['kind'] = 'bearer';
  /** The user's name for HTTP Basic. */
  @ValidateIf((auth: AuthInput) => auth.kind === 'basic')
  @Matches(/^[^:\r\n]+$/, { message: 'Enter a user name without a colon.' })
  @MaxLength(200)
  user?: string;
  /** The header or parameter that carries the key. */
  @ValidateIf(({ kind }: AuthInput) => kind === 'header' || kind === 'query' || kind === 'hmac')
  @Matches(headerName, { message: 'Enter a name without spaces.' })
  @MaxLength(100)
  name?: string;
  /** OAuth 2: where consent is given. */
  @ValidateIf(isConsent)
  @IsUrl(
    { require_tld: false, protocols: ['http', 'https'], require_protocol: true },
    { message: 'Enter a URL that starts with http:// or https://.' },
  )
  authorizeUrl?: string;
  /** OAuth 2: where tokens are had, for which client, and where the client shows itself. */
  @ValidateIf(isOAuth)
  @IsUrl(
    { require_tld: false, protocols: ['http', 'https'], require_protocol: true },
    { message: 'Enter a URL that starts with http:// or https://.' },
  )
  tokenUrl?: string;
  @ValidateIf(isOAuth) @Length(1, 200, { message: 'Enter the client ID.' }) clientId?: string;
  @ValidateIf(isOAuth) @MayBeLeftOut() @IsString() @MaxLength(500) scope?: string;
  @ValidateIf(isOAuth) @MayBeLeftOut() @IsIn(['header', 'body']) clientIn?: 'header' | 'body';
  /** HMAC over the body. */
  @ValidateIf(isHmac) @IsIn(['sha1', 'sha256', 'sha512']) algorithm?: 'sha1' | 'sha256' | 'sha512';
  @ValidateIf(isHmac) @IsIn(['hex', 'base64']) encoding?: 'hex' | 'base64';
  @ValidateIf(isHmac) @MayBeLeftOut() @Matches(/^[\x20-\x7e]*$/) @MaxLength(40) prefix?: string;
}

/** Credentials for the files that submissions link to. They go to this host and no other, whatever a submission says. */
export class FileAccessInput {
  @Matches(/^[a-z0-9.-]+(:\d+)?$/i, { message: 'Enter a host such as files.example.org.' })
  @MaxLength(250)
  host: string = '';
  @IsIn(['bearer', 'basic', 'header', 'query']) kind: 'bearer' | 'basic' | 'header' | 'query' = 'bearer';
  /** The user's name, or that of the header or parameter. */
  @MayBeLeftOut() @Matches(/^[^:\r\n]*$/) @MaxLength(200) name?: string;
  /** Left out, the stored one stays. Never sent back. */
  @MayBeLeftOut() @IsString() @MaxLength(4000) @Matches(/^[\x20-\x7e]*$/) secret?: string;
}

export class IntakeInput {
  @IsString() @Length(1, 80, { message: 'Enter a name of up to 80 characters.' }) name: string = '';
  /** Bytes. */
  @MayBeLeftOut()
  @IsInt({ message: sizes })
  @Min(1024, { message: sizes })
  @Max(1073741824, { message: sizes })
  sizeLimit?: number;
  @MayBeLeftOut() @IsIn(['open', 'stopped']) state?: 'open' | 'stopped';
  @MayBeLeftOut() @IsIn(replyKinds) reply?: ReplyKind;
  /** Text of the thank-you page, the address to redirect to, or what is told of a target's answer. */
  @MayBeLeftOut() @IsString() @MaxLength(2000) replyText?: string;
  /** What a sender who waits is told where the target refuses; empty for nothing but that it arrived. */
  @MayBeLeftOut() @IsString() @MaxLength(2000) refusalText?: string;
  /** Seconds that a sender waits for a target's answer. */
  @MayBeLeftOut() @Whole(1, 55) replyWait?: number;
  /** Null takes requests from anyone who knows the address. */
  @IsOptional() @ValidateNested() @Type(() => VerificationInput) verification?: VerificationInput | null;
  /** Addresses or ranges that may send, such as 192.0.2.0/24; empty for all. */
  @MayBeLeftOut() @IsArray() @ArrayMaxSize(100) @IsAddressRange({ each: true }) allowedAddresses?: string[];
  /** Sites whose pages may post from a browser, such as https://basin.example.org, or *; empty for none. */
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(50)
  @Matches(/^(\*|https?:\/\/[^\s/]+)$/, {
    each: true,
    message: 'Enter origins such as https://basin.example.org, or *.',
  })
  allowedOrigins?: string[];
  /** Null stops reading a feed. */
  @IsOptional() @ValidateNested() @Type(() => FeedInput) feed?: FeedInput | null;
  /** How the builder is shown who fetches a file; null shows nobody. */
  @IsOptional() @ValidateNested() @Type(() => FileAccessInput) fileAccess?: FileAccessInput | null;
  /** Days after which what arrived is deleted; null keeps it. */
  @IsOptional() @Whole(1, 3650, ', or leave empty to keep them') keepDays?: number | null;
  /** Seconds within which the same bytes count as the same submission; 0 for never. */
  @MayBeLeftOut() @Whole(0, 86400) sameWithin?: number;
  /** True where PUT and PATCH are taken like POST: some builders send what was changed that way. */
  @MayBeLeftOut() @IsBoolean() takesPut?: boolean;
}

/** A message the built-in sender sends to an intake, over HTTP like anyone else. */
export class SendInput {
  @IsIn(['POST', 'GET']) method: 'POST' | 'GET' = 'POST';
  @IsString() @MaxLength(200) @Matches(/^[^\r\n]*$/) contentType: string = 'application/json';
  @IsString() @MaxLength(1048576) body: string = '';
  @IsString() @MaxLength(4000) query: string = '';
}

/** How long a target's answers are waited for, in seconds. */
export class PatienceInput implements Patience {
  @Whole(1, 120) connect: number = usualPatience.connect;
  @Whole(1, 900) firstByte: number = usualPatience.firstByte;
  @Whole(1, 3600) whole: number = usualPatience.whole;
}

/** How much is asked of a target at once, and when it is left alone. */
export class PaceInput implements Pace {
  @Whole(1, 64) concurrency: number = usualPace.concurrency;
  /** Null for as many as go. */
  @ValidateIf((_, value) => value !== null)
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'Enter a number, or leave empty for no limit.' })
  @Min(0.01, { message: 'Give 0.01 to 1,000.' })
  @Max(1000, { message: 'Give 0.01 to 1,000.' })
  perSecond: number | null = usualPace.perSecond;
  /** Failures in a row after which it is parked; 0 for never. */
  @Whole(0, 1000) parkAfter: number = usualPace.parkAfter;
}

export class TargetInput {
  @IsString() @Length(1, 80, { message: 'Enter a name of up to 80 characters.' }) name: string = '';
  /** A folder may be given by its name alone. */
  @Transform(({ value, obj }: { value: unknown; obj: { reads?: unknown } }) =>
    obj.reads === 'files' && typeof value === 'string' && /^[a-z\d][a-z\d-]*$/.test(value) ? `file://${value}` : value,
  )
  @IsTargetAddress()
  baseUrl: string = '';
  @IsIn(readingKinds) reads: ReadingKind = 'tables';
  /** Where the target lists its tables and columns, or takes GraphQL, below the base address; a document may stand anywhere. */
  @Matches(/^(\/|https?:\/\/)\S*$/i, { message: 'Start the path with “/”, or enter a whole URL.' })
  @MaxLength(2000)
  discoveryPath: string = '/tables';
  @MayBeLeftOut() @ValidateNested() @Type(() => AuthInput) auth?: AuthInput;
  /** The document or the example itself, or files with their columns; null where it is had from the target. */
  @IsOptional() @IsString() @MaxLength(20_000_000, { message: 'Use at most 20 MB.' }) document?: string | null;
  /** Where a list of tables has what, where that is not the usual. */
  @IsOptional() @ValidateNested() @Type(() => RecipeInput) recipe?: RecipeInput | null;
  /** Null waits for answers as long as is usual. */
  @IsOptional() @ValidateNested() @Type(() => PatienceInput) patience?: PatienceInput | null;
  /** Null asks as much of it as is usual. */
  @IsOptional() @ValidateNested() @Type(() => PaceInput) pace?: PaceInput | null;
  /** Another installation to try things on, and its secret; null where there is none. */
  @IsOptional()
  @IsUrl(
    { require_tld: false, protocols: ['http', 'https'], require_protocol: true },
    { message: 'Enter a URL that starts with http:// or https://.' },
  )
  tryBaseUrl?: string | null;
  @MayBeLeftOut()
  @IsString()
  @MaxLength(4000)
  @Matches(/^[\x20-\x7e]*$/, { message: 'Use letters, digits and signs of ASCII only, without line breaks.' })
  tryToken?: string;
  /** True where what tells who people are may go there. */
  @MayBeLeftOut() @IsBoolean() takesPersonal?: boolean;
  /** True where it knows idempotency keys: what is sent twice is made once. */
  @MayBeLeftOut() @IsBoolean() knowsKeys?: boolean;
  /** True where it takes the names of options that have an identifier, too. */
  @MayBeLeftOut() @IsBoolean() takesNames?: boolean;
  /** The token, password or key; left out, the stored one stays. Never sent back. */
  @MayBeLeftOut()
  @IsString()
  @MaxLength(4000)
  @Matches(/^[\x20-\x7e]*$/, { message: 'Use letters, digits and signs of ASCII only, without line breaks.' })
  token?: string;
}

export class RouteInput {
  @IsString() @Length(1, 120, { message: 'Enter a name of up to 120 characters.' }) name: string = '';
  @IsString() @Length(1, 60, { message: 'Choose a form.' }) formId: string = '';
  @IsString() @MaxLength(60) targetId: string = '';
  @IsString() @Length(1, 200, { message: 'Choose an operation.' }) operationId: string = '';
  /** Zone of times without one (IANA): that of whoever draws the route; left out, the usual. */
  @MayBeLeftOut() @IsTimeZone() timeZone?: string;
}

/** Deliveries that are alike: what the list of deliveries is filtered by. */
export class DeliveryFilterInput {
  @IsIn(['held', 'dead', 'delivered']) state: 'held' | 'dead' | 'delivered' = 'dead';
  @MayBeLeftOut() @IsString() @MaxLength(60) routeId?: string;
  /** Those of versions that call it. */
  @MayBeLeftOut() @IsString() @MaxLength(60) targetId?: string;
  /** Those of the submissions of one arrival. */
  @MayBeLeftOut() @IsString() @MaxLength(60) arrivalId?: string;
  /** Those that were begun from one time on, and before another; ISO 8601. */
  @MayBeLeftOut() @IsISO8601({ strict: true }, { message: 'Use a time such as 2026-11-04T00:00:00Z.' }) since?: string;
  @MayBeLeftOut() @IsISO8601({ strict: true }, { message: 'Use a time such as 2026-11-04T00:00:00Z.' }) until?: string;
  /** Those that hold all of these words. */
  @MayBeLeftOut() @IsString() @MaxLength(200) search?: string;
}

/** Which deliveries to send again, each by itself or all that are alike, and with which mapping. */
export class ResendInput {
  @IsArray() @ArrayMaxSize(1000) @IsString({ each: true }) ids: string[] = [];
  /** The state in which each was shown, by its identifier: one that is in another by now is left. Left out by who was shown none. */
  @MayBeLeftOut() @IsObject() states?: Record<string, string>;
  /** In place of single ones; this may take long. */
  @MayBeLeftOut() @IsObject() @ValidateNested() @Type(() => DeliveryFilterInput) filter?: DeliveryFilterInput;
  /** Of all that are alike, none that began after this one: the newest there was when they were shown. */
  @MayBeLeftOut() @IsString() @MaxLength(60) upTo?: string;
  /** The mapping of that day, or today's live one. */
  @IsIn(['then', 'now']) mapping: 'then' | 'now' = 'now';
}
