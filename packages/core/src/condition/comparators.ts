import { RE2JS } from 're2js';
import { asText, isBlank, isFileOf, type FieldKind, type Json } from '../submission';
import { compileChain, isProblem } from '../transform';

/** One way of testing an answer. */
interface ComparatorDefinition {
  /** How it and its contrary read in a sentence. */
  words: [is: string, isNot: string];
  /** The kinds it is offered for. */
  suits: readonly FieldKind[] | 'any';
  /** How many values it takes. */
  takes: 'none' | 'one' | 'two' | 'many';
  /** Of the answer and the values it is compared with; upper and lower case count as the same. */
  holds(answer: Json | undefined, values: string[], read: Reading): boolean;
}

/** How numbers and dates inside answers are read. */
export interface Reading {
  /** The number in a text, or null. */
  number(value: Json | undefined): number | null;
  /** The instant of a date in ms since 1970, or null. */
  date(value: Json | undefined): number | null;
}

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
const textsOf = (value: Json | undefined): string[] => (Array.isArray(value) ? value.map(asText) : [asText(value)]);
const itemsOf = (value: Json | undefined): Json[] =>
  isBlank(value) ? [] : Array.isArray(value) ? value.filter(each => !isBlank(each)) : [value!];
const lower = (value: Json | undefined) => asText(value).toLowerCase();

const textual: FieldKind[] = ['text', 'multiline', 'name', 'email', 'phone', 'url', 'choice', 'address', 'json'];
const measured: FieldKind[] = ['number', 'text', 'choice'];
const dated: FieldKind[] = ['date', 'datetime', 'text'];
const counted: FieldKind[] = ['choices', 'files', 'table'];

const patterns = new Map<string, RE2JS | null>();

/** The pattern on an engine whose time grows with the text alone, or null for none. */
function patternOf(source: string): RE2JS | null {
  if (!patterns.has(source)) {
    if (patterns.size > 200) patterns.clear();
    try {
      patterns.set(source, RE2JS.compile(source, RE2JS.CASE_INSENSITIVE));
    } catch {
      patterns.set(source, null);
    }
  }
  return patterns.get(source)!;
}

const byNumber =
  (holds: (answer: number, values: number[]) => boolean): ComparatorDefinition['holds'] =>
  (answer, values, read) => {
    const number = read.number(answer);
    const limits = values.map(read.number);
    return number !== null && limits.length > 0 && limits.every(each => each !== null) && holds(number, limits);
  };
const byDate =
  (holds: (answer: number, values: number[]) => boolean): ComparatorDefinition['holds'] =>
  (answer, values, read) => {
    const date = read.date(answer);
    const limits = values.map(read.date);
    return date !== null && limits.length > 0 && limits.every(each => each !== null) && holds(date, limits);
  };
const day = 24 * 60 * 60 * 1000;

const define = <Name extends string>(definitions: Record<Name, ComparatorDefinition>) => definitions;

const definitions = define({
  equals: {
    words: ['is', 'is not'],
    suits: 'any',
    takes: 'one',
    holds: (answer, [value = '']) => textsOf(answer).some(text => same(text, value)),
  },
  oneOf: {
    words: ['is one of', 'is none of'],
    suits: 'any',
    takes: 'many',
    holds: (answer, values) => textsOf(answer).some(text => values.some(value => same(text, value))),
  },
  contains: {
    words: ['contains', 'does not contain'],
    suits: [...textual, 'choices', 'date', 'datetime', 'files', 'table', 'number'],
    takes: 'one',
    holds: (answer, [value = '']) => lower(answer).includes(value.toLowerCase()),
  },
  blank: { words: ['is blank', 'is filled'], suits: 'any', takes: 'none', holds: answer => isBlank(answer) },
  startsWith: {
    words: ['starts with', 'does not start with'],
    suits: textual,
    takes: 'one',
    holds: (answer, [value = '']) => lower(answer).trimStart().startsWith(value.toLowerCase()),
  },
  endsWith: {
    words: ['ends with', 'does not end with'],
    suits: textual,
    takes: 'one',
    holds: (answer, [value = '']) => lower(answer).trimEnd().endsWith(value.toLowerCase()),
  },
  matches: {
    words: ['matches the pattern', 'does not match the pattern'],
    suits: textual,
    takes: 'one',
    holds: (answer, [value = '']) => patternOf(value)?.matcher(asText(answer)).find() ?? false,
  },
  above: {
    words: ['is above', 'is not above'],
    suits: measured,
    takes: 'one',
    holds: byNumber((n, [than]) => n > than!),
  },
  below: {
    words: ['is below', 'is not below'],
    suits: measured,
    takes: 'one',
    holds: byNumber((n, [than]) => n < than!),
  },
  between: {
    words: ['is from … to', 'is outside of'],
    suits: measured,
    takes: 'two',
    holds: byNumber((n, [from, to]) => to !== undefined && n >= from! && n <= to),
  },
  before: {
    words: ['is before', 'is not before'],
    suits: dated,
    takes: 'one',
    holds: byDate((d, [than]) => d < than!),
  },
  after: {
    words: ['is after', 'is not after'],
    suits: dated,
    takes: 'one',
    // After a day means after its end.
    holds: byDate((d, [than]) => d >= than! + (than! % day === 0 ? day : 1)),
  },
  yes: {
    words: ['is yes', 'is not yes'],
    suits: ['boolean', 'choice', 'text', 'choices'],
    takes: 'none',
    holds: answer => yesNo.run(answer ?? null) === true,
  },
  hasAll: {
    words: ['has all of', 'has not all of'],
    suits: ['choices'],
    takes: 'many',
    holds: (answer, values) => values.every(value => textsOf(answer).some(text => same(text, value))),
  },
  only: {
    words: ['has nothing but', 'has other than'],
    suits: ['choices'],
    takes: 'many',
    holds: (answer, values) =>
      itemsOf(answer).length > 0 && itemsOf(answer).every(item => values.some(value => same(asText(item), value))),
  },
  atLeast: {
    words: ['has at least', 'has fewer than'],
    suits: counted,
    takes: 'one',
    holds: (answer, values, read) => byNumber((n, [than]) => n >= than!)(itemsOf(answer).length, values, read),
  },
  fileOf: {
    words: ['has a file of type', 'has no file of type'],
    suits: ['files'],
    takes: 'one',
    holds: (answer, [value = '']) => itemsOf(answer).some(file => isFileOf(file, value)),
  },
});

export type Comparator = keyof typeof definitions;
export const comparators = Object.keys(definitions) as Comparator[];

const yesNo = compileChain([{ id: 'yesno.read', params: {} }]);
const toNumber = compileChain([{ id: 'number.read', params: {} }]);
const toDate = compileChain([{ id: 'date.format', params: { order: 'dayFirst', to: 'epochMillis', zone: 'UTC' } }]);
const numberOrNull = (value: unknown): number | null => (typeof value === 'number' ? value : null);

/** Numbers with comma or point, dates with the day first unless they are written with the year first. */
const reading: Reading = {
  number: value => (isBlank(value) ? null : numberOrNull(toNumber.run(value!))),
  date(value) {
    const read = isBlank(value) ? null : toDate.run(value!);
    return isProblem(read) ? null : numberOrNull(read);
  },
};

export const holds = (is: Comparator, answer: Json | undefined, values: string[]): boolean =>
  definitions[is].holds(answer, values, reading);

/** How many values a comparator takes. */
export const takesValues = (is: Comparator): ComparatorDefinition['takes'] => definitions[is].takes;

/** How a comparator reads in a sentence. */
export const comparatorWords = (is: Comparator, not: boolean): string => definitions[is].words[not ? 1 : 0];

/** The comparators that make sense for answers of this kind. */
export const comparatorsFor = (kind: FieldKind): Comparator[] =>
  comparators.filter(each => {
    const { suits } = definitions[each];
    return suits === 'any' || suits.includes(kind);
  });
