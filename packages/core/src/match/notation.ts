import { asText, type Json } from '../submission';
import { decimalMarkOf, type DateOrder, type DecimalMark } from '../transform';
import type { OtherAnswers } from './region';

const figures = /^\s*(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}(?!\d)/;
/** Other answers that may tell how numbers are written: a number and hardly more, no date, no clock, no telephone number. */
const numberAlone = /^[-+−]?\d[\d.,’']*\s?(?!uhr|h$|[ap]\.?m)[^\d\s]{0,4}$/iu;

/**
 * The order in which dates are meant: that of most dates that can be read in one way only, of the question's answers, else of the other
 * questions'. Where none tells, what has two meanings is asked.
 */
export function dateOrderOf(values: readonly Json[], others: readonly OtherAnswers[] = []): DateOrder {
  for (const looked of [values, others.flatMap(each => each.values)]) {
    const order = orderIn(looked);
    if (order) return order;
  }
  return 'asked';
}

function orderIn(values: readonly Json[]): DateOrder | null {
  let [day, month] = [0, 0];
  for (const value of values) {
    const found = figures.exec(asText(value));
    if (!found) continue;
    if (Number(found[1]) > 12) day += 1;
    if (Number(found[2]) > 12) month += 1;
  }
  return day === month ? null : month > day ? 'monthFirst' : 'dayFirst';
}

/** The mark before the decimals, concluded in the same way. */
export function decimalOf(values: readonly Json[], others: readonly OtherAnswers[] = []): DecimalMark {
  const texts = (from: readonly Json[]) => from.flat().filter(each => typeof each === 'string');
  const own = decimalMarkOf(texts(values));
  return own === 'asked'
    ? decimalMarkOf(others.flatMap(each => texts(each.values).filter(text => numberAlone.test(text.trim()))))
    : own;
}
