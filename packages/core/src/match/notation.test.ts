import fc from 'fast-check';
import type { Json } from '../submission';
import { compileChain, newStep } from '../transform';
import { dateOrderOf, decimalOf } from './notation';

const other = (...values: Json[]) => [{ key: 'other', values }];

test.each<[string, Json[], ReturnType<typeof other>, string]>([
  ['a day that is no month', ['3/4/26', '25/4/26'], [], 'dayFirst'],
  ['a month that is second', ['3/4/26', '4/25/26'], [], 'monthFirst'],
  ['most of them', ['25/4/26', '26/4/26', '4/25/26'], [], 'dayFirst'],
  ['another question', ['3/4/26'], other('12/31/1984'), 'monthFirst'],
  ['its own before another', ['25/4/26'], other('12/31/1984'), 'dayFirst'],
  ['nothing', ['3/4/26'], other('a note', 7, null), 'asked'],
  ['as many for the one as for the other', ['25/4/26', '4/25/26'], [], 'asked'],
  ['what a machine wrote', ['2026-11-04'], [], 'asked'],
])('the order of dates by %s', (_, values, others, order) => expect(dateOrderOf(values, others)).toBe(order));

test.each<[string, Json[], ReturnType<typeof other>, string]>([
  ['decimals', ['8,4 °C', '1,250'], [], 'comma'],
  ['thousands', ['1,234,567', '1,250'], [], 'point'],
  ['both marks', ['1.234,56'], [], 'comma'],
  ['list items', [['7.5', '8']], [], 'point'],
  ['another question', ['1,250'], other('8,4 °C'), 'comma'],
  ['no date, clock or telephone number', ['1,250'], other('4.7.2026', '14.30 Uhr', '020.7946.0142', 'see p. 3.5'), 'asked'],
  ['two that disagree', ['7.5', '8,4'], [], 'asked'],
  ['nothing', ['1,250', '12', 7], [], 'asked'],
])('the mark before decimals by %s', (_, values, others, mark) => expect(decimalOf(values, others)).toBe(mark)); // prettier-ignore

test('a number written in a language is read as that number once one of them tells; no other reading is ever given for certain', () => {
  const number = fc.integer({ min: -9_999_999, max: 9_999_999 }).map(each => each / 1000);
  fc.assert(
    fc.property(fc.array(number, { minLength: 1, maxLength: 12 }), fc.constantFrom('en', 'de'), (numbers, language) => {
      const written = numbers.map(each => each.toLocaleString(language, { maximumFractionDigits: 3 }));
      const chain = compileChain([newStep('number.read', { decimal: decimalOf(written) })]);
      for (const [at, text] of written.entries()) {
        const read = chain.run(text);
        expect([numbers[at], 'asked']).toContain(typeof read === 'number' ? read : 'asked');
      }
    }),
  );
});
