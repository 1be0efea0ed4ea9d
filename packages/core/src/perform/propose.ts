import type { Call, Find, ReadBack } from '../route';
import { newLine } from '../route';
import type { AnswerField, Operation } from '../target';

/** Whatever tells people apart, the surest first; the rest of a target's fields may repeat. *Common practice, no source.* */
const telling = ['email', 'e_mail', 'mail', 'phone', 'number', 'code', 'key', 'name'];

const last = (text: string) => text.split(/[./]/).at(-1)!.toLowerCase();
const isId = (field: AnswerField) => /^(id|_?id|uuid|key|number|record_no)$/.test(last(field.pointer));

/** Ways to find a record before a call writes: operations that read, with a parameter that the call fills too. */
export function proposeFinds(call: Call, operations: readonly Operation[]): Find[] {
  const main = operations.find(each => each.id === call.operationId);
  if (!main) return [];
  const written = new Map(main.fields.filter(each => !each.in).map(each => [each.key.toLowerCase(), each]));
  const ways = operations
    .filter(operation => operation.method === 'GET')
    .flatMap(operation =>
      operation.fields
        .filter(field => field.in === 'query' && written.has(field.key.toLowerCase()))
        .flatMap(field => {
          const list = operation.answer?.find(each => each.items);
          const record = list?.items?.find(each => last(each.pointer) === last(field.key));
          return list && record ? [{ operation, field, list, record }] : [];
        }),
    );
  const rank = (key: string) => (telling.indexOf(key.toLowerCase()) + telling.length + 1) % (telling.length + 1);
  return ways
    .sort((a, b) => rank(a.field.key) - rank(b.field.key))
    .map(({ operation, field, list, record }) => {
      const own = call.lines.find(line => line.to.toLowerCase() === field.key.toLowerCase());
      return {
        operationId: operation.id,
        line: {
          ...newLine(`find-${field.key}`, field.key),
          source: own?.source ?? null,
          cleaning: own?.cleaning ?? [],
        },
        list: list.pointer,
        equals: record.pointer,
        whenNone: 'create',
        whenSeveral: 'hold',
        update: updateFor(main, operations, list.items!),
      };
    });
}

/** The operation that updates such a record: below the same path, with the record's identifier in it. */
function updateFor(main: Operation, operations: readonly Operation[], record: AnswerField[]): Find['update'] {
  const id = record.find(isId);
  const update = operations
    .filter(each => each.method === 'PATCH' || each.method === 'PUT')
    .filter(
      each => each.path.startsWith(`${main.path}/{`) && each.fields.filter(field => field.in === 'path').length === 1,
    )
    .sort((a, b) => Number(b.method === 'PATCH') - Number(a.method === 'PATCH'))[0];
  const to = update?.fields.find(field => field.in === 'path');
  return update && to && id ? { operationId: update.id, to: to.key, from: id.pointer } : null;
}

/** How to fetch what a call stored: an operation that reads one record, below the path that the call writes to. */
export function proposeReadBack(main: Operation, operations: readonly Operation[]): ReadBack | null {
  const id = main.answer?.find(isId);
  const read = operations.find(
    each =>
      each.method === 'GET' &&
      each.path.startsWith(`${main.path}/{`) &&
      each.fields.filter(field => field.in === 'path').length === 1,
  );
  const to = read?.fields.find(field => field.in === 'path');
  return read && to && id ? { operationId: read.id, to: to.key, from: id.pointer } : null;
}
