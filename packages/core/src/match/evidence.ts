import { asText, plainText, type FieldKind, type Json } from '../submission';

/** What a form asks. */
export interface SourceField {
  key: string;
  label?: string;
  kind?: FieldKind;
  /** Some of its answers. */
  samples?: Json[];
}

/** What a target takes. */
export interface MatchTarget {
  key: string;
  label?: string;
  /** As the target calls it: `string`, `email`, `date`, `number`, `choice`… */
  type?: string;
  required?: boolean;
  options?: string[];
  description?: string;
}

/** The nature of a value, in classes that can be told from a few samples. */
export type Nature =
  'email' | 'phone' | 'url' | 'number' | 'boolean' | 'date' | 'time' | 'files' | 'list' | 'table' | 'text';

const kinds: Partial<Record<FieldKind, Nature>> = {
  email: 'email',
  phone: 'phone',
  url: 'url',
  number: 'number',
  boolean: 'boolean',
  date: 'date',
  datetime: 'date',
  time: 'time',
  files: 'files',
  choices: 'list',
  table: 'table',
};

const patterns: [Nature, RegExp][] = [
  ['email', /^[^\s@]+@[^\s@]+\.[a-z]{2,}$/i],
  ['url', /^https?:\/\/\S+$/i],
  ['date', /^(\d{4}-\d\d-\d\d|\d{1,2}[./-]\d{1,2}[./-]\d{2,4})([T ,].*)?$/],
  ['time', /^\d{1,2}[:.]\d\d( ?[ap]m)?$/i],
  ['number', /^-?\d+([.,]\d+)?$/],
  ['boolean', /^(true|false|yes|no|ja|nein|oui|non|s[ií])$/i],
  ['phone', /^\+?[\d\s()/.-]{7,20}$/],
];

const natureOfValue = (value: Json): Nature | null => {
  if (typeof value === 'number') return 'number';
  if (typeof value === 'boolean') return 'boolean';
  if (Array.isArray(value)) return value.some(each => typeof each === 'object' && each !== null) ? 'table' : 'list';
  const text = asText(value).trim();
  return text === '' ? null : (patterns.find(([, pattern]) => pattern.test(text))?.[0] ?? 'text');
};

/** What the answers are: as the kind says, or as most samples show. */
export function natureOf({ kind, samples = [] }: SourceField): Nature {
  const stated = kind && (Object.hasOwn(kinds, kind) ? kinds[kind] : undefined);
  if (stated) return stated;
  const seen = samples.map(natureOfValue).filter(each => each !== null);
  const [first] = seen;
  return first !== undefined && seen.filter(each => each === first).length / seen.length > 0.7 ? first : 'text';
}

const types: [pattern: RegExp, nature: Nature][] = [
  [/e-?mail/i, 'email'],
  [/phone|^tel/i, 'phone'],
  [/^(url|uri|link|website)$/i, 'url'],
  [/^(number|integer|int|float|decimal|whole|currency|double|money)$/i, 'number'],
  [/^(bool(ean)?|flag|checkbox|yes.?no)$/i, 'boolean'],
  [/date|timestamp/i, 'date'],
  [/^time$/i, 'time'],
  [/file|attachment|image|upload/i, 'files'],
  [/^(choices|options|multi.*|array|list|tags|set)$/i, 'list'],
];

/** What the target takes, as far as its type says. */
export const natureOfTarget = ({ type = '' }: MatchTarget): Nature =>
  types.find(([pattern]) => pattern.test(type))?.[1] ?? 'text';

/** How well the answers suit what the target takes: 1 for a telling agreement, 0 for neither, less for a contradiction. */
export function agreement(source: Nature, target: Nature): number {
  if (source === target) return source === 'text' ? 0 : 1;
  if (target === 'text') return source === 'files' || source === 'table' ? -0.4 : 0;
  if (source === 'text') return target === 'files' ? -1 : target === 'email' || target === 'boolean' ? -0.5 : -0.1;
  const near: [Nature, Nature][] = [
    ['number', 'boolean'],
    ['phone', 'number'],
    ['number', 'phone'],
    ['time', 'date'],
    ['boolean', 'list'],
    ['date', 'time'],
    ['number', 'date'],
  ];
  return near.some(([a, b]) => a === source && b === target) ? -0.3 : -1;
}

/** Share of the source's different answers that are among the target's options. */
export function optionShare({ samples = [] }: SourceField, { options }: MatchTarget): number {
  if (!options || options.length === 0) return 0;
  const wanted = new Set(options.map(plainText));
  const given = [
    ...new Set(samples.flatMap(each => (Array.isArray(each) ? each : [each])).map(each => plainText(asText(each)))),
  ];
  const filled = given.filter(each => each !== '');
  return filled.length === 0 ? 0 : filled.filter(each => wanted.has(each)).length / filled.length;
}
