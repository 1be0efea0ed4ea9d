import { longestPause, pauseAfter, triesWithin } from './patience';

const HOUR = 3_600_000;

test.each([
  [1, 1000],
  [2, 2000],
  [11, 1_024_000],
  [12, 1_800_000],
  [5000, 1_800_000],
])('the longest pause after %d tries', (tried, pause) => expect(longestPause(tried)).toBe(pause));

test.each([0, 0.25, 0.5, 1])('a pause is between half of the longest and all of it: %d', random => {
  for (let tried = 1; tried < 40; tried++) {
    const share = pauseAfter(tried, random) / longestPause(tried);
    expect(share).toBeGreaterThanOrEqual(0.5);
    expect(share).toBeLessThanOrEqual(1);
  }
});

test('tries come from the first on, later and later, and to the end of the time', () => {
  expect([triesWithin(0), triesWithin(749), triesWithin(750)]).toEqual([[0], [0], [0, 750]]);
  for (const hours of [1, 24, 720]) {
    const times = triesWithin(hours * HOUR);
    const pauses = times.slice(1).map((at, index) => at - times[index]!);
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b));
    expect(hours * HOUR - times.at(-1)!).toBeLessThan(longestPause(times.length));
  }
});
