import { ArrayMaxSize, IsArray, IsIn, IsString, Matches, MaxLength } from 'class-validator';
import { MayBeLeftOut } from './mayBeLeftOut';
import { Whole } from './whole';

export const verificationKinds = ['header', 'query', 'basic', 'hmac', 'standard'] as const;
/** How a sender proves itself: a secret in a header or the query, HTTP Basic, an HMAC signature, or Standard Webhooks. */
export type VerificationKind = (typeof verificationKinds)[number];

export const signedContents = ['body', 'timestamp.body', 'id.timestamp.body'] as const;
/** What a signature is computed over; parts are joined with a full stop. */
export type SignedContent = (typeof signedContents)[number];

const headerName = /^[A-Za-z0-9!#$%&'*+.^_`|~-]*$/;

/** What an intake checks of each request. Secrets go in and never come out again. */
export class VerificationInput {
  @IsIn(verificationKinds) kind: VerificationKind = 'header';
  /** Of the header or query value that holds the secret or the signature; the user's name for Basic. */
  @IsString() @MaxLength(120) name: string = '';
  @MayBeLeftOut() @IsIn(['sha256', 'sha1', 'sha512']) algorithm: 'sha256' | 'sha1' | 'sha512' = 'sha256';
  @MayBeLeftOut() @IsIn(['hex', 'base64']) encoding: 'hex' | 'base64' = 'hex';
  /** What stands before the signature in its header, such as `sha256=`. */
  @MayBeLeftOut() @IsString() @MaxLength(40) prefix: string = '';
  @MayBeLeftOut() @IsIn(signedContents) signed: SignedContent = 'body';
  @MayBeLeftOut() @IsString() @Matches(headerName) @MaxLength(120) timestampHeader: string = '';
  @MayBeLeftOut() @IsString() @Matches(headerName) @MaxLength(120) idHeader: string = '';
  /** How old a timestamp may be, in seconds; 0 takes any. */
  @MayBeLeftOut() @Whole(0, 86400) tolerance: number = 300;
  /** The secret, and the one before it while it is being replaced. Left out, the stored ones stay. */
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(2)
  @IsString({ each: true })
  @MaxLength(500, { each: true })
  secrets?: string[];
}

/** The same without its secrets, for people to see. */
export type VerificationView = Omit<VerificationInput, 'secrets'> & { secrets: number };
