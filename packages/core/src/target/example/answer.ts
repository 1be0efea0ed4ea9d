import { escapeToken, isBlank, isJsonObject, labelFromKey, type Json } from '../../submission';
import type { AnswerField, Operation } from '../operation';
import { typeOf } from './fields';

const limits = { fields: 100, nesting: 5, lists: 2 };

/**
 * What an answer holds, learned from one that was had: its values by where they stand, of its lists of records what one of
 * them has.
 */
export function answerFields(answer: Json, depth = 0): AnswerField[] {
  if (Array.isArray(answer)) return listField(answer, '', '', depth);
  const fields: AnswerField[] = [];
  const collect = (value: Json, pointer: string, names: string[]) => {
    if (fields.length >= limits.fields) return;
    const label = labelFromKey(names.at(-1) ?? '');
    if (isJsonObject(value) && names.length < limits.nesting && Object.keys(value).length > 0) {
      for (const [name, inner] of Object.entries(value))
        collect(inner, `${pointer}/${escapeToken(name)}`, [...names, name]);
      return;
    }
    const list = Array.isArray(value) ? listField(value, pointer, label, depth) : [];
    if (list.length > 0) fields.push(...list);
    else if (names.length > 0) fields.push({ pointer, label, type: typeOf(value) });
  };
  collect(answer, '', []);
  return fields;
}

/** An operation with what it answers: as it is described, else as it really answered. */
export const withAnswered = (operation: Operation, answered: Json | undefined): Operation =>
  (operation.answer?.length ?? 0) > 0 || answered === undefined
    ? operation
    : { ...operation, answer: answerFields(answered) };

const kept = { items: 5, length: 200, characters: 20_000 };

/** An answer as it is kept to be shown: lists and texts cut short; undefined for one that is large even so, or none. */
export function answerToKeep(answer: Json): Json | undefined {
  const short = cut(answer);
  return isBlank(short) || JSON.stringify(short).length > kept.characters ? undefined : short;
}

function cut(value: Json): Json {
  if (typeof value === 'string') return value.slice(0, kept.length);
  if (Array.isArray(value)) return value.slice(0, kept.items).map(cut);
  return isJsonObject(value)
    ? Object.fromEntries(Object.entries(value).map(([name, each]) => [name, cut(each)]))
    : value;
}

/** A list of records as one field, with what its records have: all that any of the first of them holds. */
function listField(list: Json[], pointer: string, label: string, depth: number): AnswerField[] {
  const some = list.slice(0, 20);
  if (depth < limits.lists && some.length > 1 && some.every(Array.isArray))
    return [{ pointer, label, type: 'json', items: columnFields(some) }];
  const records = some.filter(isJsonObject);
  if (records.length === 0 || depth >= limits.lists) return [];
  const items = new Map<string, AnswerField>();
  for (const record of records)
    for (const field of answerFields(record, depth + 1)) if (!items.has(field.pointer)) items.set(field.pointer, field);
  return [{ pointer, label, type: 'json', items: [...items.values()] }];
}

/** The columns of a list of rows, by the names that its first row gives them where that is one of names. */
function columnFields(rows: Json[][]): AnswerField[] {
  const [first = [], ...others] = rows;
  const isNames =
    first.every(each => typeof each === 'string' && each.trim() !== '' && !Number.isFinite(Number(each))) &&
    new Set(first).size === first.length &&
    // A name does not come again below itself.
    others.every(row => row.every((value, at) => isBlank(value) || value !== first[at]));
  const width = Math.min(limits.fields, Math.max(...rows.map(row => row.length)));
  return Array.from({ length: width }, (_, at) => ({
    pointer: `/${at}`,
    label: isNames && typeof first[at] === 'string' ? first[at].trim() : `Column ${at + 1}`,
    type: typeOf((isNames ? others : rows).map(row => row[at] ?? null).find(value => !isBlank(value)) ?? ''),
  }));
}
