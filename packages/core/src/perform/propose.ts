import type { Call, Find, Identity, ReadBack } from '../route';
import { newLine } from '../route';
import { isReading, type AnswerField, type Operation } from '../target';

/** Whatever tells people apart, the surest first; the rest of a target's fields may repeat. *Common practice, no source.* */
const telling = ['email', 'e_mail', 'mail', 'phone', 'number', 'code', 'key', 'name'];

const last = (text: string) => text.split(/[./]/).at(-1)!.toLowerCase();
const isId = (field: AnswerField) => /^(id|_?id|uuid|key|number|record_no)$/.test(last(field.pointer));

/** Words by which operations that search are called. *Common practice, no source.* */
const searches = /search|find|look[-_ ]?up|query|filter|match/i;
/** Parameters that take any words. */
const anyWords = /^(q|query|search|term|text|keyword)s?$/i;

/** True for an operation that only reads, by its method or by what it is called. */
export const mayRead = ({ method, path, label, id }: Operation): boolean =>
  method === 'GET' || (method === 'POST' && searches.test(`${path} ${label} ${id}`));

/** The list of records in an answer, or the record that an answer is; null where nothing is known of it. */
function recordsOf(operation: Operation): { pointer: string; parts: AnswerField[] } | null {
  const list = operation.answer?.find(each => each.items);
  if (list) return { pointer: list.pointer, parts: list.items! };
  const parts = operation.answer?.filter(each => each.pointer !== '' && !each.items) ?? [];
  return parts.length > 0 ? { pointer: '', parts } : null;
}

/** Ways to find a record before a call writes: operations that read, with a parameter that the call fills too. */
export function proposeFinds(call: Call, operations: readonly Operation[]): Find[] {
  const main = operations.find(each => each.id === call.operationId);
  if (!main) return [];
  const written = new Map(main.fields.filter(each => !each.in).map(each => [last(each.key), each]));
  const ways = operations
    .filter(each => each.id !== main.id && mayRead(each))
    .flatMap(operation => {
      const records = recordsOf(operation);
      if (!records) return [];
      const named = (key: string) => records.parts.find(each => last(each.pointer) === last(key));
      return operation.fields
        .filter(field => field.in !== 'header' && !field.readOnly)
        .flatMap(field => {
          // A parameter of its own name, or one that takes any words and is held against each that the call fills.
          const keys = anyWords.test(last(field.key)) ? telling : [last(field.key)];
          return keys.flatMap(key => {
            const own = written.get(key);
            const part = own && named(key);
            return own && part ? [{ operation, field, own, records, part }] : [];
          });
        });
    });
  const rank = (key: string) => (telling.indexOf(last(key)) + telling.length + 1) % (telling.length + 1);
  return ways
    .sort(
      (a, b) =>
        rank(a.own.key) - rank(b.own.key) || Number(a.field.in === undefined) - Number(b.field.in === undefined),
    )
    .map(({ operation, field, own, records, part }) => {
      const line = call.lines.find(each => each.to === own.key);
      return {
        operationId: operation.id,
        line: {
          ...newLine(`find-${own.key}`, field.key),
          source: line?.source ?? null,
          cleaning: line?.cleaning ?? [],
        },
        ...(operation.method === 'GET' ? {} : { readsOnly: true }),
        list: records.pointer,
        equals: part.pointer,
        whenNone: 'create',
        whenSeveral: 'hold',
        update: updateFor(main, operations, records.parts),
      };
    });
}

/** What identifies a call's record for those behind it: in the answer to making one, and in one that is found. */
export function proposeIdentity(main: Operation, finder: Operation | null): Identity | null {
  const made = main.answer?.filter(each => !each.items && isId(each)).sort(byDepth)[0];
  const found = finder ? recordsOf(finder)?.parts.filter(isId).sort(byDepth)[0] : undefined;
  return made && (!finder || found) ? { made: made.pointer, found: found?.pointer ?? '' } : null;
}

const byDepth = (a: AnswerField, b: AnswerField): number => a.pointer.split('/').length - b.pointer.split('/').length;

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
      isReading(each) &&
      each.path.startsWith(`${main.path}/{`) &&
      each.fields.filter(field => field.in === 'path').length === 1,
  );
  const to = read?.fields.find(field => field.in === 'path');
  return read && to && id ? { operationId: read.id, to: to.key, from: id.pointer } : null;
}
