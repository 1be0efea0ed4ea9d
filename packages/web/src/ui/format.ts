/** The person's languages, as the browser tells them. Dates and numbers are written so, with digits that suit the English words around them. */
const languages = typeof navigator === 'undefined' ? ['en-GB'] : [...navigator.languages];
const formatOf = (options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat =>
  new Intl.DateTimeFormat(languages, { numberingSystem: 'latn', ...options });

const minutes = { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' } as const;
const dayAndTime = formatOf(minutes);
const dayOfYear = formatOf({ ...minutes, year: 'numeric' });
const full = formatOf({ dateStyle: 'full', timeStyle: 'long' });
const exactly = formatOf({ ...minutes, year: 'numeric', second: '2-digit', timeZoneName: 'short' });
const time = formatOf({ hour: '2-digit', minute: '2-digit' });
const dayOnly = formatOf({ day: 'numeric', month: 'short', timeZone: 'UTC' });
const dayOfWeek = formatOf({ weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' });
const number = new Intl.NumberFormat(languages, { numberingSystem: 'latn' });

/** 4 Nov: a day of UTC. */
export const utcDay = (iso: string): string => dayOnly.format(new Date(iso));
/** Wed 4 Nov: a day of UTC. */
export const utcWeekday = (iso: string): string => dayOfWeek.format(new Date(iso));

/** 4 Nov, 08:12; with the year where it is another one. */
export function when(iso: string, now = new Date()): string {
  const at = new Date(iso);
  return (at.getFullYear() === now.getFullYear() ? dayAndTime : dayOfYear).format(at);
}
/** Wednesday 4 November 2026 at 08:12:07 GMT */
export const whenInFull = (iso: string): string => full.format(new Date(iso));
/** 4 Nov 2026, 08:12:07 GMT */
export const whenExactly = (iso: string): string => exactly.format(new Date(iso));

/** 1,204 */
export const count = (n: number): string => number.format(n);

/** `1 line`, `14 lines`. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${count(n)} ${n === 1 ? one : many}`;

/**
 * The beginning of a day (`2026-11-30`, where the browser is), or of one so many days after it, as a time in ISO 8601. By the calendar, not by
 * hours: a day may have 23 or 25 of them.
 */
export function midnight(day: string, after: number): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  return new Date(year, month - 1, date + after).toISOString();
}

/** Says what a search looked through, where that is not all that holds its words. */
export const ofNewest = (searched: number | null): string =>
  searched === null ? '' : ` of the newest ${count(searched)} submissions that hold these words`;

const list = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Register, Roster and Shelf. */
export const listed = (words: readonly string[]): string => list.format(words);

/** 1,204 bytes; 3.1 MB */
export const bytes = (n: number): string =>
  n < 10_000
    ? `${count(n)} ${n === 1 ? 'byte' : 'bytes'}`
    : n < 1e6
      ? `${Math.round(n / 1000)} kB`
      : `${(n / 1e6).toFixed(1).replace('.0', '')} MB`;

/** 40 s, 12 min, 3 h, 5 days. */
export function lasting(milliseconds: number): string {
  const seconds = Math.max(0, Math.round(milliseconds / 1000));
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min`;
  if (seconds < 48 * 3600) return `${Math.floor(seconds / 3600)} h`;
  return `${Math.floor(seconds / 86400)} days`;
}

/** `3 s ago` within the last day, `08:12` today, else the date. */
export function ago(iso: string, now: number): string {
  const past = now - Date.parse(iso);
  if (past < 24 * 3600_000) return past < 1000 ? 'just now' : `${lasting(past)} ago`;
  return when(iso);
}

export const clock = (iso: string): string => time.format(new Date(iso));

/** A span of hours in the words of its size: `90 seconds`, `24 hours`, `3 days`. */
export function span(hours: number): string {
  if (hours * 60 < 2) return counted(Math.round(hours * 3600), 'second');
  if (hours < 2) return counted(Math.round(hours * 60), 'minute');
  return hours <= 48 ? counted(Math.round(hours), 'hour') : counted(Math.round(hours / 24), 'day');
}

/** Things that read alike, each once and with how many there are, in the order in which they first came. */
export function alike<T>(things: readonly T[], wordsOf: (thing: T) => string): [first: T, times: number][] {
  const found = new Map<string, [T, number]>();
  for (const thing of things) {
    const known = found.get(wordsOf(thing));
    if (known) known[1] += 1;
    else found.set(wordsOf(thing), [thing, 1]);
  }
  return [...found.values()];
}
