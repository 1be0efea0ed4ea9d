import { decode } from '.';
import { hostile, type Hostile } from '../testing';

/** Processor time of this process, in ms: unlike the clock's, it does not grow while others have the machine. */
function processorTime(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
}

/** The least of a few measurements, in ms: collecting garbage and compiling only add. */
function least(work: () => void, tries = 3): number {
  let best = Infinity;
  for (let at = 0; at < tries && best > 0; at++) {
    const started = processorTime();
    work();
    best = Math.min(best, processorTime() - started);
  }
  return best;
}

const timeOf = ({ body, query, contentType }: Hostile, n: number): number => {
  const [bytes, asked] = [body(n), query?.(n) ?? ''];
  return least(() => decode(bytes, contentType, asked));
};

/** Times below this, in ms, are more chance than work: a square still shows above it. */
const SHORTEST = 10;

/** A size at which reading takes long enough to be measured, and not longer. */
function sizeFor(each: Hostile): { n: number; ms: number } {
  let n = 32;
  let ms = timeOf(each, n);
  while (ms < SHORTEST / 2 && n < 32_000) {
    n *= 2;
    ms = timeOf(each, n);
  }
  return { n, ms };
}

const DOUBLINGS = 3;

/** Twice as much may take 2.5 times as long. Over three doublings what is linear makes 8 of these 15.6, a square 64. */
const MOST_GROWTH = 2.5 ** DOUBLINGS;

/** A measurement that something disturbed gets other chances; what grows too fast does so in each. */
const CHANCES = 6;

test.each(hostile.map(each => [each.name, each] as const))(
  '%s: twice as much takes at most 2.5 × as long',
  (_, each) => {
    const { n, ms } = sizeFor(each);
    const growths: number[] = [];
    for (let at = 0; at < CHANCES && !growths.some(growth => growth <= MOST_GROWTH); at++)
      growths.push(timeOf(each, 2 ** DOUBLINGS * n) / Math.max(SHORTEST, at === 0 ? ms : timeOf(each, n)));
    expect(Math.min(...growths)).toBeLessThanOrEqual(MOST_GROWTH);
  },
);

test('thousands of members of one file take as long for each as hundreds do', () => {
  // A square with a small factor does not show at the sizes above.
  const { body, contentType } = hostile.find(each => each.name === 'JSON: file members')!;
  const once = (n: number) => least(() => decode(body(n), contentType), 1);
  once(200);
  const [few, many] = [once(1500), once(6000)];
  expect(many / few).toBeLessThan(2.5 ** 2);
}, 60_000);
