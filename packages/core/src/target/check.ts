import { asText, isFile, viaIn, type Json } from '../submission';
import { RE2JS } from 're2js';
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

/** A file, or a list of them, as answers hold them: `{ name, url, type, size }`. */
function isFiles(value: Json): boolean {
  return Array.isArray(value) ? value.every(isFile) : isFile(value);
}

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
  attachments: value =>
    Array.isArray(value) &&
    value.every(item => isFile(item) && typeof item.url === 'string' && viaIn(item.url) === null),
  file: isFiles,
  base64: isFiles,
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
  file: 'a file',
  base64: 'a file',
  json: 'any JSON',
};

const itemWants: Record<NonNullable<TargetField['items']>, string> = {
  number: 'numbers',
  integer: 'whole numbers',
  boolean: 'true and false',
};

const shown = (value: Json) => {
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
};

/** A number that goes into an address or a header is written as text there: text of one is as good. */
const meantBy = ({ in: place, type }: TargetField, value: Json): Json =>
  place && (type === 'integer' || type === 'number') && typeof value === 'string' && /^-?\d+(\.\d+)?$/.test(value)
    ? Number(value)
    : value;

/** Why the target would refuse this value of this field, or null. */
export function refusal(field: TargetField, given: Json): Problem | null {
  const value = meantBy(field, given);
  if (field.items && field.type === 'choices') {
    const wrong = Array.isArray(value) ? value.find(item => !fits[field.items!](item)) : value;
    if (wrong !== undefined)
      return new Problem(
        'target.type',
        `${field.key} takes a list of ${itemWants[field.items]}; “${shown(wrong)}” is not ${Array.isArray(value) ? 'one' : 'a list'}.`,
        value,
      );
  } else if (!fits[field.type](value)) {
    const hint = field.type === 'text' && Array.isArray(value) ? ' Join the list.' : '';
    return new Problem(
      'target.type',
      `${field.key} takes ${wants[field.type]}; “${shown(value)}” is not.${hint}`,
      value,
    );
  }
  const takesOne = field.type === 'base64' || (field.type === 'file' && field.pointer === '');
  if (takesOne && Array.isArray(value) && value.length > 1)
    return new Problem(
      'target.files',
      `${field.key} takes one file; this answer has ${value.length}. Make the call once for each of them.`,
      value,
    );
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
  return ruleBroken(field, value);
}

/** An address of a mail as people use them: no quoted or routed ones (RFC 5322 §3.4.1 allows more). */
const address = /^[^\s@<>(),;:\\"[\]]+@[^\s@<>(),;:\\"[\]]+\.[^\s@<>(),;:\\"[\].]+$/;
/** `Name <address>`, or an address alone. */
const mailbox = (text: string) => address.test(/^[^<>\r\n]*<([^<>]+)>$/.exec(text)?.[1] ?? text);

const formats: Record<NonNullable<TargetField['format']>, { is: (text: string) => boolean; wants: string }> = {
  email: { is: text => address.test(text), wants: 'an e-mail address' },
  addresses: {
    is: text => !/[\r\n]/.test(text) && text.split(',').every(each => mailbox(each.trim())),
    wants: 'e-mail addresses, with commas between',
  },
  uri: { is: text => URL.canParse(text), wants: 'a whole address such as https://example.org' },
  line: { is: text => !/[\r\n]/.test(text), wants: 'one line' },
};

/** A rule beside the type that a value breaks, or null. */
function ruleBroken(field: TargetField, value: Json): Problem | null {
  const wanted = wantedInstead(field, value);
  return wanted === null
    ? null
    : new Problem('target.format', `${field.key} takes ${wanted}; “${shown(value)}” is not.`, value);
}

/** What a field takes where it does not take this value. */
function wantedInstead({ format, minimum, maximum, pattern }: TargetField, value: Json): string | null {
  if (typeof value === 'string') {
    if (format && !formats[format].is(value)) return formats[format].wants;
    return pattern !== undefined && !matches(pattern, value) ? `text that matches ${pattern}` : null;
  }
  if (typeof value !== 'number') return null;
  if (minimum !== undefined && value < minimum) return `${minimum} or more`;
  return maximum !== undefined && value > maximum ? `${maximum} or less` : null;
}

const patterns = new Map<string, RE2JS | null>();

/** A pattern that can't be compiled lets everything pass: the target will say. */
function matches(pattern: string, text: string): boolean {
  if (!patterns.has(pattern)) {
    if (patterns.size > 500) patterns.clear();
    patterns.set(pattern, compiled(pattern));
  }
  return patterns.get(pattern)?.matcher(text).find() ?? true;
}

function compiled(pattern: string): RE2JS | null {
  try {
    return RE2JS.compile(pattern);
  } catch {
    return null;
  }
}
