import { statusesIn } from './Tries';

test.each<[string, number[] | RegExp]>([
  ['429, 503', [429, 503]],
  ['503;429 503', [429, 503]],
  ['', []],
  ['200', /“200” is no status that can be tried again/],
  ['429, soon', /“soon” is no status/],
  ['4290', /“4290”/],
])('statuses written as %s', (text, read) =>
  read instanceof RegExp ? expect(statusesIn(text)).toMatch(read) : expect(statusesIn(text)).toEqual(read),
);
