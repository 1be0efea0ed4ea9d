import { escapeToken, isJsonObject, labelFromKey, type Json } from '../../submission';
import type { TargetField, TargetType } from '../operation';
import { suchAs } from '../suchAs';

const limits = { fields: 400, nesting: 5 };

/** The fields of an example record, those inside others by their whole path. */
export function fieldsOf(record: Json): TargetField[] {
  const fields: TargetField[] = [];
  const collect = (value: Json, pointer: string, names: string[]) => {
    if (fields.length >= limits.fields) return;
    if (isJsonObject(value) && names.length < limits.nesting && Object.keys(value).length > 0)
      for (const [name, inner] of Object.entries(value))
        collect(inner, `${pointer}/${escapeToken(name)}`, [...names, name]);
    else if (names.length > 0) fields.push({ ...fieldOf(names.join('.'), value), pointer });
  };
  collect(record, '', []);
  return fields;
}

/** A field as an example shows it: its value is told, and no more is known of it. */
export const fieldOf = (key: string, value: Json): TargetField => ({
  key,
  pointer: `/${escapeToken(key)}`,
  label: labelFromKey(key.split('.').at(-1)!),
  type: typeOf(value),
  required: false,
  readOnly: false,
  options: null,
  maxLength: null,
  description: suchAs(typeof value === 'string' ? value : value === null ? null : JSON.stringify(value)),
  ...(Array.isArray(value) && itemType(value) && { items: itemType(value) }),
});

/** What each item of a list is, where all of them are numbers or marks. */
function itemType(list: Json[]): TargetField['items'] {
  if (list.length === 0) return undefined;
  if (list.every(each => typeof each === 'boolean')) return 'boolean';
  if (!list.every(each => typeof each === 'number')) return undefined;
  return list.every(Number.isInteger) ? 'integer' : 'number';
}

/** What an example value looks like. */
export function typeOf(value: Json): TargetType {
  if (typeof value === 'number') return Number.isInteger(value) ? 'integer' : 'number';
  if (typeof value === 'boolean') return 'boolean';
  if (Array.isArray(value))
    return value.length > 0 && (value.every(each => typeof each === 'string') || itemType(value)) ? 'choices' : 'json';
  if (isJsonObject(value)) return 'json';
  if (typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value)) return 'date';
  if (typeof value === 'string' && /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)$/.test(value))
    return 'datetime';
  return 'text';
}
