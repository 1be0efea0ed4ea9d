import { sites } from '@grammata/practice';

const DAY = 86_400_000;

/** What was taken home from the river: jars with a label, the site’s code and how it looked. */
export const specimens = sites.slice(0, 6).map((site, at) => {
  const code = site.slice(site.indexOf('(') + 1, -1);
  return { label: `${code}-${1 + at * 3}`, site: code, state: ['clear', 'cloudy', 'dried out'][at % 3]! };
});

/** When each of them was put on its shelf, in ms since the epoch: the last ten days, oldest first. */
export const keptAt = (until: number): number[] =>
  specimens.map((_, at) => until - (10 - at * 1.5) * DAY - at * 3_700_000);
