import { decode } from '.';
import { hostile, type Hostile } from '../testing';

/** The least of a few measurements, in ms: what else the machine does only adds. */
function least(work: () => void, tries = 3): number {
  let best = Infinity;
  for (let at = 0; at < tries && best > 0; at++) {
    const started = performance.now();
    work();
    best = Math.min(best, performance.now() - started);
  }
  return best;
}

const timeOf = ({ body, query, contentType }: Hostile, n: number): number => {
  const [bytes, asked] = [body(n), query?.(n) ?? ''];
  return least(() => decode(bytes, contentType, asked));
};

/** Times below this, in ms, are more chance than work: a square still shows above it. */
const SHORTEST = 15;

/** A size at which reading takes long enough to be measured, and not longer. */
function sizeFor(each: Hostile): { n: number; ms: number } {
  let n = 250;
  let ms = timeOf(each, n);
  while (ms < SHORTEST / 2 && n < 64_000) {
    n *= 2;
    ms = timeOf(each, n);
  }
  return { n, ms };
}

/** Twice as much may take 2.5 times as long; measured over two doublings, since one is within what machines vary by. */
const MOST_GROWTH = 2.5 ** 2;

test.each(hostile.map(each => [each.name, each] as const))(
  '%s: twice as much takes at most 2.5 × as long',
  (_, each) => {
    const { n, ms } = sizeFor(each);
    const growths: number[] = [];
    // A machine that was busy in one of the measurements gets another chance.
    for (let at = 0; at < 3 && !growths.some(growth => growth <= MOST_GROWTH); at++)
      growths.push(timeOf(each, 4 * n) / Math.max(SHORTEST, at === 0 ? ms : timeOf(each, n)));
    expect(Math.min(...growths)).toBeLessThanOrEqual(MOST_GROWTH);
  },
);
