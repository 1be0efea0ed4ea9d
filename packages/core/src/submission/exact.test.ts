import fc from 'fast-check';
import { exactJson, isExactNumber, parseJson } from '.';

// RFC 8259 §6: software may set limits on the range and precision of numbers; these are beyond what IEEE 754 binary64 holds.
test.each([
  ['{"id":12345678901234567890}', { id: '12345678901234567890' }],
  ['{"id": 9007199254740993}', { id: '9007199254740993' }],
  ['[1e400,-1E+400]', ['1e400', '-1E+400']],
  ['[0.1234567890123456789]', ['0.1234567890123456789']],
  ['12345678901234567890', '12345678901234567890'],
  // These are held as they are written.
  [
    '[9007199254740992,0.1,-0,1.50,1e21,1e-7,123456789.123456]',
    [9007199254740992, 0.1, -0, 1.5, 1e21, 1e-7, 123456789.123456],
  ],
  ['[100000000000000000000000]', [1e23]],
  // What stands in a text is not a number.
  [
    '{"a:12345678901234567890":"x:12345678901234567890, \\"12345678901234567891"}',
    { 'a:12345678901234567890': 'x:12345678901234567890, "12345678901234567891' },
  ],
])('%s', (text, value) => expect(parseJson(text)).toEqual(value));

test('how many numbers were kept as text is told', () =>
  expect(exactJson('[12345678901234567890, 1, 9007199254740993]').kept).toBe(2));

test('whatever numbers stand in it, their digits come out as they were written', () => {
  const digits = fc.tuple(fc.bigInt(), fc.nat(6)).map(([whole, places]) => {
    const text = String(whole);
    const at = text.length - places;
    return places > 0 && /^\d$/.test(text[at - 1] ?? '') ? `${text.slice(0, at)}.${text.slice(at)}` : text;
  });
  fc.assert(
    fc.property(digits, number => {
      const value = parseJson(`{"n":${number}}`) as { n: number | string };
      expect(typeof value.n === 'string').toBe(!isExactNumber(number));
      if (typeof value.n === 'string') expect(value.n).toBe(number);
      else expect(value.n).toBe(Number(number));
    }),
  );
});

test('what JSON writes is parsed as JSON does it', () =>
  fc.assert(
    fc.property(fc.jsonValue({ noUnicodeString: false } as never), value => {
      expect(parseJson(JSON.stringify(value))).toEqual(JSON.parse(JSON.stringify(value)));
    }),
  ));
