import fc from 'fast-check';
import { chanceOfBoth, chanceOfNone, chanceOfOneSide, chanceOfOnlyHere, shareOfLook } from './chance';

/** C(n, k) p^k (1-p)^(n-k): the binomial distribution as it is defined. */
const binomial = (n: number, k: number, p: number): number => {
  let ways = 1;
  for (let each = 0; each < k; each++) ways *= (n - each) / (each + 1);
  return ways * p ** k * (1 - p) ** (n - k);
};

test('the chance of only here is the tail of the binomial by its definition, and none on the other side', () =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 40 }), fc.nat(40), fc.integer({ min: 1, max: 40 }), (of, others, wanted) => {
      const times = Math.min(of, wanted);
      const p = times / (of + others);
      const tail = Array.from({ length: of - times + 1 }, (_, at) => binomial(of, times + at, p)).reduce(
        (a, b) => a + b,
        0,
      );
      const expected = p >= 1 ? 1 : tail * (1 - p) ** others;
      expect(chanceOfOnlyHere(times, of, others)).toBeCloseTo(expected, 8);
    }),
  ));

test('it is a chance, and the smaller the more there was where it was not seen', () => {
  for (const others of [0, 5, 20, 80]) {
    const chance = chanceOfOnlyHere(4, 12, others);
    expect(chance).toBeGreaterThanOrEqual(0);
    expect(chance).toBeLessThanOrEqual(1);
    if (others > 0) expect(chance).toBeLessThan(chanceOfOnlyHere(4, 12, others / 5));
  }
});

// By hand: (½·2½ / …) as the beta-binomial's product, and 3/10 · 2/9 as the hypergeometric tail.
test.each<[string, number, number]>([
  ['none of two after none missing of three', chanceOfNone(3, 3, 2), (0.5 / 4) * (1.5 / 5)],
  ['both sightings among three on one side, seven on the other', chanceOfOneSide(2, 3, 7), (3 / 10) * (2 / 9)],
  ['nothing asked of nothing', chanceOfNone(3, 3, 0), 1],
])('%s', (_, chance, expected) => expect(chance).toBeCloseTo(expected, 12));

test('what all looks spend together stays below one, however many there are', () => {
  let spent = 0;
  for (let look = 2; look <= 200_000; look++) spent += shareOfLook(look);
  // From there on the integral of 1 / (n ln² n), which is 1 / ln n.
  expect(spent + 1 / (2.11 * Math.log(200_000))).toBeLessThan(1);
  expect(spent).toBeGreaterThan(0.9);
});

test.each([
  [1, 1, 1],
  [0, 0.3, 0],
  // Of two uniform chances the product is below ¼ with ¼ + ¼ ln 4.
  [0.5, 0.5, 0.25 + 0.25 * Math.log(4)],
])('two chances of %f and %f together', (one, other, both) => expect(chanceOfBoth(one, other)).toBeCloseTo(both, 12));
