import type { ConnectionView } from '@grammata/contract';
import { parseJson } from '@grammata/core/submission';
import { readDiscovery, usualRecipe, type Operation } from '@grammata/core/target';
import type { Vault } from '../access';
import { isFault, type Outward, type OutwardAnswer, type OutwardFault } from '../outward';
import type { TargetRow } from '../store';

export interface Connection {
  view: ConnectionView;
  /** What the target offers, when it could be read. */
  operations: Operation[] | null;
}

/** Asks a target for its tables and columns, and says in a sentence how that went. */
export async function connect(
  target: Pick<TargetRow, 'baseUrl' | 'discoveryPath' | 'secret'>,
  outward: Outward,
  vault: Vault,
): Promise<Connection> {
  const authorization: Record<string, string> = target.secret
    ? { authorization: `Bearer ${vault.open(target.secret)}` }
    : {};
  const url = target.baseUrl.replace(/\/$/, '') + target.discoveryPath;
  const answer = await outward.send({ method: 'GET', url, headers: { accept: 'application/json', ...authorization } });
  const { milliseconds } = answer;
  const status = isFault(answer) ? null : answer.status;
  const failed = (verdict: string, advice: string): Connection => ({
    view: { ok: false, verdict, advice, status, milliseconds },
    operations: null,
  });
  const trouble = troubleWith(answer);
  if (trouble) return failed(...trouble);
  const document = parseJson((answer as OutwardAnswer).body);
  if (document === undefined)
    return failed('It answered, but not with JSON.', 'Check the path of the address that lists the tables.');
  const discovery = readDiscovery(document, usualRecipe);
  if ('fault' in discovery) return failed(discovery.fault, 'Check the path of the address that lists the tables.');
  const columns = discovery.operations.reduce((sum, operation) => sum + operation.fields.length, 0);
  const verdict = `It answered in ${milliseconds} ms and lists ${discovery.operations.length} tables with ${columns} columns.`;
  return { view: { ok: true, verdict, advice: null, status, milliseconds }, operations: discovery.operations };
}

/** What is wrong with an answer and what to do about it, or null. */
function troubleWith(answer: OutwardAnswer | OutwardFault): [verdict: string, advice: string] | null {
  if (isFault(answer)) {
    const advice: Record<OutwardFault['code'], string> = {
      refused: 'Is the target running, and is the port right?',
      timeout: 'Try again; if it stays so, ask whoever runs the target.',
      name: 'Check the spelling of the host name.',
      tls: 'Ask whoever runs the target to renew its certificate.',
      dropped: 'Try again; if it stays so, ask whoever runs the target.',
      private: 'Add it to GRAMMATA_ALLOW_PRIVATE if it is meant to be reached.',
      address: 'Give a whole address that starts with https://.',
      other: 'Try again.',
    };
    return [answer.message, advice[answer.code]];
  }
  if (answer.status === 401 || answer.status === 403)
    return [
      `It answered ${answer.status}: it does not take this token.`,
      'Make a new token at the target and put it in here.',
    ];
  if (answer.status === 404)
    return ['It answered 404: there is nothing at this path.', 'Check the path of the address that lists the tables.'];
  if (answer.status >= 300)
    return [
      `It answered ${answer.status}.`,
      answer.status >= 500 ? 'The target has trouble of its own. Try again later.' : 'Check the address.',
    ];
  return null;
}
