import { answerOf, asText, isBlank, type Json, type Submission } from '../submission';

/** One test of one answer. `values` holds one for equals and contains, any number for oneOf, none for blank. */
export interface Test {
  field: string;
  is: Comparator;
  values: string[];
  not: boolean;
}

export const comparators = ['equals', 'oneOf', 'contains', 'blank'] as const;
export type Comparator = (typeof comparators)[number];

/** Which submissions go: all of them, or those for which every test holds. */
export interface Condition {
  all: Test[];
}

export const everything: Condition = { all: [] };

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
const textsOf = (value: Json | undefined): string[] => (Array.isArray(value) ? value.map(asText) : [asText(value)]);

/** Each comparator over the texts of an answer; upper and lower case count as the same. */
const holds: Record<Comparator, (answer: Json | undefined, values: string[]) => boolean> = {
  equals: (answer, [value = '']) => textsOf(answer).some(text => same(text, value)),
  oneOf: (answer, values) => textsOf(answer).some(text => values.some(value => same(text, value))),
  contains: (answer, [value = '']) => asText(answer).toLowerCase().includes(value.toLowerCase()),
  blank: answer => isBlank(answer),
};

/** The condition as a function of a submission. */
export function compileCondition({ all }: Condition): (submission: Submission) => boolean {
  return submission => all.every(test => holds[test.is](answerOf(submission, test.field), test.values) !== test.not);
}

const words: Record<Comparator, [is: string, isNot: string]> = {
  equals: ['is', 'is not'],
  oneOf: ['is one of', 'is none of'],
  contains: ['contains', 'does not contain'],
  blank: ['is blank', 'is filled'],
};

/** How a comparator reads in a sentence. */
export const comparatorWords = (is: Comparator, not: boolean): string => words[is][not ? 1 : 0];

/** A test in words. @example “Which site?” is one of AB-07, AB-09 */
export function explainTest(test: Test, labelOf: (key: string) => string): string {
  const values = test.is === 'blank' ? '' : ` ${test.values.join(', ') || '…'}`;
  return `${labelOf(test.field)} ${comparatorWords(test.is, test.not)}${values}`;
}
