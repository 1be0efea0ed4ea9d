import { isReading, type Operation } from '@grammata/core/target';
import { isFault, type Authorizations, type Outward, type OutwardAnswer, type OutwardFault } from '../outward';
import type { TargetRow } from '../store';
import { ask, troubleWith, type Connection } from './connection';

type Target = Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'reads' | 'auth' | 'secret'> &
  Partial<Pick<TargetRow, 'id' | 'patience'>>;

/** A request that only reads, below the base address, and what it is called. */
interface Probe {
  name: string;
  path: string;
}

/** Most reads that are tried one after the other. */
const MOST = 3;

const isRejected = (status: number) => status === 401 || status === 403;

/**
 * Whether a target answers, and whether its credentials work: a read that is rejected without them and answered with them says
 * so. Where no read tells, that is said; nothing is written.
 */
export async function testCredentials(
  given: Connection,
  target: Target,
  outward: Outward,
  authorizations: Authorizations,
): Promise<Connection> {
  const credentials = await authorizations.for(target);
  const failed = (answer: OutwardAnswer | OutwardFault): Connection => {
    const [verdict, advice] = troubleWith(answer, '')!;
    const status = isFault(answer) ? null : answer.status;
    return { ...given, view: { ok: false, verdict, advice, status, milliseconds: answer.milliseconds } };
  };
  if (isFault(credentials)) return failed(credentials);
  const probes = probesFor(target, given.operations ?? []);
  let words = '';
  let rejected: OutwardAnswer | null = null;
  for (const [at, { name, path }] of probes.entries()) {
    const of = { ...target, discoveryPath: path };
    const answer = await ask(of, credentials, outward);
    if (isFault(answer)) return failed(answer);
    const { status, milliseconds } = answer;
    // One read may want other credentials than the rest.
    if (status === 401) rejected ??= answer;
    if (status >= 500 && at === probes.length - 1) return failed(answer);
    if (target.auth.kind === 'none')
      return answering(given, `The address answers with ${status} in ${milliseconds} ms.`, status, milliseconds);
    const bare = await ask(of, { headers: [], query: [] }, outward);
    if (!isFault(bare) && isRejected(bare.status) && !isRejected(status))
      return answering(given, `The credentials work: ${name} is answered only with them.`, status, milliseconds);
    words ||= isRejected(status)
      ? `${name} answers with ${status} in spite of the credentials`
      : `${name} answers with ${status} with and without them`;
  }
  if (rejected) return failed(rejected);
  const { status, milliseconds } = given.view;
  return answering(given, `The credentials were not tested: ${words}.`, status, milliseconds, true);
}

/** What was read, with what came of the test. */
const answering = (
  given: Connection,
  words: string,
  status: number | null,
  milliseconds: number,
  isUntested = false,
): Connection => ({
  ...given,
  view: {
    ...given.view,
    verdict: `${given.view.verdict} ${words}`,
    status,
    milliseconds,
    ...(isUntested && { isUntested }),
  },
});

/** Reads that may tell: those without parameters first, then those of one record that nobody has; the base address last. */
function probesFor({ reads, discoveryPath }: Target, operations: readonly Operation[]): Probe[] {
  if (reads === 'tables') return [{ name: 'the list of tables', path: discoveryPath }];
  if (reads === 'graphql') return [{ name: 'the schema', path: discoveryPath }];
  const readers = operations
    .filter(each => each.method === 'GET' && isReading(each))
    .filter(each => each.fields.every(field => field.in === 'path' || !field.required))
    .map(each => ({ each, parameters: each.fields.filter(field => field.in === 'path') }))
    .sort((one, other) => one.parameters.length - other.parameters.length)
    .slice(0, MOST)
    .map(({ each, parameters }) => ({
      name: `“${each.label}”`,
      path: parameters.reduce(
        (path, { pointer, type }) => path.replaceAll(`{${pointer}}`, type === 'integer' ? '0' : 'none'),
        each.path,
      ),
    }));
  return [...readers, { name: 'the base address', path: '' }];
}
