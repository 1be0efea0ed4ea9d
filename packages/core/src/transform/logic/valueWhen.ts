import { IsIn, IsString, MaxLength } from 'class-validator';
import { asText, isBlank, type Json } from '../../submission';
import { defineTransform } from '../define';
import { linesOf } from '../linesOf';

const tests = {
  is: 'is',
  isNot: 'is not',
  contains: 'contains',
  starts: 'starts with',
  above: 'is above',
  below: 'is below',
  filled: 'is filled',
  blank: 'is blank',
} as const;
type Test = keyof typeof tests;

class ValueWhenParams {
  /** The question that is looked at; empty for the value itself. */
  @IsString() @MaxLength(500) question: string = '';
  @IsIn(Object.keys(tests)) is: Test = 'is';
  /** One a line: any of them is enough. */
  @IsString() @MaxLength(2000) compare: string = '';
  /** Empty for the value itself. */
  @IsString() @MaxLength(500) then: string = '';
  /** `=` for the value itself; empty for nothing. */
  @IsString() @MaxLength(500) otherwise: string = '=';
}

const plain = (text: string) => text.trim().toLowerCase();
const numberOf = (text: string) => Number(text.trim().replace(',', '.'));

const holds: Record<Test, (value: Json, compare: string) => boolean> = {
  is: (value, compare) => textsOf(value).some(text => plain(text) === plain(compare)),
  isNot: (value, compare) => textsOf(value).every(text => plain(text) !== plain(compare)),
  contains: (value, compare) => plain(asText(value)).includes(plain(compare)),
  starts: (value, compare) => plain(asText(value)).startsWith(plain(compare)),
  above: (value, compare) => numberOf(asText(value)) > numberOf(compare),
  below: (value, compare) => numberOf(asText(value)) < numberOf(compare),
  filled: value => !isBlank(value),
  blank: value => isBlank(value),
};
const textsOf = (value: Json) => (Array.isArray(value) ? value.map(asText) : [asText(value)]);

/** One value when something holds of this or another answer, and another when not. Case does not matter. */
export const valueWhen = defineTransform<ValueWhenParams>({
  id: 'logic.when',
  family: 'logic',
  label: 'Value by condition',
  summary: 'Gives one value if a condition is met, and another if not.',
  params: ValueWhenParams,
  asks: [
    { name: 'question', label: 'If', kind: 'question', optional: true, hint: 'the value itself' },
    { name: 'is', label: 'Test', choices: Object.entries(tests).map(([value, label]) => ({ value, label })) },
    { name: 'compare', label: 'Value', kind: 'lines', optional: true, hint: 'one per line' },
    { name: 'then', label: 'Then', optional: true, hint: 'the value itself' },
    { name: 'otherwise', label: 'Else', optional: true, hint: 'nothing; = for the value itself' },
  ],
  accepts: 'any',
  returns: 'same',
  looksAround: true,
  explain({ question, is, compare, then, otherwise }) {
    const other = otherwise === '=' ? 'the value itself' : otherwise === '' ? 'nothing' : `“${otherwise}”`;
    const asked = question === '' ? 'it' : 'another answer';
    return (
      `${then === '' ? 'itself' : `“${then}”`} when ${asked} ${tests[is]} ${linesOf(compare).join(' or ')}`.trimEnd() +
      `, else ${other}`
    );
  },
  apply(value, { question, is, compare, then, otherwise }, { answer }): Json {
    const looked = question === '' ? value : (answer?.(question) ?? null);
    const wanted = is === 'filled' || is === 'blank' ? [''] : linesOf(compare);
    const isSo =
      is === 'isNot' ? wanted.every(each => holds.isNot(looked, each)) : wanted.some(each => holds[is](looked, each));
    if (isSo) return then === '' ? value : then;
    return otherwise === '=' ? value : otherwise;
  },
  examples: [
    {
      params: { question: '', is: 'is', compare: 'severe\nworrying', then: 'high', otherwise: 'normal' },
      in: 'Severe',
      out: 'high',
    },
    { params: { question: '', is: 'is', compare: 'severe', then: 'high', otherwise: '' }, in: 'Low', out: '' },
    { params: { question: '', is: 'above', compare: '9', then: 'check it', otherwise: '=' }, in: 9.4, out: 'check it' },
    { params: { question: '', is: 'below', compare: '9', then: 'low', otherwise: '=' }, in: '9,5', out: '9,5' },
    { params: { question: '', is: 'isNot', compare: 'None', then: '', otherwise: '' }, in: ['None', 'Foam'], out: '' },
    { params: { question: 's1', is: 'filled', compare: '', then: 'x', otherwise: 'y' }, in: 'a', out: 'y' },
  ],
});
