import { timesOf } from './SendRecorded';

// Days are those of whoever looks: from the beginning of the first to the end of the last.
const local = (text: string) => new Date(text).toISOString();

test.each([
  ['', '', {}],
  ['2026-11-04', '', { since: local('2026-11-04T00:00:00') }],
  ['', '2026-11-04', { until: local('2026-11-05T00:00:00') }],
  ['2026-10-24', '2026-10-25', { since: local('2026-10-24T00:00:00'), until: local('2026-10-26T00:00:00') }],
  ['2026-12-31', '2026-12-31', { since: local('2026-12-31T00:00:00'), until: local('2027-01-01T00:00:00') }],
])('from %s to %s', (from, to, times) => expect(timesOf({ from, to })).toEqual(times));
