import type { ChoicesView, ChoiceView } from '@grammata/contract';
import { asText, isBlank, isJsonObject, parseJson, valueAt, type Json } from '@grammata/core/submission';
import { answerFields, withQuery, type AnswerField } from '@grammata/core/target';
import { HttpProblem } from '../problems';
import { isFault, nextPage, type Authorizations, type Outward } from '../outward';
import type { TargetRow } from '../store';

/** Most records that are offered. */
const MOST = 500;

/** Names under which records say what they are called, and what they are. *Common practice, no source.* */
const labels = /^(name|title|label|subject|display_?name|given_name|email|summary)$/i;
const ids = /^(_?id|uuid|key|number|code)$/i;

/** Most pages that are asked for. */
const MOST_PAGES = 10;

/** Asks a target for a list, page by page, and gives its records as values to pick. Throws HttpProblem. */
export async function choicesOf(
  target: TargetRow,
  operationId: string,
  { outward, authorizations }: { outward: Outward; authorizations: Authorizations },
): Promise<ChoicesView> {
  const operation = target.operations.find(each => each.id === operationId && each.method === 'GET');
  if (!operation) throw new HttpProblem(422, 'The target does not list anything there.');
  const failed = (words: string) => new HttpProblem(502, `${target.name} did not give its list. ${words}`);
  const choices: ChoiceView[] = [];
  let url = target.baseUrl.replace(/\/$/, '') + operation.path;
  for (let page = 1; ; page++) {
    const credentials = await authorizations.for(target);
    if (isFault(credentials)) throw failed(credentials.message);
    const answer = await outward.send({
      method: 'GET',
      url: withQuery(url, credentials.query),
      headers: { accept: 'application/json', ...Object.fromEntries(credentials.headers) },
      patience: target.patience,
    });
    if (isFault(answer)) throw failed(answer.message);
    if (answer.status !== 200) throw failed(`Status ${answer.status}.`);
    const body = parseJson(answer.body) ?? null;
    // What it answers is known from its document, else from the answer itself.
    const list = (operation.answer?.some(each => each.items) ? operation.answer : answerFields(body)).find(
      each => each.items,
    );
    const found = list && valueAt(body, list.pointer);
    if (!Array.isArray(found)) throw failed('The response holds no list of records.');
    choices.push(...found.flatMap(record => choiceOf(record, list!.items!)));
    const next = nextPage({ headers: answer.headers, url }, body);
    if (typeof next !== 'string' || page === MOST_PAGES || choices.length >= MOST || found.length === 0)
      return { choices: choices.slice(0, MOST), isPart: next !== false || choices.length > MOST };
    url = next;
  }
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
