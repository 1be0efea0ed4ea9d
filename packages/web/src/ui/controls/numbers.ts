/** What a number's box says when it is empty: nothing that is allowed (null), or that a number is missing (NaN). */
export type WhenEmpty = 'null' | 'missing';

/**
 * The number that is written, in units of `per`; NaN for what is none, so that it can be refused rather than guessed. A comma
 * counts as the decimal point where it can be nothing else.
 */
export function numberIn(text: string, whenEmpty: WhenEmpty = 'missing', per = 1): number | null {
  const written = text.trim().replace(/^([+-]?\d+),(\d{1,2})$/, '$1.$2');
  if (written === '') return whenEmpty === 'null' ? null : Number.NaN;
  if (!/^[+-]?(\d+(\.\d*)?|\.\d+)$/.test(written)) return Number.NaN;
  // Units such as MB are whole below their own size.
  return per === 1 ? Number(written) : Math.round(Number(written) * per);
}

/** A number as it is written in its box. */
export const numberText = (value: number | null | undefined, per = 1): string =>
  value === null || value === undefined || Number.isNaN(value) ? '' : String(value / per);
