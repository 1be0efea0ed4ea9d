import { withoutEnd } from './ends';

/** A string of JSON, or a number (RFC 8259 §6 and §7). */
const token = /"[^"\\]*(?:\\[\s\S][^"\\]*)*"|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/g;

/** What may be a number that a double can't hold: many digits, or an exponent of several. */
const maybeInexact = /[:,[\s]-?(?:[\d.]{16}|\d[\d.]*[eE][+-]?\d{2})|^\s*-?\d/;

/** A number by its digits and its power of ten: the same for the same number, however it is written. */
function partsOf(number: string): string {
  const [mantissa = '', exponent = '0'] = number.replace('-', '').toLowerCase().split('e');
  const [whole = '', decimals = ''] = mantissa.split('.');
  const digits = (whole + decimals).replace(/^0+/, '');
  const significant = withoutEnd(digits, '0');
  if (significant === '') return '0';
  return `${significant}e${Number(exponent) - decimals.length + digits.length - significant.length}`;
}

/** True for a number that a double holds, so that writing it again gives the same number (ECMAScript, Number::toString). */
export const isExactNumber = (number: string): boolean => {
  const value = Number(number);
  return Number.isFinite(value) && partsOf(String(value)) === partsOf(number);
};

/**
 * Parses JSON without changing a number: one that a double can't hold becomes a text of what was written, such as an identifier of
 * twenty digits. Throws SyntaxError where it is no JSON.
 * @returns the value, and how many numbers are texts now
 * @example exactJson('{"id": 12345678901234567890}') // { value: { id: '12345678901234567890' }, kept: 1 }
 */
export function exactJson(text: string): { value: unknown; kept: number } {
  const value: unknown = JSON.parse(text);
  if (!maybeInexact.test(text)) return { value, kept: 0 };
  let kept = 0;
  const exact = text.replace(token, each => {
    if (each.startsWith('"') || (each.length < 16 && !/e/i.test(each)) || isExactNumber(each)) return each;
    kept += 1;
    return `"${each}"`;
  });
  return { value: kept === 0 ? value : (JSON.parse(exact) as unknown), kept };
}
