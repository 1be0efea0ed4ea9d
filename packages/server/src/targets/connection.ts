import type { ConnectionView } from '@grammata/contract';
import { parseJson, type Json } from '@grammata/core/submission';
import {
  appendOperations,
  type Auth,
  type SecurityScheme,
  readExample,
  readTableFiles,
  type DiscoveryRecipe,
  isWriting,
  readDiscovery,
  readOpenApi,
  sendMail,
  usualRecipe,
  withQuery,
  type Credentials,
  type Operation,
} from '@grammata/core/target';
import { parse as parseYaml } from 'yaml';
import { isFault, type Authorizations, type Outward, type OutwardAnswer, type OutwardFault } from '../outward';
import type { Postman } from '../delivery';
import type { TargetRow } from '../store';

export interface Connection {
  view: ConnectionView;
  /** What the target offers, when it could be read. */
  operations: Operation[] | null;
}

/** Largest document that is read, in bytes. */
const MOST_DOCUMENT = 5_000_000;

/** What a document offers, with a sentence on it; or why it offers nothing. */
type Found = { operations: Operation[]; says: string; asksFor?: SecurityScheme[] } | { fault: string };

const readers: Record<
  'tables' | 'openapi',
  { advice: string; read: (document: Json, recipe: DiscoveryRecipe) => Found }
> = {
  tables: {
    advice: 'Check the path of the address that lists the tables.',
    read(document, recipe) {
      const found = readDiscovery(document, recipe);
      if ('fault' in found) return found;
      const columns = found.operations.reduce((sum, operation) => sum + operation.fields.length, 0);
      return { operations: found.operations, says: `lists ${found.operations.length} tables with ${columns} columns` };
    },
  },
  openapi: {
    advice: 'Check the path of the OpenAPI document.',
    read(document) {
      const found = readOpenApi(document);
      if ('fault' in found) return found;
      const writing = found.operations.filter(isWriting).length;
      const notes =
        found.notes.length > 0 ? ` Of its document this was not read: ${found.notes.slice(0, 3).join(' ')}` : '';
      return {
        operations: found.operations,
        asksFor: found.security,
        says: `offers ${found.operations.length} operation${found.operations.length === 1 ? '' : 's'}, ${writing} of which ${writing === 1 ? 'stores' : 'store'} something${notes && '.'}${notes}`,
      };
    },
  },
};

/** Asks a target for what it offers, and says in a sentence how that went. */
export async function connect(
  target: Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'reads' | 'auth' | 'secret' | 'document' | 'recipe'> &
    Partial<Pick<TargetRow, 'patience'>>,
  outward: Outward,
  authorizations: Authorizations,
  postman: Pick<Postman, 'check'>,
): Promise<Connection> {
  if (target.reads === 'mail') return greet(target, postman);
  const given = givenIn(target);
  if (given) return given;
  const credentials = await authorizations.for(target);
  const answer = isFault(credentials) ? credentials : await ask(target, credentials, outward);
  const { milliseconds } = answer;
  const status = isFault(answer) ? null : answer.status;
  const failed = (verdict: string, advice: string): Connection => ({
    view: { ok: false, verdict, advice, status, milliseconds },
    operations: null,
  });
  const reader = readers[target.reads === 'openapi' ? 'openapi' : 'tables'];
  const trouble = troubleWith(answer, reader.advice);
  if (trouble) return failed(...trouble);
  const { body, cut } = answer as OutwardAnswer;
  if (cut) return failed('It answered with more than 5 MB.', 'Give the address of a smaller document.');
  const document = documentOf(body);
  if (document === undefined) return failed('It answered, but not with JSON.', reader.advice);
  const found = reader.read(document, target.recipe ?? usualRecipe);
  if ('fault' in found) return failed(found.fault, reader.advice);
  const verdict = `It answered in ${milliseconds} ms and ${found.says.replace(/\.$/, '')}.`;
  const advice = credentialsAdvice(found.asksFor ?? [], target.auth);
  return { view: { ok: true, verdict, advice, status, milliseconds }, operations: found.operations };
}

const schemeWords: Record<SecurityScheme['kind'], (scheme: SecurityScheme) => string> = {
  bearer: () => 'a bearer token',
  basic: () => 'user and password',
  header: scheme => `an API key in the header ${'name' in scheme ? scheme.name : ''}`,
  query: scheme => `an API key in the parameter ${'name' in scheme ? scheme.name : ''}`,
  oauth: scheme => `OAuth 2 tokens, had at ${'tokenUrl' in scheme ? scheme.tokenUrl : ''}`,
};

/** What the document asks for, where that is not what the target has. */
function credentialsAdvice(asked: SecurityScheme[], auth: Auth): string | null {
  if (asked.length === 0 || asked.some(each => each.kind === auth.kind)) return null;
  return `Its document asks for ${asked.map(each => schemeWords[each.kind](each)).join(', or ')}.`;
}

/** What was given with the target, and is not asked for. */
function givenIn({ reads, document }: Pick<TargetRow, 'reads' | 'document'>): Connection | null {
  const told = (ok: boolean, verdict: string, advice: string | null): ConnectionView => ({
    ok,
    verdict,
    advice,
    status: null,
    milliseconds: 0,
  });
  const read = (found: { operations: Operation[] } | { fault: string }, says: string, advice: string): Connection =>
    'fault' in found
      ? { view: told(false, found.fault, advice), operations: null }
      : { view: told(true, `${says} ${found.operations.length}.`, null), operations: found.operations };
  if (reads === 'example')
    return read(
      readExample(document ?? ''),
      'Made from the example; nothing was sent. Operations:',
      'Give a curl line, a HAR file, or a record in JSON.',
    );
  if (reads === 'files') {
    const files = readTableFiles(document ?? '');
    const found = 'fault' in files ? files : { operations: appendOperations(files) };
    return read(found, 'Rows are appended on this server’s own disk. Files:', 'Name each file with its columns.');
  }
  if (reads !== 'openapi' || document === null) return null;
  const parsed = documentOf(document);
  if (parsed === undefined)
    return { view: told(false, 'It is neither JSON nor YAML.', readers.openapi.advice), operations: null };
  return read(readOpenApi(parsed), 'Read from the document that was given. Operations:', 'Give an OpenAPI document.');
}

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

const ask = (
  {
    baseUrl,
    discoveryPath,
    patience,
  }: Pick<TargetRow, 'baseUrl' | 'discoveryPath'> & Partial<Pick<TargetRow, 'patience'>>,
  { headers, query }: Credentials,
  outward: Outward,
) =>
  outward.send({
    method: 'GET',
    url: withQuery(baseUrl.replace(/\/$/, '') + discoveryPath, query),
    headers: { accept: 'application/json, application/yaml;q=0.9', ...Object.fromEntries(headers) },
    most: MOST_DOCUMENT,
    patience: patience ?? null,
  });

/** A document in JSON or YAML; undefined for neither. Anchors are not multiplied without end. */
function documentOf(text: string): Json | undefined {
  const json = parseJson(text);
  if (json !== undefined || /^\s*[<{[]/.test(text)) return json;
  try {
    const document: unknown = parseYaml(text, { maxAliasCount: 100 });
    return typeof document === 'object' ? (document as Json) : undefined;
  } catch {
    return undefined;
  }
}

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
