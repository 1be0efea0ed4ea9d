import { statusesIn } from './Tries';

test.each<[string, number[] | RegExp]>([
  ['429, 503', [429, 503]],
  ['503;429 503', [429, 503]],
  ['', []],
  ['200', /“200” can’t be retried/],
  ['429, soon', /“soon” can’t be retried/],
  ['4290', /“4290”/],
])('statuses written as %s', (text, read) =>
  read instanceof RegExp ? expect(statusesIn(text)).toMatch(read) : expect(statusesIn(text)).toEqual(read),
);
