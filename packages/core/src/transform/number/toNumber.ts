import { IsIn } from 'class-validator';
import { asText, withoutEnd, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const marks = ['either', 'point', 'comma'] as const;

class ToNumberParams {
  /** Which mark divides the decimals; “either” decides by how each number is written. */
  @IsIn(marks) decimal: (typeof marks)[number] = 'either';
}

const written = /[-+−]?\s?\d[\d.,’'\u00a0\u202f]*(?: \d{3}(?!\d)[\d.,]*)*(?:[eE][-+]?\d+)?/;

/** Reads the first number in a text, with decimal comma or point, with or without thousands marks and units. */
export const toNumber = defineTransform<ToNumberParams>({
  id: 'number.read',
  family: 'number',
  label: 'To number',
  summary: 'Reads the number in a text: 8,4 °C gives 8.4.',
  params: ToNumberParams,
  asks: [
    {
      name: 'decimal',
      label: 'Decimal mark',
      choices: [
        { value: 'either', label: 'comma or point' },
        { value: 'point', label: 'point' },
        { value: 'comma', label: 'comma' },
      ],
    },
  ],
  accepts: 'any',
  returns: 'number',
  explain: ({ decimal }) => `number, ${decimal === 'either' ? 'comma or point' : `decimal ${decimal}`}`,
  apply(value, { decimal }): Json | Problem {
    if (typeof value === 'number') return value;
    const text = asText(value);
    const found = written.exec(text)?.[0];
    const number = found === undefined ? NaN : Number(plainNumber(found, decimal));
    return Number.isFinite(number) ? number : new Problem('number.none', `There is no number in “${text}”.`, value);
  },
  examples: [
    { params: { decimal: 'either' }, in: '8,4 °C', out: 8.4 },
    { params: { decimal: 'either' }, in: 'about 7.5', out: 7.5 },
    { params: { decimal: 'either' }, in: '1.234,56', out: 1234.56 },
    { params: { decimal: 'either' }, in: '1,234.56', out: 1234.56 },
    { params: { decimal: 'either' }, in: '12 500 µS', out: 12500 },
    { params: { decimal: 'comma' }, in: '1.234', out: 1234 },
    { params: { decimal: 'point' }, in: '1,234', out: 1234 },
    { params: { decimal: 'either' }, in: '−3', out: -3 },
    { params: { decimal: 'either' }, in: '4 stars', out: 4 },
    { params: { decimal: 'either' }, in: 6, out: 6 },
    { params: { decimal: 'either' }, in: 'could not read the strip', out: { problem: 'number.none' } },
  ],
});

/** The number as JavaScript writes it: no thousands marks, a point before the decimals. */
function plainNumber(written: string, decimal: ToNumberParams['decimal']): string {
  const digits = withoutEnd(written.replace(/[\s’'\u00a0\u202f]/g, '').replace('−', '-'), '.,');
  const mark = decimal === 'comma' ? ',' : decimal === 'point' ? '.' : decimalMark(digits);
  return digits.replaceAll(mark === ',' ? '.' : ',', '').replace(mark, '.');
}

/** The mark that stands last divides the decimals, unless it stands more than once. */
function decimalMark(digits: string): '.' | ',' {
  const comma = digits.lastIndexOf(',');
  const point = digits.lastIndexOf('.');
  const last = comma > point ? ',' : '.';
  const repeats = digits.split(last).length > 2;
  return repeats ? (last === ',' ? '.' : ',') : last;
}
