import type { ChoiceView } from '@grammata/contract';
import { asText, isBlank, isJsonObject, parseJson, valueAt, type Json } from '@grammata/core/submission';
import { withQuery, type AnswerField } from '@grammata/core/target';
import { HttpProblem } from '../problems';
import { isFault, type Authorizations, type Outward } from '../outward';
import type { TargetRow } from '../store';

/** Most records that are offered. */
const MOST = 500;

/** Names under which records say what they are called, and what they are. *Common practice, no source.* */
const labels = /^(name|title|label|subject|display_?name|given_name|email|summary)$/i;
const ids = /^(_?id|uuid|key|number|code)$/i;

/** Asks a target for a list and gives its records as values to pick. Throws HttpProblem. */
export async function choicesOf(
  target: TargetRow,
  operationId: string,
  { outward, authorizations }: { outward: Outward; authorizations: Authorizations },
): Promise<ChoiceView[]> {
  const operation = target.operations.find(each => each.id === operationId && each.method === 'GET');
  const list = operation?.answer?.find(each => each.items);
  if (!operation || !list) throw new HttpProblem(422, 'The target does not list anything there.');
  const credentials = await authorizations.for(target);
  const failed = (words: string) => new HttpProblem(502, `${target.name} did not give its list. ${words}`);
  if (isFault(credentials)) throw failed(credentials.message);
  const answer = await outward.send({
    method: 'GET',
    url: withQuery(target.baseUrl.replace(/\/$/, '') + operation.path, credentials.query),
    headers: { accept: 'application/json', ...Object.fromEntries(credentials.headers) },
    patience: target.patience,
  });
  if (isFault(answer)) throw failed(answer.message);
  if (answer.status !== 200) throw failed(`Status ${answer.status}.`);
  const found = valueAt(parseJson(answer.body) ?? null, list.pointer);
  if (!Array.isArray(found)) throw failed('Its answer holds no list where its document says.');
  return found.slice(0, MOST).flatMap(record => choiceOf(record, list.items!));
}

function choiceOf(record: Json, fields: AnswerField[]): ChoiceView[] {
  if (!isJsonObject(record)) return isBlank(record) ? [] : [{ value: asText(record), label: asText(record) }];
  const named = (pattern: RegExp) => fields.filter(each => pattern.test(each.pointer.split('/').at(-1)!));
  const value = asText(valueAt(record, named(ids)[0]?.pointer ?? '/id'));
  const words = named(labels)
    .map(each => asText(valueAt(record, each.pointer)))
    .filter(Boolean);
  return value === '' ? [] : [{ value, label: words.slice(0, 2).join(', ') || value }];
}
