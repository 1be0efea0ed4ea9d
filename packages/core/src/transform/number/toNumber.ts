import { IsIn } from 'class-validator';
import { asText, isExactNumber, withoutEnd, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

/** `either` goes by how each number is written, `asked` too, but not where that has two meanings. */
const marks = ['asked', 'point', 'comma', 'either'] as const;
export type DecimalMark = (typeof marks)[number];

class ToNumberParams {
  /** Which mark divides the decimals where a number can be read in two ways. */
  @IsIn(marks) decimal: DecimalMark = 'either';
}

const written = /[-+−]?\s?\d[\d.,’'\u00a0\u202f]*(?: \d{3}(?!\d)[\d.,]*)*(?:[eE][-+]?\d+)?/;

const markWords: Record<DecimalMark, string> = {
  asked: 'comma or point',
  point: 'decimal point',
  comma: 'decimal comma',
  either: 'comma or point',
};

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
        { value: 'asked', label: 'comma or point, ask if unclear' },
        { value: 'point', label: 'point' },
        { value: 'comma', label: 'comma' },
        { value: 'either', label: 'comma or point, whichever is last' },
      ],
    },
  ],
  accepts: 'any',
  returns: 'number',
  explain: ({ decimal }) => `number, ${markWords[decimal]}`,
  apply(value, { decimal }): Json | Problem {
    if (typeof value === 'number') return value;
    const text = asText(value);
    const found = writtenNumber(text);
    if (decimal === 'asked' && found !== null && marksOf(found) === 'both')
      return new Problem(
        'number.mark',
        `“${found}” has two meanings: say whether the point or the comma is before the decimals.`,
        value,
      );
    const plain = found === null ? '' : plainNumber(found, decimal);
    // Decimals may be rounded; an identifier may not.
    if (/^[-+]?\d{16,}$/.test(plain) && !isExactNumber(plain))
      return new Problem('number.digits', `“${plain}” has more digits than a number can hold: send it as text.`, value);
    const number = plain === '' ? NaN : Number(plain);
    return Number.isFinite(number) ? number : new Problem('number.none', `There is no number in “${text}”.`, value);
  },
  examples: [
    { params: { decimal: 'either' }, in: '8,4 °C', out: 8.4 },
    { params: { decimal: 'either' }, in: 'about 7.5', out: 7.5 },
    { params: { decimal: 'either' }, in: '1.234,56', out: 1234.56 },
    { params: { decimal: 'either' }, in: '1,234.56', out: 1234.56 },
    { params: { decimal: 'either' }, in: '12 500 µS', out: 12500 },
    { params: { decimal: 'comma' }, in: '1.234', out: 1234 },
    { params: { decimal: 'comma' }, in: '7.5', out: 7.5 },
    { params: { decimal: 'point' }, in: '8,4 °C', out: 8.4 },
    { params: { decimal: 'asked' }, in: '8,4 °C', out: 8.4 },
    { params: { decimal: 'asked' }, in: '1.234,56', out: 1234.56 },
    { params: { decimal: 'asked' }, in: '0.125', out: 0.125 },
    { params: { decimal: 'asked' }, in: '1,234', out: { problem: 'number.mark' } },
    { params: { decimal: 'point' }, in: '1,234', out: 1234 },
    { params: { decimal: 'either' }, in: '−3', out: -3 },
    { params: { decimal: 'either' }, in: '4 stars', out: 4 },
    { params: { decimal: 'either' }, in: '9007199254740992', out: 9007199254740992 },
    { params: { decimal: 'either' }, in: '9007199254740993', out: { problem: 'number.digits' } },
    { params: { decimal: 'either' }, in: 6, out: 6 },
    { params: { decimal: 'either' }, in: 'could not read the strip', out: { problem: 'number.none' } },
  ],
});

/** The first number of a text without blanks and marks that only divide; null where there is none. */
function writtenNumber(text: string): string | null {
  const found = written.exec(text)?.[0];
  return found === undefined ? null : withoutEnd(found.replace(/[\s’'\u00a0\u202f]/g, '').replace('−', '-'), '.,');
}

const withPoint = /^[-+]?(?:[1-9]\d{0,2}(?:,\d{3})+|\d+)(?:\.\d+)?(?:e[-+]?\d+)?$/i;
const withComma = /^[-+]?(?:[1-9]\d{0,2}(?:\.\d{3})+|\d+)(?:,\d+)?(?:e[-+]?\d+)?$/i;

/** Which marks may stand before the decimals of a written number; `either` where it has no mark, `none` where neither reads it. */
function marksOf(digits: string): 'point' | 'comma' | 'both' | 'either' | 'none' {
  if (!/[.,]/.test(digits)) return 'either';
  const [point, comma] = [withPoint.test(digits), withComma.test(digits)];
  if (point && comma) return 'both';
  return point ? 'point' : comma ? 'comma' : 'none';
}

/**
 * The mark that stands before the decimals, concluded from numbers that can be read in one way only; `asked` where none is of that kind or
 * they disagree.
 */
export function decimalMarkOf(texts: readonly string[]): DecimalMark {
  const seen = new Set<'point' | 'comma'>();
  for (const text of texts) {
    const number = writtenNumber(text);
    const mark = number === null ? 'none' : marksOf(number);
    if (mark === 'point' || mark === 'comma') seen.add(mark);
  }
  const [mark] = seen;
  return seen.size === 1 ? mark! : 'asked';
}

/** The number as JavaScript writes it: no thousands marks, a point before the decimals. */
function plainNumber(digits: string, decimal: DecimalMark): string {
  const possible = marksOf(digits);
  const decimalMark = possible === 'both' ? decimal : possible;
  const mark = decimalMark === 'comma' ? ',' : decimalMark === 'point' ? '.' : lastMark(digits);
  return digits.replaceAll(mark === ',' ? '.' : ',', '').replace(mark, '.');
}

/** The mark that stands last divides the decimals, unless it stands more than once. */
function lastMark(digits: string): '.' | ',' {
  const comma = digits.lastIndexOf(',');
  const point = digits.lastIndexOf('.');
  const last = comma > point ? ',' : '.';
  const repeats = digits.split(last).length > 2;
  return repeats ? (last === ',' ? '.' : ',') : last;
}
