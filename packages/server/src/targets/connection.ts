import type { ConnectionView, ListingView } from '@grammata/contract';
import { getIntrospectionQuery } from '@grammata/core/graphql';
import { parseJson } from '@grammata/core/submission';
import {
  sendMail,
  withQuery,
  type Auth,
  type Credentials,
  type DiscoveryRecipe,
  type Operation,
  type SecurityScheme,
} from '@grammata/core/target';
import { maskedIn } from '../access';
import { DecodeFault } from '../decoding';
import type { Postman } from '../delivery';
import { isFault, type Authorizations, type Outward, type OutwardAnswer, type OutwardFault } from '../outward';
import type { TargetRow } from '../store';
import type { HowToRead, Offer, OfferKind } from './offer';

export interface Connection {
  view: ConnectionView;
  /** What the target offers, when it could be read. */
  operations: Operation[] | null;
  /** Where its list of tables has what, where that was concluded. */
  recipe?: DiscoveryRecipe;
}

/** Largest document that is read, in bytes. */
const MOST_DOCUMENT = 20_000_000;

/** Reads what a target offers out of a text, wherever that is done. */
export interface Offers {
  offer(kind: OfferKind, text: string, how?: HowToRead): Promise<Offer>;
}

const pathAdvice: Record<'tables' | 'openapi' | 'graphql', string> = {
  graphql: 'Check the path; where the target does not tell its schema, give the text of it.',
  tables: 'Check the path of the address that lists the tables.',
  openapi: 'Check the path of the OpenAPI document.',
};

/** Asks a target for what it offers, and says in a sentence how that went. */
export async function connect(
  target: Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'reads' | 'auth' | 'secret' | 'document' | 'recipe'> &
    Partial<Pick<TargetRow, 'id' | 'patience'>>,
  outward: Outward,
  authorizations: Authorizations,
  postman: Pick<Postman, 'check'>,
  offers: Offers,
  /** Whether a target whose document was given is asked for a sign of life. */
  reaches = false,
): Promise<Connection> {
  if (target.reads === 'mail') return greet(target, postman);
  const given = await givenIn(target, offers);
  if (given)
    return reaches && given.view.ok && target.reads !== 'files'
      ? reached(given, target, outward, authorizations)
      : given;
  const credentials = await authorizations.for(target);
  const answer = isFault(credentials) ? credentials : await ask(target, credentials, outward);
  const { milliseconds } = answer;
  const status = isFault(answer) ? null : answer.status;
  const failed = (verdict: string, advice: string): Connection => ({
    view: { ok: false, verdict, advice, status, milliseconds },
    operations: null,
  });
  const kind = target.reads === 'openapi' || target.reads === 'graphql' ? target.reads : 'tables';
  const trouble = troubleWith(answer, pathAdvice[kind]);
  if (trouble) return failed(...trouble);
  const { body, cut } = answer as OutwardAnswer;
  if (cut)
    return failed(`It answered with more than ${MOST_DOCUMENT / 1e6} MB.`, 'Give the address of a smaller document.');
  const found = await offered(offers, kind, body, { recipe: target.recipe, path: target.discoveryPath });
  if ('fault' in found) return failed(isText(body) ? 'It answered, but not with JSON.' : found.fault, pathAdvice[kind]);
  const verdict = `It answered in ${milliseconds} ms and ${found.says.replace(/\.$/, '')}.`;
  const advice = credentialsAdvice(found.asksFor ?? [], target.auth);
  return {
    view: { ok: true, verdict, advice, status, milliseconds },
    operations: wordsMasked(found.operations, outward.mask),
    ...(found.recipe && { recipe: found.recipe }),
  };
}

/** What a target answers where it lists its tables: its JSON, to be pointed at. */
export async function listingOf(
  target: TargetRow,
  outward: Outward,
  authorizations: Authorizations,
): Promise<ListingView> {
  const credentials = await authorizations.for(target);
  const answer = isFault(credentials) ? credentials : await ask(target, credentials, outward);
  const trouble = troubleWith(answer, pathAdvice.tables);
  if (trouble) return { answer: null, fault: trouble.join(' ') };
  const document = parseJson((answer as OutwardAnswer).body);
  return document === undefined
    ? { answer: null, fault: `It answered, but not with JSON. ${pathAdvice.tables}` }
    : { answer: maskedIn(document, outward.mask), fault: null };
}

/** What people read of operations is kept without secrets; what requests are made of is as the target has it. */
const wordsMasked = (operations: Operation[], mask: (text: string) => string): Operation[] =>
  JSON.parse(JSON.stringify(operations), (name, value: unknown) =>
    (name === 'label' || name === 'description') && typeof value === 'string' ? mask(value) : value,
  ) as Operation[];

/** True for an answer that is a page or words. */
const isText = (body: string) => /^\s*(<|$)/.test(body) || !/[{:[]/.test(body);

/** What a text offers; what ended its reading is a fault of the text. */
async function offered(offers: Offers, kind: OfferKind, text: string, how: HowToRead): Promise<Offer> {
  try {
    return await offers.offer(kind, text, how);
  } catch (error) {
    if (error instanceof DecodeFault) return { fault: error.message };
    throw error;
  }
}

const schemeWords: Record<SecurityScheme['kind'], (scheme: SecurityScheme) => string> = {
  bearer: () => 'a bearer token',
  basic: () => 'user and password',
  header: scheme => `an API key in the header ${'name' in scheme ? scheme.name : ''}`,
  query: scheme => `an API key in the parameter ${'name' in scheme ? scheme.name : ''}`,
  consent: scheme => `somebody’s consent (OAuth 2), given at ${'authorizeUrl' in scheme ? scheme.authorizeUrl : ''}`,
  oauth: scheme => `OAuth 2 tokens, had at ${'tokenUrl' in scheme ? scheme.tokenUrl : ''}`,
};

/** What the document asks for, where that is not what the target has. */
function credentialsAdvice(asked: SecurityScheme[], auth: Auth): string | null {
  if (asked.length === 0 || asked.some(each => each.kind === auth.kind)) return null;
  return `Its document asks for ${asked.map(each => schemeWords[each.kind](each)).join(', or ')}.`;
}

const givenWords: Record<'openapi' | 'graphql' | 'example' | 'files', { says: string; advice: string }> = {
  openapi: { says: 'Read from the document that was given: it', advice: 'Give an OpenAPI document.' },
  graphql: {
    says: 'Read from the schema that was given: it',
    advice: 'Give the text of its schema, or the answer to an introspection query.',
  },
  example: { says: 'Nothing was sent: its example', advice: 'Give curl lines, a HAR file, or a record in JSON.' },
  files: { says: 'Rows are appended on this server’s own disk; the list', advice: 'Name each file with its columns.' },
};

/** What was given with the target, and is not asked for. */
async function givenIn(
  { reads, document, recipe, discoveryPath }: Pick<TargetRow, 'reads' | 'document' | 'recipe' | 'discoveryPath'>,
  offers: Offers,
): Promise<Connection | null> {
  const isGiven = reads === 'example' || reads === 'files' || document !== null;
  if (!isGiven || reads === 'tables' || reads === 'mail') return null;
  const { says, advice } = givenWords[reads];
  const found = await offered(offers, reads, document ?? '', { recipe, path: discoveryPath });
  const told = { status: null, milliseconds: 0 };
  if ('fault' in found) return { view: { ok: false, verdict: found.fault, advice, ...told }, operations: null };
  const verdict =
    reads === 'example' && found.operations.length === 0
      ? 'Its operations are set by hand.'
      : `${says} ${found.says.replace(/\.$/, '')}.`;
  return { view: { ok: true, verdict, advice: null, ...told }, operations: found.operations };
}

/** The same with whether anything answers at the target's address: whatever it says to a request there shows that it lives. */
async function reached(
  given: Connection,
  target: Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'reads' | 'auth' | 'secret'> &
    Partial<Pick<TargetRow, 'id' | 'patience'>>,
  outward: Outward,
  authorizations: Authorizations,
): Promise<Connection> {
  const credentials = await authorizations.for(target);
  const answer = isFault(credentials) ? credentials : await ask(knock(target), credentials, outward);
  const { milliseconds } = answer;
  const status = isFault(answer) ? null : answer.status;
  const isRefused = status === 401 || (status !== null && status >= 500);
  if (isFault(answer) || isRefused) {
    const [verdict, advice] = troubleWith(answer, '')!;
    return { ...given, view: { ok: false, verdict, advice, status, milliseconds } };
  }
  const verdict = `${given.view.verdict} Its address answers, with ${status}, in ${milliseconds} ms.`;
  return { ...given, view: { ...given.view, verdict, status, milliseconds } };
}

/** Where a sign of life is asked for: where GraphQL takes its requests, else at the base address. */
const knock = <T extends Pick<TargetRow, 'reads' | 'discoveryPath'>>(target: T): T =>
  target.reads === 'graphql' ? target : { ...target, discoveryPath: '' };

/** A mail server offers one thing, and is only greeted. */
async function greet(
  target: Pick<TargetRow, 'baseUrl' | 'auth' | 'secret'>,
  postman: Pick<Postman, 'check'>,
): Promise<Connection> {
  const answer = await postman.check(target);
  const { milliseconds } = answer;
  if (!isFault(answer)) {
    const verdict = `It takes mails; it answered in ${milliseconds} ms.`;
    return { view: { ok: true, verdict, advice: null, status: null, milliseconds }, operations: [sendMail] };
  }
  const [verdict, advice] = troubleWith(answer, '')!;
  return { view: { ok: false, verdict, advice, status: null, milliseconds }, operations: null };
}

/** GraphQL, October 2021, §4: a schema tells of itself. */
const introspection = { method: 'POST' as const, body: JSON.stringify({ query: getIntrospectionQuery() }) };

const ask = (
  {
    baseUrl,
    discoveryPath,
    reads,
    patience,
  }: Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'reads'> & Partial<Pick<TargetRow, 'patience'>>,
  { headers, query }: Credentials,
  outward: Outward,
) =>
  outward.send({
    ...(reads === 'graphql' ? introspection : { method: 'GET' as const }),
    url: withQuery(baseUrl.replace(/\/$/, '') + discoveryPath, query),
    headers: {
      accept: 'application/json, application/yaml;q=0.9',
      ...(reads === 'graphql' && { 'content-type': 'application/json' }),
      ...Object.fromEntries(headers),
    },
    most: MOST_DOCUMENT,
    patience: patience ?? null,
  });

/** What is wrong with an answer and what to do about it, or null. */
function troubleWith(answer: OutwardAnswer | OutwardFault, path: string): [verdict: string, advice: string] | null {
  if (isFault(answer)) {
    const advice: Record<OutwardFault['code'], string> = {
      refused: 'Is the target running, and is the port right?',
      timeout: 'Try again; if it stays so, ask whoever runs the target.',
      name: 'Check the spelling of the host name.',
      tls: 'Ask whoever runs the target to renew its certificate.',
      dropped: 'Try again; if it stays so, ask whoever runs the target.',
      private: 'Add it to GRAMMATA_ALLOW_PRIVATE if it is meant to be reached.',
      address: 'Give a whole address that starts with https://.',
      consent: 'Give consent on this page.',
      token: 'Check the user or client and its secret.',
      file: 'Try again.',
      parked: 'It is asked again by itself.',
      other: 'Try again.',
    };
    return [answer.message, advice[answer.code]];
  }
  if (answer.status === 401 || answer.status === 403)
    return [
      `It answered ${answer.status}: it does not take these credentials.`,
      'Make new ones at the target and put them in here.',
    ];
  if (answer.status === 404) return ['It answered 404: there is nothing at this path.', path];
  if (answer.status >= 300)
    return [
      `It answered ${answer.status}.`,
      answer.status >= 500 ? 'The target has trouble of its own. Try again later.' : 'Check the address.',
    ];
  return null;
}
