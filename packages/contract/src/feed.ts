import { IsBoolean, IsIn, IsString, IsUrl, Matches, MaxLength, ValidateIf } from 'class-validator';
import { MayBeLeftOut } from './mayBeLeftOut';
import { IsPointer } from './isPointer';

export const feedAuths = ['none', 'bearer', 'basic', 'header', 'oauth'] as const;
export type FeedAuth = (typeof feedAuths)[number];
/**
 * single: one answer is all. cursor: each answer says where the next begins. next: it says the next one's address. page: numbered.
 * link: a Link header (RFC 8288) tells.
 */
export const feedPagings = ['single', 'cursor', 'next', 'page', 'link'] as const;
export type FeedPaging = (typeof feedPagings)[number];

/** An address that is read on a timer. */
export class FeedInput {
  @IsUrl(
    { require_tld: false, protocols: ['http', 'https'], require_protocol: true },
    { message: 'Enter a URL that starts with http:// or https://.' },
  )
  url: string = '';
  @IsBoolean() on: boolean = true;
  /** When it is read: five fields as in crontab(5), in UTC. */
  @IsString()
  @MaxLength(100)
  @Matches(/^\s*(\S+\s+){4}\S+\s*$/, { message: 'Enter five fields: minute, hour, day, month, weekday.' })
  every: string = '*/5 * * * *';
  @IsIn(feedAuths) auth: FeedAuth = 'none';
  @MayBeLeftOut() @IsIn(['GET', 'POST']) method?: 'GET' | 'POST';
  /** What is sent with a POST: JSON. */
  @MayBeLeftOut() @IsString() @MaxLength(20_000) body?: string;
  /** OAuth 2 client credentials: where tokens are had, what for, and where the client shows itself. */
  @ValidateIf(({ auth }: FeedInput) => auth === 'oauth')
  @IsUrl(
    { require_tld: false, protocols: ['http', 'https'], require_protocol: true },
    { message: 'Enter the token URL.' },
  )
  tokenUrl?: string;
  @MayBeLeftOut() @IsString() @MaxLength(500) scope?: string;
  @MayBeLeftOut() @IsIn(['header', 'body']) clientIn?: 'header' | 'body';
  /** Name of the header, of the user, or of the client. */
  @IsString() @MaxLength(200) @Matches(/^[^\r\n:]*$/) name: string = '';
  /** Token or password; left out, the stored one stays. Never sent back. */
  @MayBeLeftOut() @IsString() @MaxLength(4000) @Matches(/^[^\r\n]*$/) secret?: string;
  @IsIn(feedPagings) paging: FeedPaging = 'single';
  /** The query parameter that carries the cursor or the page's number; with a POST also a JSON Pointer into what is sent. */
  @IsString() @MaxLength(100) parameter: string = '';
  /** Where in an answer the next cursor or address stands, as a JSON Pointer. */
  @IsPointer() cursorAt: string = '';
  /** The newest come first: reading stops at the first page that holds nothing new. */
  @IsBoolean() newestFirst: boolean = true;
}
