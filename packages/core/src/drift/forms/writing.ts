import { asText, type FieldKind, type Json } from '../../submission';

/** What a value is at bottom: kinds that samples of one question may show by chance are one. */
export type Group =
  'text' | 'number' | 'boolean' | 'date' | 'time' | 'email' | 'phone' | 'url' | 'files' | 'address' | 'table' | 'json';

const groups: Record<FieldKind, Group> = {
  text: 'text',
  multiline: 'text',
  name: 'text',
  choice: 'text',
  choices: 'text',
  number: 'number',
  boolean: 'boolean',
  date: 'date',
  datetime: 'date',
  time: 'time',
  email: 'email',
  phone: 'phone',
  url: 'url',
  files: 'files',
  address: 'address',
  table: 'table',
  json: 'json',
};

/** Ways to write a date, by what they look like; the order of day and month is told by all values together. */
const dates: [name: string, pattern: RegExp][] = [
  ['iso', /^\d{4}-\d\d-\d\d$/],
  ['iso-time', /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d/],
  ['compact', /^(19|20)\d\d(0[1-9]|1[0-2])([0-2]\d|3[01])$/],
  ['year-slash', /^\d{4}[/.]\d\d?[/.]\d\d?$/],
  ['slash', /^\d\d?\/\d\d?\/(\d{4}|\d\d)$/],
  ['dot', /^\d\d?\.\s?\d\d?\.\s?(\d{4}|\d\d)$/],
  ['dash', /^\d\d?-\d\d?-\d{4}$/],
  ['slash-time', /^\d\d?\/\d\d?\/(\d{4}|\d\d)[ ,]+\d\d?:\d\d/],
  ['dot-time', /^\d\d?\.\d\d?\.(\d{4}|\d\d)[ ,]+\d\d?:\d\d/],
  ['day-month', /^\d\d?\.? \p{L}{3,}\.?,? \d{4}/u],
  ['month-day', /^\p{L}{3,}\.? \d\d?(st|nd|rd|th)?,? \d{4}/u],
  ['stamp', /^1[0-9]{9}$/],
  ['stamp-ms', /^1[0-9]{12}$/],
];

/** How a date is written; null for what is none. */
export const dateWriting = (text: string): string | null =>
  dates.find(([, pattern]) => pattern.test(text.trim()))?.[0] ?? null;

/** The group of a value, as its type and its kind say; a date written in whatever way is one. */
export function groupOf(kind: FieldKind, value: Json): Group {
  if (typeof value === 'number') return 'number';
  if (typeof value === 'boolean') return 'boolean';
  const group = groups[kind];
  if (group !== 'text' && group !== 'phone') return group;
  const way = typeof value === 'string' ? dateWriting(value) : null;
  if (way !== null && way !== 'compact' && !way.startsWith('stamp')) return 'date';
  // A number in a text is one, written otherwise.
  return typeof value === 'string' && /^[-+]?\d+([.,]\d+)*$/.test(value.trim()) && group === 'text' ? 'number' : group;
}

/** How a text is written: runs of digits and letters as one sign each. */
const formOf = (text: string): string => text.replace(/\p{N}+/gu, '9').replace(/\p{L}[\p{L}\p{M}]*/gu, 'a');

/** How values of a group are written, each way by a name; nothing where that says nothing. */
export function writingsOf(group: Group, values: readonly Json[]): Map<string, number> {
  const ways = new Map<string, number>();
  const add = (way: string | null) => way !== null && ways.set(way, (ways.get(way) ?? 0) + 1);
  const texts = values.flatMap(value =>
    Array.isArray(value) || typeof value === 'object' ? [] : [asText(value).trim()],
  );
  if (group === 'date') {
    const order = dayOrder(texts);
    for (const text of texts) {
      const way = dateWriting(text);
      add(
        way === 'slash' || way === 'slash-time'
          ? `${way} ${order}`
          : way === 'iso-time'
            ? `${way} ${zoneOf(text)}`
            : way,
      );
    }
    return ways;
  }
  if (group === 'time') {
    for (const text of texts)
      add(
        /[ap]\.?m/i.test(text)
          ? 'twelve'
          : /^\d\d?:\d\d/.test(text)
            ? 'colon'
            : /^\d\d?[.h]\d\d/.test(text)
              ? 'other'
              : 'bare',
      );
    return ways;
  }
  if (group === 'phone') {
    for (const text of texts) add(/^(\+|00)/.test(text.replace(/[\s(]/g, '')) ? 'international' : 'national');
    return ways;
  }
  if (group === 'number') {
    // Whole numbers are written alike, whatever the mark before decimals is.
    for (const value of values)
      if (typeof value === 'number') add('json');
      else if (/[.,]\d*$/.test(asText(value))) add(/,\d*$/.test(asText(value)) ? 'comma' : 'point');
      else add('text');
    const whole = ways.get('text') ?? 0;
    ways.delete('text');
    const marks =
      ways.has('point') || ways.has('comma') ? [...ways.keys()].filter(each => each !== 'json') : ['point', 'comma'];
    if (whole > 0) for (const mark of marks) ways.set(mark, (ways.get(mark) ?? 0) + whole);
    return ways;
  }
  if (group === 'text') {
    for (const text of texts) if (/\p{N}/u.test(text) && text.length <= 40) add(formOf(text));
  }
  if (group === 'boolean')
    for (const value of values)
      add(typeof value === 'boolean' ? 'json' : asText(value).toLowerCase().length > 1 ? 'word' : 'sign');
  return ways;
}

/** Which of the first two numbers is the day, by all values together; `unknown` where each could be either. */
function dayOrder(texts: readonly string[]): 'day-first' | 'month-first' | 'unknown' {
  const pairs = texts.flatMap(text => {
    const [, a, b] = /^(\d\d?)\/(\d\d?)\//.exec(text) ?? [];
    return a === undefined ? [] : [[Number(a), Number(b)] as const];
  });
  const isDay = pairs.some(([a]) => a > 12);
  const isMonth = pairs.some(([, b]) => b > 12);
  return isDay === isMonth ? 'unknown' : isDay ? 'day-first' : 'month-first';
}

const zoneOf = (text: string): string =>
  /Z$/i.test(text) ? 'zulu' : /[+-]\d\d:?\d\d$/.test(text) ? 'offset' : 'local';
