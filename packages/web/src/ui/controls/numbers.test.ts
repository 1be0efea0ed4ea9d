import fc from 'fast-check';
import { numberIn, numberText } from './numbers';

test.each<[string, number | null]>([
  ['30', 30],
  [' 30 ', 30],
  ['0', 0],
  ['1.5', 1.5],
  ['1,5', 1.5],
  ['.5', 0.5],
  ['-3', -3],
  // What is no number is never taken for one, nor for nothing.
  ['3o', NaN],
  ['ten', NaN],
  ['1e3', NaN],
  ['0x10', NaN],
  ['1,204', NaN],
  ['1 204', NaN],
  ['Infinity', NaN],
  ['', NaN],
])('%j is read as %d', (text, number) => expect(numberIn(text)).toBe(number));

test('an empty box means nothing only where nothing is allowed', () => {
  expect([numberIn('', 'null'), numberIn('  ', 'null'), numberIn('3o', 'null')]).toEqual([null, null, NaN]);
});
test('megabytes are counted in whole bytes', () => {
  expect([numberIn('10', 'missing', 1e6), numberIn('0.0021', 'missing', 1e6)]).toEqual([10_000_000, 2100]);
});
test('what is written of a number is read as that number', () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.constantFrom(1, 1000, 1e6), (number, per) => {
      const whole = number * per;
      expect(numberIn(numberText(whole, per), 'missing', per)).toBe(whole === 0 ? 0 : whole);
    }),
  );
  expect([numberText(null), numberText(undefined), numberText(NaN)]).toEqual(['', '', '']);
});
