import { asText, isJsonObject, type Json } from '../submission';
import { Problem } from '../transform';
import type { TargetField, TargetType } from './operation';

const date = /^\d{4}-\d\d-\d\d$/;
/** RFC 3339 §5.6 date-time. */
const dateTime =
  /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])T([01]\d|2[0-3]):[0-5]\d:([0-5]\d|60)(\.\d+)?(Z|[+-]([01]\d|2[0-3]):[0-5]\d)$/i;

const isRealDate = (text: string) => date.test(text) && new Date(`${text}T00:00:00Z`).toISOString().startsWith(text);
const isValidDate = (text: string) => {
  try {
    return isRealDate(text);
  } catch {
    return false;
  }
};

/** Whether a value is one that a type takes. Types are not converted: `"8.4"` is no number. */
const fits: Record<TargetType, (value: Json) => boolean> = {
  text: value => typeof value === 'string',
  number: value => typeof value === 'number' && Number.isFinite(value),
  integer: value => Number.isInteger(value),
  boolean: value => typeof value === 'boolean',
  date: value => typeof value === 'string' && isValidDate(value),
  datetime: value => typeof value === 'string' && dateTime.test(value) && isValidDate(value.slice(0, 10)),
  choice: value => typeof value === 'string',
  choices: value => Array.isArray(value) && value.every(item => typeof item === 'string'),
  attachments: value => Array.isArray(value) && value.every(item => isJsonObject(item) && typeof item.url === 'string'),
  json: () => true,
};

const wants: Record<TargetType, string> = {
  text: 'text',
  number: 'a number',
  integer: 'a whole number',
  boolean: 'true or false',
  date: 'a date such as 2026-11-04',
  datetime: 'a time such as 2026-11-04T07:55:00Z',
  choice: 'one of its options',
  choices: 'a list of its options',
  attachments: 'a list of files with links',
  json: 'any JSON',
};

const shown = (value: Json) => {
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
};

/** Why the target would refuse this value of this field, or null. */
export function refusal(field: TargetField, value: Json): Problem | null {
  if (!fits[field.type](value)) {
    const hint = field.type === 'text' && Array.isArray(value) ? ' Join the list.' : '';
    return new Problem(
      'target.type',
      `${field.key} takes ${wants[field.type]}; “${shown(value)}” is not.${hint}`,
      value,
    );
  }
  if (field.options) {
    const unknown = (Array.isArray(value) ? value : [value]).map(asText).find(text => !field.options!.includes(text));
    if (unknown !== undefined)
      return new Problem('target.option', `${field.key} does not list “${shown(unknown)}”.`, value);
  }
  if (field.maxLength !== null && typeof value === 'string' && value.length > field.maxLength) {
    return new Problem(
      'target.length',
      `${field.key} takes ${field.maxLength} characters; this has ${value.length}.`,
      value,
    );
  }
  return null;
}
