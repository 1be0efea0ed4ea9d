import type { ConnectionView, ListingView } from '@grammata/contract';
import { getIntrospectionQuery } from '@grammata/core/graphql';
import { complaintIn, isAboutCredentials } from '@grammata/core/response';
import { parseJson } from '@grammata/core/submission';
import {
  schemeWords,
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
  /** The kinds of credentials that its document asks for, where it has one. */
  asksFor?: SecurityScheme[];
  /** Base addresses that its document names, where the target’s is not among them. */
  servers?: string[];
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
): Promise<Connection> {
  if (target.reads === 'mail') return greet(target, postman);
  const given = await givenIn(target, offers);
  if (given) return given;
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
    return failed(`The response is larger than ${MOST_DOCUMENT / 1e6} MB.`, 'Give the address of a smaller document.');
  const found = await offered(offers, kind, body, { recipe: target.recipe, path: target.discoveryPath });
  if ('fault' in found) return failed(isText(body) ? 'The response is not JSON.' : found.fault, pathAdvice[kind]);
  const verdict = `Answered in ${milliseconds} ms: ${found.says.replace(/\.$/, '')}.`;
  const advice = credentialsAdvice(found.asksFor ?? [], target.auth);
  return {
    view: { ok: true, verdict, advice, status, milliseconds },
    servers: otherServers(found.servers ?? [], target),
    ...(found.asksFor && { asksFor: found.asksFor }),
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
    ? { answer: null, fault: `The response is not JSON. ${pathAdvice.tables}` }
    : { answer: maskedIn(document, outward.mask), fault: null };
}

/** Base addresses that a document names, relative to its own (OpenAPI 3.1, §4.8.5), where the target’s is not among them. */
function otherServers(
  named: readonly string[],
  { baseUrl, discoveryPath }: Pick<TargetRow, 'baseUrl' | 'discoveryPath'>,
) {
  const plain = (url: string) => url.replace(/\/$/, '');
  const at = addressOf(baseUrl, discoveryPath);
  const servers = named.flatMap(each => (URL.canParse(each, at) ? plain(new URL(each, at).href) : []));
  return servers.includes(plain(baseUrl))
    ? []
    : [...new Set(servers)].filter(each => /^https?:/.test(each)).slice(0, 5);
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

/** What the document asks for, where that is not what the target has. */
const credentialsAdvice = (asked: SecurityScheme[], auth: Auth): string | null =>
  asked.length === 0 || asked.some(each => each.kind === auth.kind)
    ? null
    : `The document requires ${schemeWords(asked)}.`;

const givenWords: Record<'openapi' | 'graphql' | 'example' | 'files', { says: string; advice: string }> = {
  openapi: { says: 'Read from the uploaded document: it', advice: 'Paste an OpenAPI document.' },
  graphql: {
    says: 'Read from the uploaded schema: it',
    advice: 'Paste the schema text, or the response to an introspection query.',
  },
  example: { says: 'Nothing was sent: its example', advice: 'Paste curl commands, a HAR file, or a record in JSON.' },
  files: { says: 'Rows are appended on this server’s own disk; the list', advice: 'Enter each file with its columns.' },
};

/** What was given with the target, and is not asked for. */
async function givenIn(
  {
    reads,
    document,
    recipe,
    discoveryPath,
    baseUrl,
  }: Pick<TargetRow, 'reads' | 'document' | 'recipe' | 'discoveryPath' | 'baseUrl'>,
  offers: Offers,
): Promise<Connection | null> {
  const isGiven = reads === 'example' || reads === 'files' || document !== null;
  if (!isGiven || reads === 'tables' || reads === 'mail') return null;
  const { says, advice } = givenWords[reads];
  const found = await offered(offers, reads, document ?? '', { recipe, path: discoveryPath, baseUrl });
  const unanswered = { status: null, milliseconds: 0 };
  if ('fault' in found) return { view: { ok: false, verdict: found.fault, advice, ...unanswered }, operations: null };
  const verdict =
    reads === 'example' && found.operations.length === 0
      ? 'Its operations are set by hand.'
      : `${says} ${found.says.replace(/\.$/, '')}.`;
  return { view: { ok: true, verdict, advice: null, ...unanswered }, operations: found.operations };
}

/** A mail server offers one thing, and is only greeted. */
async function greet(
  target: Pick<TargetRow, 'baseUrl' | 'auth' | 'secret'>,
  postman: Pick<Postman, 'check'>,
): Promise<Connection> {
  const answer = await postman.check(target);
  const { milliseconds } = answer;
  if (!isFault(answer)) {
    const verdict = `Accepts e-mail; answered in ${milliseconds} ms.`;
    return { view: { ok: true, verdict, advice: null, status: null, milliseconds }, operations: [sendMail] };
  }
  const [verdict, advice] = troubleWith(answer, '')!;
  return { view: { ok: false, verdict, advice, status: null, milliseconds }, operations: null };
}

/** GraphQL, October 2021, §4: a schema tells of itself. */
const introspection = { method: 'POST' as const, body: JSON.stringify({ query: getIntrospectionQuery() }) };

export const ask = (
  {
    baseUrl,
    discoveryPath,
    reads,
    patience,
  }: Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'reads'> & Partial<Pick<TargetRow, 'patience'>>,
  { headers, query }: Credentials,
  outward: Outward,
) => {
  const isElsewhere = new URL(addressOf(baseUrl, discoveryPath)).origin !== new URL(baseUrl).origin;
  return outward.send({
    ...(reads === 'graphql' ? introspection : { method: 'GET' as const }),
    // A document may stand anywhere; only the target itself is shown who asks.
    url: isElsewhere ? discoveryPath : withQuery(addressOf(baseUrl, discoveryPath), query),
    headers: {
      accept: 'application/json, application/yaml;q=0.9',
      ...(reads === 'graphql' && { 'content-type': 'application/json' }),
      ...(isElsewhere ? {} : Object.fromEntries(headers)),
    },
    most: MOST_DOCUMENT,
    patience: patience ?? null,
  });
};

/** Where a path below the base address is, or a whole address. */
const addressOf = (baseUrl: string, path: string): string =>
  /^https?:/i.test(path) ? path : baseUrl.replace(/\/$/, '') + path;

/** What is wrong with an answer and what to do about it, or null. */
export function troubleWith(
  answer: OutwardAnswer | OutwardFault,
  path: string,
): [verdict: string, advice: string] | null {
  if (isFault(answer)) {
    const advice: Record<OutwardFault['code'], string> = {
      refused: 'Is the target running, and is the port right?',
      timeout: 'Try again; if it stays so, ask whoever runs the target.',
      name: 'Check the spelling of the host name.',
      tls: 'Ask whoever runs the target to renew its certificate.',
      dropped: 'Try again; if it stays so, ask whoever runs the target.',
      private: 'Add it to GRAMMATA_ALLOW_PRIVATE if it is meant to be reached.',
      address: 'Give a whole address that starts with https://.',
      consent: 'Give consent on the target’s page.',
      token: 'Check the user or client and its secret.',
      file: 'Try again.',
      parked: 'It is tested again automatically.',
      other: 'Try again.',
    };
    return [answer.message, advice[answer.code]];
  }
  if (isAboutCredentials(answer.status, answer.body))
    return [
      `Status ${answer.status}: credentials rejected.`,
      'Create new ones at the target, then enter them in its settings here.',
    ];
  if (answer.status === 404) return ['Status 404: nothing at this path.', path];
  if (answer.status >= 300)
    return [
      `Status ${answer.status}.`,
      answer.status >= 500
        ? 'Server error at the target. Try again later.'
        : `${complaintIn(answer.body) ?? ''} Check the address.`.trim(),
    ];
  return null;
}
