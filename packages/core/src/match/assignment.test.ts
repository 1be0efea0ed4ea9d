import fc from 'fast-check';
import { assigned } from './assignment';

const THRESHOLD = 0.5;

/** The greatest sum by trying everything: each row takes a free column, or nothing at the price of the threshold. */
function best(scores: number[][], row = 0, taken = new Set<number>()): number {
  if (row === scores.length) return 0;
  let greatest = THRESHOLD + best(scores, row + 1, taken);
  scores[row]!.forEach((score, column) => {
    if (taken.has(column) || score < THRESHOLD) return;
    greatest = Math.max(greatest, score + best(scores, row + 1, new Set([...taken, column])));
  });
  return greatest;
}

test('no column is taken twice, and no other choice has a greater sum', () => {
  const score = fc.integer({ min: 0, max: 100 }).map(each => each / 100);
  const table = fc
    .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }))
    .chain(([rows, columns]) =>
      fc.array(fc.array(score, { minLength: columns, maxLength: columns }), { minLength: rows, maxLength: rows }),
    );
  fc.assert(
    fc.property(table, scores => {
      const chosen = assigned(
        scores.map(row => row.map(each => ({ score: each }))),
        THRESHOLD,
      );
      const taken = chosen.filter(column => column >= 0);
      expect(new Set(taken).size).toBe(taken.length);
      const sum = chosen.reduce((total, column, row) => total + (column < 0 ? THRESHOLD : scores[row]![column]!), 0);
      expect(sum).toBeCloseTo(best(scores), 9);
    }),
  );
});

test('nothing to choose from is nothing chosen', () => {
  expect(assigned([], THRESHOLD)).toEqual([]);
  expect(assigned([[], []], THRESHOLD)).toEqual([-1, -1]);
});
